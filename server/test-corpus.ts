import { deflateSync } from 'node:zlib';
import sharp, { type Sharp } from 'sharp';
import { pngChunk } from './test-profiles.ts';

/** A file as somebody might bring it in, and what should come of it. */
export interface OddFile {
  name: string;
  bytes: Buffer;
  /** Taken; taken with a notice; or refused with this status and words of the sentence. */
  wanted: 'taken' | 'noticed' | { status: number; says: string };
}

const width = 96;
const height = 64;
export type Kind = 'jpeg' | 'png' | 'webp' | 'avif' | 'gif' | 'tiff';
export const kinds: Kind[] = ['jpeg', 'png', 'webp', 'avif', 'gif', 'tiff'];

/** Ripples with some grain: every part of the coded data matters. */
function pixels(channels: 1 | 3 | 4): Buffer {
  const out = Buffer.alloc(width * height * channels);
  for (let k = 0; k < out.length; k++) out[k] = (128 + 90 * Math.sin(k * 0.013) + ((k * 7919) % 31)) & 255;
  return out;
}

const ripple = (channels: 1 | 3 | 4 = 3): Sharp => sharp(pixels(channels), { raw: { width, height, channels } });

const damaged = { status: 422, says: 'damaged or was cut short' };
const unknown = { status: 415, says: 'is not a picture' };

function flipped(bytes: Buffer, from: number, count: number): Buffer {
  const out = Buffer.from(bytes);
  for (let k = 0; k < count; k++) out[Math.floor(from + ((out.length - from) * k) / (count + 1))]! ^= 0x5a;
  return out;
}

/** Good pictures of all kinds, as cameras, scanners and programs write them. */
async function goodFiles(): Promise<OddFile[]> {
  const made: [string, Sharp][] = [
    ['progressive.jpg', ripple().jpeg({ progressive: true })],
    ['grey.jpg', ripple(1).toColourspace('b-w').jpeg()],
    ['cmyk.jpg', ripple().toColourspace('cmyk').jpeg()],
    ['full colour.jpg', ripple().jpeg({ chromaSubsampling: '4:4:4' })],
    ['poor.jpg', ripple().jpeg({ quality: 1 })],
    ['palette.png', ripple().png({ palette: true, colours: 8 })],
    ['grey.png', ripple(1).toColourspace('b-w').png()],
    ['interlaced.png', ripple().png({ progressive: true })],
    ['sixteen.png', ripple().toColourspace('rgb16').png()],
    ['alpha.png', ripple(4).png()],
    ['lossless.webp', ripple(4).webp({ lossless: true })],
    ['lossy alpha.webp', ripple(4).webp({ quality: 40 })],
    ['tiles.tif', ripple().tiff({ tile: true, tileWidth: 32, tileHeight: 32 })],
    ['lzw.tif', ripple().tiff({ compression: 'lzw', predictor: 'horizontal' })],
    ['deflate.tif', ripple().tiff({ compression: 'deflate' })],
    ['pyramid.tif', ripple().tiff({ pyramid: true, tile: true })],
    ['sixteen.tif', ripple().toColourspace('rgb16').tiff()],
    ['one pixel.png', ripple().resize(1, 1, { fit: 'fill' }).png()],
    ['a row.png', ripple().resize(400, 1, { fit: 'fill' }).png()],
    ['a column.gif', ripple().resize(1, 300, { fit: 'fill' }).gif()],
    ['lossless.avif', ripple().avif({ lossless: true })],
    ['deep.avif', ripple().avif({ bitdepth: 8, quality: 30 })],
  ];
  for (const [name, format] of [
    ['frames.gif', 'gif'],
    ['frames.webp', 'webp'],
  ] as const)
    made.push([
      name,
      sharp([await ripple().png().toBuffer(), await ripple(4).png().toBuffer()], { join: { animated: true } }).toFormat(
        format,
      ),
    ]);
  for (const kind of ['jpeg', 'png', 'webp', 'tiff'] as const)
    made.push([`wide gamut.${kind}`, ripple().withIccProfile('p3').toFormat(kind)]);
  for (let turn = 1; turn <= 8; turn++)
    made.push([`turned ${turn}.jpg`, ripple().jpeg().withMetadata({ orientation: turn })]);
  const out: OddFile[] = [];
  for (const [name, picture] of made) out.push({ name, bytes: await picture.toBuffer(), wanted: 'taken' });
  return out;
}

/** Names that systems and people give files, with a good picture in them. */
async function namedFiles(): Promise<OddFile[]> {
  const bytes = await ripple().jpeg().toBuffer();
  const names = [
    '港の灯り.jpg',
    'مرفأ ويندل.jpg',
    'Причал.jpg',
    '🏮👩‍👩‍👧‍👦 Lantern Week.jpg',
    'no ending',
    '.hidden',
    'two.dots.jpg',
    '../../etc/lantern.jpg',
    'C:\\quay\\lantern.jpg',
    'a "quoted" name.jpg',
    '<img src=x>.jpg',
    "it's 100 % quay.jpg",
    'wrong ending.txt',
    ' spaces .jpg',
    `${'very '.repeat(60)}long.jpg`,
    `${'🏮'.repeat(180)}.jpg`,
    'e\u0301cole.jpg',
  ];
  return names.map((name): OddFile => ({ name, bytes, wanted: 'taken' }));
}

