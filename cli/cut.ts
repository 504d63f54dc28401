import { readFile } from 'node:fs/promises';
import { parseArgs } from 'node:util';
import { z } from 'zod';
import { bandRadius, estimateAlpha } from '../core/cut/alpha.ts';
import { cleanColours } from '../core/cut/foreground-colours.ts';
import type { Stroke } from '../core/cut/strokes.ts';
import { CutSession } from '../core/cut/subject.ts';
import { boundsOf, cropRgba, type Rect } from '../core/pixels/raster.ts';
import { readPicture, UsageError, writePng } from './pictures.ts';

const strokeSchema = z.object({
  radius: z.number().positive(),
  points: z.array(z.tuple([z.number(), z.number()])).min(1),
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

/** `clyvo cut`: the subject of a picture as a PNG with alpha. */
export async function cut(args: string[]): Promise<Record<string, unknown>> {
  const { values } = parseArgs({
    args,
    options: {
      in: { type: 'string' },
      out: { type: 'string' },
      answer: { type: 'string', default: 'foreground' },
      box: { type: 'string' },
      strokes: { type: 'string' },
      alpha: { type: 'string' },
      trim: { type: 'boolean', default: false },
    },
  });
  if (!values.in || !values.out) throw new UsageError('cut needs --in picture and --out piece.png.');
  const { answer } = values;
  if (answer !== 'foreground' && answer !== 'subject')
    throw new UsageError(`--answer is foreground or subject, not "${answer}".`);
  const box = readBox(values.box);
  const strokes = await readStrokes(values.strokes);
  const picture = await readPicture(values.in);
  const started = performance.now();
  const { mask } = new CutSession(picture).solve({ answer, box, ...strokes });
  const masked = performance.now();
  const alpha = estimateAlpha(picture, mask);
  const matted = performance.now();
  const piece = cleanColours(picture, alpha);
  const cleaned = performance.now();
  if (!boundsOf(mask))
    throw new UsageError(`Nothing was found in "${values.in}"; a box or strokes can show what to take.`);
  const bounds = boundsOf(alpha)!;
  await writePng(values.out, values.trim ? cropRgba(piece, bounds) : piece);
  if (values.alpha) await writePng(values.alpha, alpha);
  const covered = alpha.data.reduce((sum, a) => sum + a, 0) / 255 / alpha.data.length;
  return {
    width: picture.width,
    height: picture.height,
    answer,
    covered: Number(covered.toFixed(4)),
    bounds,
    band: bandRadius(picture.width, picture.height),
    milliseconds: {
      mask: Math.round(masked - started),
      alpha: Math.round(matted - masked),
      colours: Math.round(cleaned - matted),
    },
  };
}
