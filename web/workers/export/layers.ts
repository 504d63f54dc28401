import { Zip, ZipPassThrough, strToU8 } from 'fflate';
import { openRaster, writeStack, type StackLayer } from '../../../core/formats/openraster.ts';
import type { ExportWork, ExportWriter } from './writer.ts';

interface Packed {
  layers: StackLayer[];
  files: Map<string, Uint8Array>;
}

/** Every layer of a frame by itself, cut to what is seen of it, nearest first; null when it was cancelled. */
async function packed({ canvas, context, order, layers, report }: ExportWork, folder: string): Promise<Packed | null> {
  const out: Packed = { layers: [], files: new Map() };
  for (const [k, { name, opacity, blend, paint }] of layers().entries()) {
    if (!(await paint())) return null;
    const box = visibleBox(context.getImageData(0, 0, order.width, order.height));
    report(k + 1);
    if (!box) continue;
    const src = `${folder}/${String(out.layers.length + 1).padStart(3, '0')}.png`;
    const part = new OffscreenCanvas(box.width, box.height);
    part.getContext('2d')!.drawImage(canvas, -box.x, -box.y);
    out.files.set(src, await pngOf(part));
    out.layers.push({ name, src, x: box.x, y: box.y, opacity, visible: true, blend });
  }
  return out;
}

/** One frame in layers for another program (OpenRaster 0.0.6). */
export const writeOpenRaster: ExportWriter = async (work) => {
  const { canvas, order, paint } = work;
  const found = await packed(work, 'data');
  if (!found || !(await paint(0))) return null;
  const { width, height } = order;
  const small = Math.min(1, openRaster.thumbnailEdge / Math.max(width, height));
  const thumbnail = new OffscreenCanvas(
    Math.max(1, Math.round(width * small)),
    Math.max(1, Math.round(height * small)),
  );
  thumbnail.getContext('2d')!.drawImage(canvas, 0, 0, thumbnail.width, thumbnail.height);
  const stack = writeStack({ width, height, layers: found.layers });
  return zipped(openRaster.type, [
    // The first entry says what it is, unpacked, so that it stands at a fixed place of the file.
    ['mimetype', strToU8(openRaster.type)],
    [openRaster.stack, strToU8(stack)],
    ...found.files,
    [openRaster.merged, await pngOf(canvas)],
    [openRaster.thumbnail, await pngOf(thumbnail)],
  ]);
};

/** One frame in layers as PNGs, with a JSON that says where each lies. */
export const writeLayers: ExportWriter = async (work) => {
  const found = await packed(work, 'layers');
  if (!found) return null;
  const { width, height } = work.order;
  const layers = found.layers.map(({ src: file, visible: _, ...layer }) => ({ file, ...layer }));
  const places = { width, height, order: 'nearest first', layers };
  return zipped('application/zip', [['layers.json', strToU8(JSON.stringify(places, null, 2))], ...found.files]);
};

/** Files in a ZIP, unpacked: PNGs are packed already. */
function zipped(type: string, files: [string, Uint8Array][]): Blob {
  const parts: Uint8Array[] = [];
  let failed: Error | null = null;
  const zip = new Zip((error, part) => {
    if (error) failed = error;
    else parts.push(part);
  });
  for (const [name, bytes] of files) {
    const entry = new ZipPassThrough(name);
    zip.add(entry);
    entry.push(bytes, true);
  }
  zip.end();
  if (failed) throw failed as Error;
  return new Blob(parts as Uint8Array<ArrayBuffer>[], { type });
}

const pngOf = async (canvas: OffscreenCanvas): Promise<Uint8Array> =>
  new Uint8Array(await (await canvas.convertToBlob({ type: 'image/png' })).arrayBuffer());

/** The smallest box around what is visible; null where nothing is. */
function visibleBox({ data, width, height }: ImageData) {
  let [left, top, right, bottom] = [width, height, -1, -1];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      if (data[(y * width + x) * 4 + 3] === 0) continue;
      left = Math.min(left, x);
      right = Math.max(right, x);
      top = Math.min(top, y);
      bottom = y;
    }
  return right < 0 ? null : { x: left, y: top, width: right - left + 1, height: bottom - top + 1 };
}
