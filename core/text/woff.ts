import { unzlibSync } from 'fflate';

/** Bytes of all tables together; the largest fonts there are have less. */
const mostUnpacked = 120e6;

/** The signature of a WOFF file, "wOFF". */
export const woffSignature = 0x774f4646;

/**
 * The plain font within a WOFF file (W3C WOFF File Format 1.0, section 4 and 5): its tables, unpacked, under a table
 * directory as OpenType has it.
 * @throws RangeError where the file says what is not there; errors of the unpacking
 */
export function unpackedWoff(bytes: Uint8Array): Uint8Array {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const count = view.getUint16(12);
  let unpacked = 0;
  const tables = Array.from({ length: count }, (_, k) => {
    const entry = 44 + 20 * k;
    const [tag, offset, packed, length, checksum] = [0, 4, 8, 12, 16].map((at) => view.getUint32(entry + at)) as [
      number,
      number,
      number,
      number,
      number,
    ];
    if (offset + packed > bytes.length) throw new RangeError('a table lies beyond the file');
    unpacked += length;
    if (unpacked > mostUnpacked) throw new RangeError('its tables are larger than any font');
    const data = bytes.subarray(offset, offset + packed);
    return { tag, checksum, data: packed < length ? inflated(data, length) : data };
  });
  const start = 12 + 16 * count;
  const size = tables.reduce((sum, { data }) => sum + padded(data.length), start);
  const out = new Uint8Array(size);
  const write = new DataView(out.buffer);
  const power = 2 ** Math.floor(Math.log2(Math.max(1, count)));
  write.setUint32(0, view.getUint32(4));
  [count, 16 * power, Math.log2(power), 16 * (count - power)].forEach((v, k) => write.setUint16(4 + 2 * k, v));
  let at = start;
  tables.forEach(({ tag, checksum, data }, k) => {
    [tag, checksum, at, data.length].forEach((v, n) => write.setUint32(12 + 16 * k + 4 * n, v));
    out.set(data, at);
    at += padded(data.length);
  });
  return out;
}

const padded = (length: number): number => Math.ceil(length / 4) * 4;

function inflated(data: Uint8Array, length: number): Uint8Array {
  // Never more than it says: a few bytes could stand for very many.
  const out = unzlibSync(data, { out: new Uint8Array(length) });
  if (out.length !== length) throw new RangeError('a table is not as long as it says');
  return out;
}
