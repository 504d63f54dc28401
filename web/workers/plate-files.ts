import { boundsOf } from '../../core/pixels/raster.ts';
import { onLargerGround } from '../../core/rebuild/widen.ts';
import {
  makeBehind,
  makeStep,
  takePart,
  type MadeStep,
  type PlatePixels,
  type PlateWork,
} from '../../core/make/make-plate.ts';
import type { PlateOrder, PlateStep } from '../../core/document/plate.ts';
import type { MadeStepFile } from './plate-messages.ts';
import { fileUrlOf, loadPixels, pngOf } from './pixels.ts';

/** The plate after the first `index` steps of a picture; the picture itself before the first. */
export async function plateBefore({ picture }: PlateWork, index: number): Promise<PlatePixels> {
  const step = picture.background?.steps[index - 1];
  if (!step) return { plate: await loadPixels(fileUrlOf(picture.file)), x: 0, y: 0 };
  return { plate: await loadPixels(fileUrlOf(step.file)), x: step.bounds.x, y: step.bounds.y };
}

/** Makes a step and what is stored of it. */
export async function makeFiles(
  order: PlateOrder,
  before: PlatePixels,
  work: PlateWork,
  whole: boolean,
): Promise<{ made: MadeStep; file: MadeStepFile }> {
  let share: number | null = null;
  let made: MadeStep;
  if (order.kind === 'behind') {
    const behind = await makeBehind(order, work);
    share = behind.share;
    made = { plate: behind.plate, x: 0, y: 0, changed: boundsOf(behind.hole) };
  } else made = await makeStep(order, before, work);
  return { made, file: await filesOf(made, share, whole) };
}

export async function filesOf(made: MadeStep, share: number | null, whole: boolean): Promise<MadeStepFile> {
  const { plate, x, y } = made;
  const part = takePart(made);
  const [pixels, png] = await Promise.all([part && pngOf(part.part), whole ? pngOf(plate) : null]);
  return {
    plate: png,
    bounds: { x, y, width: plate.width, height: plate.height },
    take: part && pixels ? { pixels, bounds: part.bounds } : null,
    share,
  };
}

/**
 * Makes the steps from `from` on again. A take that is kept and chosen is put in place as it is when nothing before it
 * changed; everything else is computed.
 */
export async function makeAgain(steps: readonly PlateStep[], from: number, work: PlateWork): Promise<MadeStepFile[]> {
  const before = await plateBefore(work, from);
  const kept = steps[from] && (await keptTake(steps[from], before));
  if (!kept) return makeOn(steps.slice(from), before, work);
  const { plate, x, y } = kept;
  const bounds = { x, y, width: plate.width, height: plate.height };
  const first = { plate: await pngOf(plate), bounds, take: null, share: null };
  return [first, ...(await makeOn(steps.slice(from + 1), kept, work))];
}

/** Makes steps one on the other. */
export async function makeOn(
  steps: readonly PlateStep[],
  before: PlatePixels,
  work: PlateWork,
): Promise<MadeStepFile[]> {
  const out: MadeStepFile[] = [];
  let ground = before;
  for (const step of steps) {
    const { made, file } = await makeFiles(step, ground, work, true);
    ground = made;
    out.push(file);
  }
  return out;
}

async function keptTake(step: PlateStep, before: PlatePixels): Promise<PlatePixels | null> {
  if (!('takes' in step) || step.kind === 'behind' || step.mix.length > 0) return null;
  const take = step.takes.find((t) => t.seed === step.seed);
  if (!take) return null;
  const pixels = await loadPixels(fileUrlOf(take.file));
  const pad = step.kind === 'widen' ? step.pad : { left: 0, top: 0, right: 0, bottom: 0 };
  const plate = onLargerGround(before.plate, pad).picture;
  const [x, y] = [before.x - pad.left, before.y - pad.top];
  for (let row = 0; row < pixels.height; row++) {
    const to = ((take.bounds.y - y + row) * plate.width + take.bounds.x - x) * 4;
    plate.data.set(pixels.data.subarray(row * pixels.width * 4, (row + 1) * pixels.width * 4), to);
  }
  return { plate, x, y };
}
