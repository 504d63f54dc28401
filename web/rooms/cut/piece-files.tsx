import { Download, FileInput } from 'lucide-react';
import type { Piece } from '../../../core/document/document.ts';
import { uploadPixels } from '../../data/api.ts';
import { notify, notifyError } from '../../data/notices.ts';
import { download } from '../../parts/download.ts';
import { FileButton } from '../../parts/file-button.tsx';
import type { CutPixels } from './cut-session.ts';
import type { CutPanelProps } from './cut-tools.ts';

type Kind = 'trimmed' | 'full' | 'alpha';

/** Saves a piece as it is shown: trimmed, as large as its picture, or its alpha alone as grey. */
export function PieceOut({ piece, pixels }: { piece: Piece; pixels: CutPixels | null }) {
  const save = async (kind: Kind): Promise<void> => {
    const canvas = kind === 'alpha' ? greyAlpha(pixels!) : kind === 'full' ? pixels!.cutout : trimmed(pixels!);
    if (!canvas) return notify('problem', 'There is nothing in this piece yet.');
    const name = kind === 'alpha' ? `${piece.name} alpha` : piece.name;
    download(await canvas.convertToBlob({ type: 'image/png' }), `${name}.png`);
  };
  return (
    <label className="flex items-center gap-1.5 text-[13px]">
      <Download size={14} />
      <select
        aria-label="Save the piece"
        className="h-8 min-w-0 flex-1 rounded-md border border-line bg-paper px-1.5 font-medium"
        value=""
        disabled={!pixels}
        onChange={(event) => {
          save(event.target.value as Kind).catch((error: unknown) => notifyError(error));
        }}
      >
        <option value="" disabled>
          Save as PNG
        </option>
        <option value="trimmed">Piece, trimmed</option>
        <option value="full">Piece, size of the picture</option>
        <option value="alpha">Its alpha alone</option>
      </select>
    </label>
  );
}

function greyAlpha({ alpha }: CutPixels): OffscreenCanvas {
  const canvas = new OffscreenCanvas(alpha.width, alpha.height);
  const context = canvas.getContext('2d')!;
  context.fillStyle = '#000000';
  context.fillRect(0, 0, alpha.width, alpha.height);
  context.drawImage(alpha, 0, 0);
  return canvas;
}

/** The part of the piece that is not empty; null where all of it is. */
function trimmed({ cutout }: CutPixels): OffscreenCanvas | null {
  const { width, height } = cutout;
  const { data } = cutout.getContext('2d')!.getImageData(0, 0, width, height);
  let [left, top, right, bottom] = [width, height, -1, -1];
  for (let i = 0; i < width * height; i++) {
    if (data[i * 4 + 3] === 0) continue;
    const [x, y] = [i % width, Math.floor(i / width)];
    [left, right] = [Math.min(left, x), Math.max(right, x)];
    [top, bottom] = [Math.min(top, y), Math.max(bottom, y)];
  }
  if (right < 0) return null;
  const canvas = new OffscreenCanvas(right - left + 1, bottom - top + 1);
  canvas.getContext('2d')!.drawImage(cutout, -left, -top);
  return canvas;
}

/** Takes a mask from a picture file: its alpha where it has one, its brightness otherwise. */
export function MaskIn({ session, begin }: CutPanelProps) {
  const take = async (file: File): Promise<void> => {
    const { width, height } = session.pixels!.picture;
    const mask = await maskOf(file, width, height);
    begin({ kind: 'mask', file: await uploadPixels(mask), x: 0, y: 0 }, 'Mask from file');
  };
  return (
    <FileButton
      label="Mask file"
      accept="image/png,image/webp,image/jpeg"
      icon={<FileInput size={14} />}
      disabled={!session.pixels}
      onFile={take}
    >
      Mask from a file
    </FileButton>
  );
}

async function maskOf(file: File, width: number, height: number): Promise<Blob> {
  const bitmap = await createImageBitmap(file).catch(() => {
    throw new Error('No mask can be read from this file. Use a PNG.');
  });
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d', { willReadFrequently: true })!;
  context.imageSmoothingQuality = 'high';
  context.drawImage(bitmap, 0, 0, width, height);
  bitmap.close();
  const image = context.getImageData(0, 0, width, height);
  const { data } = image;
  let clear = false;
  for (let i = 3; i < data.length && !clear; i += 4) clear = data[i]! < 250;
  for (let i = 0; i < data.length; i += 4) {
    const grey = 0.2126 * data[i]! + 0.7152 * data[i + 1]! + 0.0722 * data[i + 2]!;
    data[i + 3] = clear ? data[i + 3]! : Math.round(grey);
    data[i] = data[i + 1] = data[i + 2] = 255;
  }
  context.putImageData(image, 0, 0);
  return canvas.convertToBlob({ type: 'image/png' });
}
