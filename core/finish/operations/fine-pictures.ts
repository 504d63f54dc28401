import type { FinishPixels } from '../finish.ts';
import type { FinishKernel } from './memory.ts';

/** Pixels as the kernel reads them between each other (assembly/finish/fine.ts), with a clear one all around. */
export interface FinePicture {
  width: number;
  height: number;
  /** Bytes from row to row, and in all. */
  row: number;
  bytes: number;
  /** Which pixel of the whole picture, or which pair, is the first. */
  left: number;
  top: number;
  /** What it is made of, instead of the pixels. */
  of?: FinePicture;
  /** Makes it at an address. @param from where `of` is */
  make(kernel: FinishKernel, to: number, from: number): void;
}

/** From the first to the last column or row. */
export type Extent = readonly [first: number, last: number];

const sized = (width: number, height: number): Pick<FinePicture, 'width' | 'height' | 'row' | 'bytes'> => {
  const row = (width + 2) * 8;
  return { width, height, row, bytes: row * (height + 2) + 16 };
};

/** Columns or rows between two places, as far as there are any. */
export function extentOf(from: number, to: number, size: number): Extent {
  const within = (place: number): number => Math.max(0, Math.min(size - 1, place));
  return [within(Math.floor(from)), within(Math.ceil(to))];
}

/** Every pixel of a part. */
export function partOf({ data, width }: FinishPixels, columns: Extent, rows: Extent): FinePicture {
  const [left, top] = [columns[0], rows[0]];
  const [wide, high] = [columns[1] - left + 1, rows[1] - top + 1];
  const from = data.byteOffset + (top * width + left) * 4;
  return { ...sized(wide, high), left, top, make: (kernel, to) => kernel.toFine(from, width, wide, high, to) };
}

/** The means of two pixels each: of neighbours in a row or, upright, in a column. */
export function pairsOf({ data, width, height }: FinishPixels, upright: boolean): FinePicture {
  const size = upright ? sized(width, Math.ceil(height / 2)) : sized(Math.ceil(width / 2), height);
  const make: FinePicture['make'] = (kernel, to) => kernel.toPairs(data.byteOffset, width, height, upright ? 1 : 0, to);
  return { ...size, left: 0, top: 0, make };
}

/** The means of two pairs each that follow one another. */
export function foursOf(pairs: FinePicture, upright: boolean): FinePicture {
  const { width, height } = pairs;
  const size = upright ? sized(width, Math.ceil(height / 2)) : sized(Math.ceil(width / 2), height);
  const make: FinePicture['make'] = (kernel, to, from) => kernel.toFours(from, width, height, upright ? 1 : 0, to);
  return { ...size, left: 0, top: 0, of: pairs, make };
}
