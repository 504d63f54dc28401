import { readFile } from 'node:fs/promises';
import { parseArgs } from 'node:util';
import { z } from 'zod';
import { bandRadius, estimateAlpha } from '../core/cut/alpha.ts';
import type { Stroke } from '../core/cut/strokes.ts';
import { CutPicture } from '../core/cut/cut-picture.ts';
import { CutSession } from '../core/cut/subject.ts';
import { readSvg } from '../core/formats/svg/outlines.ts';
import { UnreadableSvg } from '../core/formats/svg/tree.ts';
import { alphaOfShapes, plainShape } from '../core/path/shapes.ts';
import { colouredBy } from '../core/make/cut-piece.ts';
import { asMuchAsThere, goneOn, onPlainGround, withColoursGoingOn } from '../core/pixels/emptiness.ts';
import { boundsOf, cropRgba, type Bytes, type Rect, type Rgba } from '../core/pixels/raster.ts';
import { learnedLook } from './learned.ts';
import { readPicture, UsageError, writePng } from './pictures.ts';

const strokeSchema = z.object({
  radius: z.number().positive(),
  points: z.array(z.tuple([z.number(), z.number()])).min(1),
  turn: z.number().int().nonnegative().optional(),
});
const strokesSchema = z.object({ keep: z.array(strokeSchema).default([]), drop: z.array(strokeSchema).default([]) });

async function readStrokes(path: string | undefined): Promise<{ keep: Stroke[]; drop: Stroke[] }> {
  if (!path) return { keep: [], drop: [] };
  const text = await readFile(path, 'utf8').catch(() => {
    throw new UsageError(`There is no file "${path}".`);
  });
  try {
    return strokesSchema.parse(JSON.parse(text));
  } catch {
    throw new UsageError(`"${path}" does not hold strokes like {"keep":[{"radius":12,"points":[[x,y]]}],"drop":[]}.`);
  }
}

function readBox(text: string | undefined): Rect | null {
  if (text === undefined) return null;
  const numbers = text.split(',').map(Number);
  if (numbers.length !== 4 || numbers.some((n) => !Number.isFinite(n)) || numbers[2]! <= 0 || numbers[3]! <= 0) {
    throw new UsageError(`--box takes x,y,width,height in picture pixels, not "${text}".`);
  }
  const [x, y, width, height] = numbers as [number, number, number, number];
  return { x, y, width, height };
}

function readPlace(text: string | undefined, { width, height }: Rgba): [number, number] | undefined {
  if (text === undefined) return undefined;
  const [x, y, ...more] = text.split(',').map(Number) as [number, number, ...number[]];
  if (more.length > 0 || !(x >= 0 && x < width && y >= 0 && y < height))
    throw new UsageError(`--at takes x,y within the picture's ${width} x ${height} pixels, not "${text}".`);
  return [x, y];
}

/** `clyvo cut`: the subject of a picture as a PNG with alpha. */
export async function cut(args: string[]): Promise<Record<string, unknown>> {
  const { values } = parseArgs({
    args,
    options: {
      in: { type: 'string' },
      out: { type: 'string' },
      answer: { type: 'string', default: 'foreground' },
      box: { type: 'string' },
      at: { type: 'string' },
      strokes: { type: 'string' },
      alpha: { type: 'string' },
      trim: { type: 'boolean', default: false },
      path: { type: 'string' },
    },
  });
  if (!values.in || !values.out) throw new UsageError('cut needs --in picture and --out piece.png.');
  const { answer } = values;
  if (answer !== 'foreground' && answer !== 'subject')
    throw new UsageError(`--answer is foreground or subject, not "${answer}".`);
  const box = readBox(values.box);
  const strokes = await readStrokes(values.strokes);
  const picture = await readPicture(values.in);
  if (values.path) {
    if (values.box || values.strokes || values.at)
      throw new UsageError('--path takes no --box, no --at and no --strokes beside it.');
    return writePiece(values, picture, await alphaOfSvg(values.path, picture), { path: values.path });
  }
  const started = performance.now();
  const at = readPlace(values.at, picture);
  const session = new CutSession(new CutPicture(onPlainGround(picture), await learnedLook()));
  const { mask } = session.solve({ answer, box, at, ...strokes });
  const masked = performance.now();
  const alpha = estimateAlpha(withColoursGoingOn(picture), goneOn(mask, picture));
  const matted = performance.now();
  if (!boundsOf(mask))
    throw new UsageError(`Nothing was found in "${values.in}"; a box or strokes can show what to take.`);
  const milliseconds = { mask: Math.round(masked - started), alpha: Math.round(matted - masked) };
  const band = bandRadius(picture.width, picture.height);
  return writePiece(values, picture, alpha, { answer, band, milliseconds });
}

interface Wanted {
  in?: string;
  out?: string;
  alpha?: string;
  trim?: boolean;
}

/** Writes the piece, and its alpha where that is wanted; says what was written. */
async function writePiece(
  { in: from, out, alpha: alphaOut, trim }: Wanted,
  picture: Rgba,
  alpha: Bytes,
  facts: Record<string, unknown>,
): Promise<Record<string, unknown>> {
  const taken = asMuchAsThere(alpha, picture);
  const bounds = boundsOf(taken);
  if (!bounds) throw new UsageError(`Nothing of "${from}" lies inside.`);
  const piece = colouredBy(picture, { alpha: taken, colours: null }, taken);
  await writePng(out!, trim ? cropRgba(piece, bounds) : piece);
  if (alphaOut) await writePng(alphaOut, taken);
  const covered = taken.data.reduce((sum, a) => sum + a, 0) / 255 / taken.data.length;
  const { width, height } = picture;
  return { width, height, covered: Number(covered.toFixed(4)), bounds, ...facts };
}

/** Alpha of the outlines in an SVG file, stretched to the picture. */
async function alphaOfSvg(path: string, { width, height }: Rgba): Promise<Bytes> {
  const text = await readFile(path, 'utf8').catch(() => {
    throw new UsageError(`There is no file "${path}".`);
  });
  try {
    const outlines = readSvg(text, width, height);
    const shapes = outlines.map((outline, k) => ({ ...plainShape, id: `outline-${k}`, ...outline }));
    return alphaOfShapes(shapes, width, height);
  } catch (error) {
    if (error instanceof UnreadableSvg) throw new UsageError(`"${path}": ${error.message}`);
    throw error;
  }
}
