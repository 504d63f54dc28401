import '../data/without-eval.ts';
import {
  carryFigure,
  carriedSize,
  lookedThrough,
  type FilmFrames,
  type KeyMask,
} from '../../core/film/carry-figure.ts';
import type { Motion } from '../../core/film/camera-motion.ts';
import type { PlateFrame } from '../../core/film/ground-plate.ts';
import { shadowReach, wholeGround } from '../../core/make/whole-ground.ts';
import { dilate } from '../../core/pixels/distance.ts';
import { alphaOf, type Bytes, type Rgba } from '../../core/pixels/raster.ts';
import { Cancelled } from '../../core/pixels/progress.ts';
import type { FigureRecipe } from '../../core/document/recipe.ts';
import { byKind } from './by-kind.ts';
import { breathe, progressFor } from './cancelling.ts';
import { openClip } from './open-clip.ts';
import type { FrameReader } from './frame-reader.ts';
import { figureRequestSchema, type FigureAnswer, type FigureRequest } from './figure-messages.ts';
import { FrameWindow } from './frame-window.ts';
import { learnedLook } from './learned.ts';
import { OpenPicture } from './open-picture.ts';
import { MatteMaker } from './matte-maker.ts';
import { fileUrlOf, loadFile, loadPixels, pixelsOfBitmap, pngOf } from './pixels.ts';

const answer = (message: FigureAnswer): void => self.postMessage(message);
let stop = false;

self.onmessage = ({ data }: MessageEvent<unknown>) => {
  const message = figureRequestSchema.parse(data);
  if (message.kind === 'cancel') stop = true;
  else
    run(message).catch((error: unknown) => {
      answer({ kind: 'failed', message: error instanceof Error ? error.message : String(error) });
    });
};

type Wanted = Exclude<FigureRequest, { kind: 'cancel' }>;

async function run(message: Wanted): Promise<void> {
  const reader = await openClip(await loadFile(fileUrlOf(message.file)), 'The clip');
  try {
    await byKind<Wanted, Promise<void>>(message, {
      carry: (order) => carry(reader, order),
      ground: ({ mattes }) => ground(reader, mattes),
    });
    answer({ kind: 'finished', cancelled: false });
  } catch (error) {
    if (!(error instanceof Cancelled)) throw error;
    answer({ kind: 'finished', cancelled: true });
  } finally {
    reader.close();
  }
}

type Order = Extract<FigureRequest, { kind: 'carry' }>;

async function carry(reader: FrameReader, { recipe, from, to }: Order): Promise<void> {
  const frames = framesOf(reader);
  const mattes = new MatteMaker();
  try {
    const keys = await keyMasks(frames, recipe, from, to);
    await carryFigure(frames, keys, [from, to], {
      report: (share, doing) => answer({ kind: 'progress', share, doing }),
      take: (frame, picture, soft, changed) =>
        mattes.make(picture, soft, (matte) => answer({ kind: 'cut', frame, matte, changed })),
      between,
    });
  } finally {
    // What was carried so far is kept, also where it was stopped.
    await mattes.done().finally(() => mattes.close());
  }
}

/** Frames of which a ground is made, and pixels around a figure that may be tinted by it. */
const groundFrames = 21;
const rim = 3;

async function ground(reader: FrameReader, mattes: readonly (string | null)[]): Promise<void> {
  const frames = framesOf(reader);
  const doing = 'Looking behind the figure';
  const { motions } = await lookedThrough(frames, async (share) => {
    answer({ kind: 'progress', share: share * 0.3, doing });
    await between();
  });
  const stride = Math.max(1, Math.ceil(frames.count / groundFrames));
  const seen: PlateFrame[] = [];
  for (let k = 0; k < frames.count; k += stride) {
    const matte = mattes[k];
    const figure = matte ? dilate(maskOf(alphaOf(await loadPixels(fileUrlOf(matte))), 1), rim) : null;
    const near = figure ? { near: dilate(figure, shadowReach * reader.facts.width) } : {};
    seen.push({ picture: (await frames.frame(k)).whole(), motion: enlarged(motions[k]!, reader), figure, ...near });
    answer({ kind: 'progress', share: 0.3 + (0.3 * k) / frames.count, doing });
    await between();
  }
  answer({ kind: 'progress', share: 0.6, doing: 'Filling what no frame shows' });
  const progress = progressFor(
    (_, share) => answer({ kind: 'progress', share: 0.6 + 0.4 * share, doing: 'Filling what no frame shows' }),
    () => stop,
  );
  const { picture, x, y, filled } = await wholeGround(seen, progress);
  const bounds = { x, y, width: picture.width, height: picture.height };
  answer({ kind: 'ground', picture: await pngOf(picture), bounds, filled });
}

/** A motion found at the size masks are carried at, in pixels of the clip. */
function enlarged({ a, b, tx, ty }: Motion, { facts }: FrameReader): Motion {
  const scale = facts.width / carriedSize(facts.width, facts.height).width;
  return { a, b, tx: tx * scale, ty: ty * scale };
}

/** Lets a wish to stop be heard. @throws Cancelled */
async function between(): Promise<void> {
  await breathe();
  if (stop) throw new Cancelled();
}

/** The masks of the keys around some frames, and where work is taken up again that of the frame before it. */
async function keyMasks(frames: FilmFrames, recipe: FigureRecipe, from: number, to: number): Promise<KeyMask[]> {
  const look = await learnedLook();
  const load = (file: string): Promise<Rgba> => loadPixels(fileUrlOf(file));
  const keys: KeyMask[] = [];
  const [before] = recipe.keys.filter((key) => key.frame <= from).slice(-1);
  const after = recipe.keys.find((key) => key.frame >= to - 1);
  // Those further off say nothing about the frames that are wanted.
  const near = recipe.keys.filter(({ frame }) => frame >= (before?.frame ?? 0) && frame <= (after?.frame ?? Infinity));
  for (const key of near) {
    answer({ kind: 'progress', share: 0, doing: 'Finding the figure' });
    await between();
    const picture = (await frames.frame(key.frame)).whole();
    const open = new OpenPicture(String(key.frame), picture, look);
    keys.push({ frame: key.frame, mask: await open.maskOfKey('first', key, load) });
  }
  const last = from > 0 && !recipe.keys.some((key) => key.frame === from - 1) ? recipe.mattes[from - 1] : null;
  const isKey = recipe.keys.some((key) => key.frame === from);
  if (last && !isKey) keys.push({ frame: from - 1, mask: maskOf(alphaOf(await load(last))) });
  return keys;
}

/** @param least alpha that counts as the figure */
const maskOf = ({ width, height, data }: Bytes, least = 128): Bytes => ({
  width,
  height,
  data: data.map((a) => (a >= least ? 1 : 0)),
});

function framesOf(reader: FrameReader): FilmFrames {
  const frames = new FrameWindow(reader);
  const { width, height } = reader.facts;
  const size = carriedSize(width, height);
  const canvas = new OffscreenCanvas(size.width, size.height);
  const context = canvas.getContext('2d', { willReadFrequently: true })!;
  context.imageSmoothingQuality = 'medium';
  return {
    count: reader.facts.frames,
    frame: async (index) => {
      const bitmap = await frames.frame(index);
      context.drawImage(bitmap, 0, 0, size.width, size.height);
      return { small: context.getImageData(0, 0, size.width, size.height), whole: () => pixelsOfBitmap(bitmap) };
    },
  };
}
