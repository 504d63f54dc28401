import { readFile } from 'node:fs/promises';
import { parseArgs } from 'node:util';
import { boundsOf } from '../core/pixels/raster.ts';
import { rebuild as rebuildHole } from '../core/rebuild/fill.ts';
import { barredBy, noGuides } from '../core/rebuild/guides.ts';
import { guidesSchema } from '../core/document/plate.ts';
import { numbered, readMask, readPicture, UsageError, wholeNumber, withTold, writePng } from './pictures.ts';

async function readGuides(path: string | undefined) {
  if (!path) return noGuides;
  const text = await readFile(path, 'utf8').catch(() => {
    throw new UsageError(`There is no file "${path}".`);
  });
  try {
    return guidesSchema.partial().parse(JSON.parse(text));
  } catch {
    throw new UsageError(
      `"${path}" does not hold guides like {"lines":[{"from":[x,y],"to":[x,y]}],"from":[{"radius":20,"points":[[x,y]]}],"never":[]}.`,
    );
  }
}

/** `clyvo rebuild`: continues the surroundings of a masked region into it, in one or several takes. */
export async function rebuild(args: string[]): Promise<Record<string, unknown>> {
  const { values } = parseArgs({
    args,
    options: {
      in: { type: 'string' },
      mask: { type: 'string' },
      out: { type: 'string' },
      seed: { type: 'string', default: '1' },
      takes: { type: 'string', default: '1' },
      guides: { type: 'string' },
    },
  });
  if (!values.in || !values.mask || !values.out)
    throw new UsageError('rebuild needs --in picture, --mask mask.png and --out plate.png.');
  const seed = wholeNumber('seed', values.seed, 0);
  const count = wholeNumber('takes', values.takes, 1);
  const guides = { ...noGuides, ...(await readGuides(values.guides)) };
  const picture = await readPicture(values.in);
  const hole = await readMask(values.mask, picture);
  if (!boundsOf(hole)) throw new UsageError(`The mask "${values.mask}" is black everywhere; what is white is rebuilt.`);
  const barred = barredBy(guides, picture.width, picture.height);
  const takes: { out: string; seed: number; milliseconds: number }[] = [];
  for (let k = 0; k < count; k++) {
    const started = performance.now();
    const plate = await withTold(() => rebuildHole({ picture, hole, seed: seed + k, barred, lines: guides.lines }));
    const out = count === 1 ? values.out : numbered(values.out, k + 1);
    await writePng(out, plate);
    takes.push({ out, seed: seed + k, milliseconds: Math.round(performance.now() - started) });
  }
  const share = hole.data.reduce((sum, v) => sum + v, 0) / hole.data.length;
  const size = { width: picture.width, height: picture.height, rebuilt: Number(share.toFixed(4)) };
  return count === 1 ? { ...size, seed, milliseconds: takes[0]!.milliseconds } : { ...size, takes };
}
