import crc32 from 'crc-32';

/** Thrown when a frame is no PNG, or another kind of PNG than those before it. */
export class UnfitFrame extends Error {
  constructor() {
    super('A frame could not be put into the moving picture. Export it as numbered pictures instead.');
    this.name = 'UnfitFrame';
  }
}

const signature = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a];

interface Chunk {
  type: string;
  data: Uint8Array;
}

/**
 * Puts PNGs of one size and kind together into a moving PNG (APNG: PNG specification, third edition, W3C 2025). Pixels are taken as
 * they are packed, so that nothing is encoded twice and nothing is lost.
 */
export class MovingPng {
  private readonly parts: Uint8Array[] = [];
  private header: Uint8Array | null = null;
  private sequence = 0;
  private added = 0;

  /** @param frames how many will be added  @param plays how often it plays; 0 for ever */
  constructor(
    private readonly frames: number,
    private readonly plays = 0,
  ) {}

  /**
   * Adds a frame, which replaces the one before with all its transparency.
   * @param png as a browser writes it  @param delay how long it is seen, in seconds as a fraction
   * @throws UnfitFrame
   */
  add(png: Uint8Array, delay: { numerator: number; denominator: number }): void {
    const chunks = chunksOf(png);
    const header = chunks.find(({ type }) => type === 'IHDR')?.data;
    if (!header || header.length !== 13) throw new UnfitFrame();
    if (!this.header) this.begin(header);
    else if (!header.every((byte, k) => byte === this.header![k])) throw new UnfitFrame();
    const view = new DataView(header.buffer, header.byteOffset);
    this.put('fcTL', frameControl(this.sequence++, view.getUint32(0), view.getUint32(4), delay));
    for (const { type, data } of chunks) {
      if (type !== 'IDAT') continue;
      if (this.added === 0) this.put('IDAT', data);
      else {
        const numbered = new Uint8Array(data.length + 4);
        new DataView(numbered.buffer).setUint32(0, this.sequence++);
        numbered.set(data, 4);
        this.put('fdAT', numbered);
      }
    }
    this.added++;
  }

  /** The file, in parts. @throws UnfitFrame when fewer or more frames were added than were said */
  finish(): readonly Uint8Array[] {
    if (this.added !== this.frames) throw new UnfitFrame();
    this.put('IEND', new Uint8Array());
    return this.parts;
  }

  private begin(header: Uint8Array): void {
    this.header = header;
    this.parts.push(Uint8Array.from(signature));
    this.put('IHDR', header);
    const control = new Uint8Array(8);
    new DataView(control.buffer).setUint32(0, this.frames);
    new DataView(control.buffer).setUint32(4, this.plays);
    this.put('acTL', control);
  }

  private put(type: string, data: Uint8Array): void {
    const chunk = new Uint8Array(data.length + 12);
    const view = new DataView(chunk.buffer);
    view.setUint32(0, data.length);
    for (let k = 0; k < 4; k++) chunk[4 + k] = type.charCodeAt(k);
    chunk.set(data, 8);
    view.setUint32(8 + data.length, crc32.buf(chunk.subarray(4, 8 + data.length)) >>> 0);
    this.parts.push(chunk);
  }
}

/** All of the frame, put in the place of what was there. */
function frameControl(
  sequence: number,
  width: number,
  height: number,
  { numerator, denominator }: { numerator: number; denominator: number },
): Uint8Array {
  const data = new Uint8Array(26);
  const view = new DataView(data.buffer);
  view.setUint32(0, sequence);
  view.setUint32(4, width);
  view.setUint32(8, height);
  view.setUint16(20, numerator);
  view.setUint16(22, denominator);
  return data;
}

function chunksOf(png: Uint8Array): Chunk[] {
  if (!signature.every((byte, k) => png[k] === byte)) throw new UnfitFrame();
  const view = new DataView(png.buffer, png.byteOffset, png.byteLength);
  const chunks: Chunk[] = [];
  for (let at = 8; at + 12 <= png.length;) {
    const length = view.getUint32(at);
    if (at + 12 + length > png.length) throw new UnfitFrame();
    const type = String.fromCharCode(...png.subarray(at + 4, at + 8));
    chunks.push({ type, data: png.subarray(at + 8, at + 8 + length) });
    at += 12 + length;
  }
  return chunks;
}
