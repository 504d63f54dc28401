import { crc32, deflateSync } from 'node:zlib';

/** RGB spaces as ICC sees them: colourants adapted to D50 (columns of the matrix to XYZ) and the curve of a channel. */
export interface RgbSpace {
  name: string;
  /** Rows X, Y, Z; columns red, green, blue. */
  toXyz: [number, number, number][];
  gamma: number | 'srgb';
}

/** D50-adapted colourants as their specifications give them (IEC 61966-2-1, Adobe RGB (1998), SMPTE EG 432-1, ISO 22028-2). */
export const spaces: RgbSpace[] = [
  {
    name: 'sRGB',
    gamma: 'srgb',
    toXyz: [
      [0.4360747, 0.3850649, 0.1430804],
      [0.2225045, 0.7168786, 0.0606169],
      [0.0139322, 0.0971045, 0.7141733],
    ],
  },
  {
    name: 'Adobe RGB (1998)',
    gamma: 563 / 256,
    toXyz: [
      [0.6097559, 0.2052401, 0.149224],
      [0.3111242, 0.625656, 0.0632197],
      [0.0194811, 0.0608902, 0.7448387],
    ],
  },
  {
    name: 'Display P3',
    gamma: 'srgb',
    toXyz: [
      [0.5151187, 0.2919778, 0.1571035],
      [0.2411892, 0.6922441, 0.0665668],
      [-0.0010505, 0.0418791, 0.7840713],
    ],
  },
  {
    name: 'ProPhoto RGB',
    gamma: 1.8,
    toXyz: [
      [0.7976749, 0.1351917, 0.0313534],
      [0.2880402, 0.7118741, 0.0000857],
      [0, 0, 0.82521],
    ],
  },
];

/** XYZ at D50 to linear sRGB: the inverse of the first space's matrix. */
const toSrgb = [
  [3.1338561, -1.6168667, -0.4906146],
  [-0.9787684, 1.9161415, 0.033454],
  [0.0719453, -0.2289914, 1.4052427],
];

const decoded = (v: number, gamma: RgbSpace['gamma']): number =>
  gamma !== 'srgb' ? v ** gamma : v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4;
const encoded = (v: number): number => (v <= 0.0031308 ? v * 12.92 : 1.055 * v ** (1 / 2.4) - 0.055);

/** What a colour of a space (0..1) is in sRGB (0..255), by the matrices alone; beyond 0..255 where sRGB cannot show it. */
export function inSrgb(space: RgbSpace, colour: readonly number[]): number[] {
  const linear = colour.map((v) => decoded(v, space.gamma));
  const xyz = space.toXyz.map((row) => row.reduce((sum, m, k) => sum + m * linear[k]!, 0));
  return toSrgb.map((row) => 255 * encoded(row.reduce((sum, m, k) => sum + m * xyz[k]!, 0)));
}

/** A matrix profile of ICC.1:2010 (version 2.4) for a space. */
export function profileOf(space: RgbSpace): Buffer {
  const fixed = (v: number): Buffer => {
    const b = Buffer.alloc(4);
    b.writeInt32BE(Math.round(v * 65536));
    return b;
  };
  const xyz = (v: readonly number[]): Buffer => Buffer.concat([Buffer.from('XYZ \0\0\0\0', 'latin1'), ...v.map(fixed)]);
  const text = Buffer.from(`${space.name}\0`, 'latin1');
  const count = (n: number): Buffer => {
    const b = Buffer.alloc(4);
    b.writeUInt32BE(n);
    return b;
  };
  const description = Buffer.concat([
    Buffer.from('desc\0\0\0\0', 'latin1'),
    count(text.length),
    text,
    Buffer.alloc(78),
  ]);
  const samples = 1024;
  const curve = Buffer.alloc(12 + samples * 2);
  curve.write('curv', 'latin1');
  curve.writeUInt32BE(samples, 8);
  for (let k = 0; k < samples; k++)
    curve.writeUInt16BE(Math.round(65535 * decoded(k / (samples - 1), space.gamma)), 12 + k * 2);
  const column = (k: number): number[] => space.toXyz.map((row) => row[k]!);
  const tags: [string, Buffer][] = [
    ['desc', description],
    ['cprt', Buffer.concat([Buffer.from('text\0\0\0\0', 'latin1'), Buffer.from('Wendle Quay\0')])],
    ['wtpt', xyz([0.9642, 1, 0.8249])],
    ['rXYZ', xyz(column(0))],
    ['gXYZ', xyz(column(1))],
    ['bXYZ', xyz(column(2))],
    ['rTRC', curve],
    ['gTRC', curve],
    ['bTRC', curve],
  ];
  const bodies: Buffer[] = [];
  const table: Buffer[] = [count(tags.length)];
  let at = 128 + 4 + tags.length * 12;
  for (const [name, body] of tags) {
    const padded = Buffer.concat([body, Buffer.alloc((4 - (body.length % 4)) % 4)]);
    table.push(Buffer.from(name, 'latin1'), count(at), count(body.length));
    bodies.push(padded);
    at += padded.length;
  }
  const header = Buffer.alloc(128);
  header.writeUInt32BE(at, 0);
  header.writeUInt32BE(0x02400000, 8);
  header.write('mntrRGB XYZ ', 12, 'latin1');
  header.write('acsp', 36, 'latin1');
  fixed(0.9642).copy(header, 68);
  fixed(1).copy(header, 72);
  fixed(0.8249).copy(header, 76);
  return Buffer.concat([header, ...table, ...bodies]);
}

/** A chunk of PNG: length, type, data, checksum. */
export function pngChunk(type: string, data: Buffer): Buffer {
  const body = Buffer.concat([Buffer.from(type, 'latin1'), data]);
  const out = Buffer.alloc(body.length + 8);
  out.writeUInt32BE(data.length);
  body.copy(out, 4);
  out.writeUInt32BE(crc32(body), body.length + 4);
  return out;
}

/** A PNG of RGB colours (0..1), one a column, 8 rows high, that says it is in a space. */
export function pngIn(space: RgbSpace, colours: readonly (readonly number[])[], bits: 8 | 16): Buffer {
  const most = 2 ** bits - 1;
  const row = Buffer.alloc(1 + (colours.length * 3 * bits) / 8);
  colours.flat().forEach((v, k) => {
    if (bits === 8) row[1 + k] = Math.round(v * most);
    else row.writeUInt16BE(Math.round(v * most), 1 + k * 2);
  });
  const header = Buffer.alloc(13);
  header.writeUInt32BE(colours.length, 0);
  header.writeUInt32BE(8, 4);
  header.set([bits, 2, 0, 0, 0], 8);
  const profile = Buffer.concat([Buffer.from('space\0\0', 'latin1'), deflateSync(profileOf(space))]);
  return Buffer.concat([
    Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]),
    pngChunk('IHDR', header),
    pngChunk('iCCP', profile),
    pngChunk('IDAT', deflateSync(Buffer.concat(Array.from({ length: 8 }, () => row)))),
    pngChunk('IEND', Buffer.alloc(0)),
  ]);
}
