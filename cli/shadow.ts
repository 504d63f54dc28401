import { parseArgs } from 'node:util';
import { boundsOf, makeBytes, makeRgba, pasteRgba } from '../core/pixels/raster.ts';
import { partedShadow } from '../core/rebuild/shadow-layer.ts';
import { judgedShadow } from '../core/rebuild/shadow-plate.ts';
import { readMask, readPicture, UsageError, withTold, writePng } from './pictures.ts';

/** `clyvo shadow`: parts a soft shadow from its ground. The shadow laid over the plate gives the picture again. */
export async function shadow(args: string[]): Promise<Record<string, unknown>> {
  const { values } = parseArgs({
    args,
    options: {
      in: { type: 'string' },
      mask: { type: 'string' },
      'plate-out': { type: 'string' },
      'shadow-out': { type: 'string' },
    },
  });
  const { in: from, mask, 'plate-out': plateOut, 'shadow-out': shadowOut } = values;
  if (!from || !mask || !plateOut || !shadowOut)
    throw new UsageError(
      'shadow needs --in picture, --mask region.png, --plate-out plate.png and --shadow-out shadow.png.',
    );
  const picture = await readPicture(from);
  const region = await readMask(mask, picture);
  if (!boundsOf(region)) throw new UsageError(`The mask "${mask}" is black everywhere; paint white over the shadow.`);
  const started = performance.now();
  const nothing = makeBytes(picture.width, picture.height);
  const { clean, alpha } = await withTold(() => judgedShadow(picture, region, nothing, {}));
  const { ground, shadow: parted } = partedShadow(picture, clean, alpha, nothing);
  const layer = makeRgba(picture.width, picture.height);
  if (parted) pasteRgba(layer, parted.layer, parted.bounds.x, parted.bounds.y);
  await writePng(plateOut, ground);
  await writePng(shadowOut, layer);
  const darkest = alpha.data.reduce((most, a) => Math.max(most, a), 0) / 255;
  return {
    width: picture.width,
    height: picture.height,
    darkest: Number(darkest.toFixed(3)),
    milliseconds: Math.round(performance.now() - started),
  };
}