/** Every kind cut short and with bytes turned over, at several places. */
async function brokenFiles(): Promise<OddFile[]> {
  const out: OddFile[] = [];
  for (const kind of kinds) {
    const bytes = await ripple().toFormat(kind).toBuffer();
    for (const share of [0.1, 0.5, 0.9]) {
      const cut = bytes.subarray(0, Math.floor(bytes.length * share));
      // The rows that are there can be read where the directory lies in front of them.
      const wanted = kind === 'tiff' && share === 0.9 ? 'noticed' : damaged;
      out.push({ name: `cut at ${share * 100}.${kind}`, bytes: cut, wanted });
    }
    out.push({ name: `only a head.${kind}`, bytes: bytes.subarray(0, 40), wanted: damaged });
    out.push({ name: `trailing.${kind}`, bytes: Buffer.concat([bytes, Buffer.from('tide table')]), wanted: 'taken' });
  }
  // Other kinds hold no checksum: what is turned over in them decodes to other pixels, and nobody can tell.
  for (const kind of ['png', 'avif'] as const) {
    const bytes = await ripple().toFormat(kind).toBuffer();
    for (const share of [0.3, 0.4, 0.5, 0.6, 0.7])
      out.push({ name: `flipped ${share}.${kind}`, bytes: flipped(bytes, bytes.length * share, 9), wanted: damaged });
  }
  const jpeg = await ripple().jpeg().toBuffer();
  const end = Buffer.from([0xff, 0xd9]);
  for (const share of [0.4, 0.6, 0.8]) {
    const half = Buffer.concat([jpeg.subarray(0, Math.floor(jpeg.length * share)), end]);
    out.push({ name: `ended at ${share * 100}.jpg`, bytes: half, wanted: 'noticed' });
  }
  const png = await ripple().png().toBuffer();
  const sum = Buffer.from(png);
  const data = sum.indexOf('IDAT');
  sum[data + 4 + sum.readUInt32BE(data - 4)]! ^= 1;
  out.push({ name: 'wrong checksum.png', bytes: sum, wanted: 'noticed' });
  out.push({ name: 'no end.png', bytes: png.subarray(0, png.length - 12), wanted: 'taken' });
  return out;
}

/** A PNG that says it has a size, with little in it. */
function declared(w: number, h: number): Buffer {
  const header = Buffer.alloc(13);
  header.writeUInt32BE(w, 0);
  header.writeUInt32BE(h, 4);
  header.set([8, 2, 0, 0, 0], 8);
  return Buffer.concat([
    Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]),
    pngChunk('IHDR', header),
    pngChunk('IDAT', deflateSync(Buffer.alloc(1000))),
    pngChunk('IEND', Buffer.alloc(0)),
  ]);
}

/** What is far too large, or says it is. */
function largeFiles(): OddFile[] {
  return [
    { name: 'bomb.png', bytes: declared(60_000, 60_000), wanted: { status: 413, says: '3600 megapixels' } },
    { name: 'most.png', bytes: declared(2 ** 31 - 1, 2 ** 31 - 1), wanted: { status: 422, says: 'damaged' } },
    { name: 'a thread.png', bytes: declared(60_000_000, 1), wanted: { status: 413, says: '60,000,000 pixels' } },
    { name: 'a long strip.png', bytes: declared(40_000, 20), wanted: { status: 413, says: '40,000 pixels long' } },
    { name: 'a tower.png', bytes: declared(20, 20_001), wanted: { status: 413, says: '20,001 pixels long' } },
    { name: 'nothing wide.png', bytes: declared(0, 40), wanted: damaged },
    { name: 'says much.png', bytes: declared(4000, 3000), wanted: damaged },
  ];
}

/** What is no picture at all, whatever it is called. */
function otherFiles(): OddFile[] {
  const text = (name: string, words: string, wanted: OddFile['wanted'] = unknown): OddFile => ({
    name,
    bytes: Buffer.from(words, 'latin1'),
    wanted,
  });
  const svg = '<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><rect width="9" height="9"/></svg>';
  return [
    text('empty.jpg', '', { status: 400, says: 'is empty' }),
    text('one byte.jpg', 'x'),
    text('tide table.txt', 'High water 7:40\n'.repeat(200)),
    text('page.jpg', '<!doctype html><script>alert(1)</script>'),
    text('drawing.svg', svg, { status: 415, says: 'svg that Clyvo cannot read' }),
    text('outside.svg', svg.replace('<rect', '<image href="file:///etc/passwd"/><rect'), { status: 415, says: 'svg' }),
    text('archive.zip', 'PK\x03\x04'.padEnd(300, '\0')),
    text('document.pdf', '%PDF-1.4\n1 0 obj'),
    text('program.png', '\x7fELF\x02\x01\x01'.padEnd(300, '\0')),
    text('sound.wav', 'RIFF\x24\0\0\0WAVEfmt '.padEnd(100, '\0')),
    text('clip.jpg', '\0\0\0\x18ftypisom'.padEnd(300, '\0')),
    text('zeros.png', '\0'.repeat(5000)),
    text('noise.webp', Array.from({ length: 3000 }, (_, k) => String.fromCharCode((k * 7919) & 255)).join('')),
    text('head.jpg', '\xff\xd8\xff', damaged),
    text('head.png', '\x89PNG\r\n\x1a\n', damaged),
    text('head.gif', 'GIF89a', damaged),
    text('head.tif', 'II*\0\x08\0\0\0', damaged),
    text('head.webp', 'RIFF\x10\0\0\0WEBPVP8 ', damaged),
    text('head.avif', '\0\0\0\x1cftypavif\0\0\0\0avifmif1miaf', damaged),
  ];
}

/** Over 120 files, good, odd and bad, made here. */
export async function oddFiles(): Promise<OddFile[]> {
  return [...(await goodFiles()), ...(await namedFiles()), ...(await brokenFiles()), ...largeFiles(), ...otherFiles()];
}
