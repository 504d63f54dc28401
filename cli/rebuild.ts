import { parseArgs } from 'node:util';
import { boundsOf } from '../core/pixels/raster.ts';
import { NothingToContinue, rebuild as rebuildHole } from '../core/rebuild/fill.ts';
import { readMask, readPicture, UsageError, writePng } from './pictures.ts';

/** `clyvo rebuild`: continues the surroundings of a masked region into it. */
export async function rebuild(args: string[]): Promise<Record<string, unknown>> {
  const { values } = parseArgs({
    args,
    options: {
      in: { type: 'string' },
      mask: { type: 'string' },
      out: { type: 'string' },
      seed: { type: 'string', default: '1' },
    },
  });
  if (!values.in || !values.mask || !values.out)
    throw new UsageError('rebuild needs --in picture, --mask mask.png and --out plate.png.');
  const seed = Number(values.seed);
  if (!Number.isInteger(seed) || seed < 0) throw new UsageError(`--seed is a whole number, not "${values.seed}".`);
  const picture = await readPicture(values.in);
  const hole = await readMask(values.mask, picture);
  if (!boundsOf(hole)) throw new UsageError(`The mask "${values.mask}" is black everywhere; what is white is rebuilt.`);
  const started = performance.now();
  try {
    const plate = await rebuildHole({ picture, hole, seed });
    const milliseconds = Math.round(performance.now() - started);
    await writePng(values.out, plate);
    const share = hole.data.reduce((sum, v) => sum + v, 0) / hole.data.length;
    return { width: picture.width, height: picture.height, rebuilt: Number(share.toFixed(4)), seed, milliseconds };
  } catch (error) {
    if (error instanceof NothingToContinue) throw new UsageError(error.message);
    throw error;
  }
}
