import { carryFigure, carriedSize, type FilmFrames, type KeyMask } from '../../core/film/carry-figure.ts';
import { alphaOf, type Bytes, type Rgba } from '../../core/pixels/raster.ts';
import { Cancelled } from '../../core/pixels/progress.ts';
import type { FigureRecipe } from '../../core/document/recipe.ts';
import { breathe } from './cancelling.ts';
import { ClipReader } from './clip-reader.ts';
import { figureRequestSchema, type FigureAnswer, type FigureRequest } from './figure-messages.ts';
import { FrameWindow } from './frame-window.ts';
import { learnedLook } from './learned.ts';
import { OpenPicture } from './open-picture.ts';
import { MatteMaker } from './matte-maker.ts';
import { fileUrlOf, loadFile, loadPixels, pixelsOfBitmap } from './pixels.ts';

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

type Order = Extract<FigureRequest, { kind: 'carry' }>;

async function run({ file, recipe, from, to }: Order): Promise<void> {
  const reader = await ClipReader.open(await loadFile(fileUrlOf(file)), 'The clip');
  const frames = framesOf(reader);
  const mattes = new MatteMaker();
  try {
    const keys = await keyMasks(frames, recipe, from);
    await carryFigure(frames, keys, [from, to], {
      report: (share, doing) => {
        answer({ kind: 'progress', share, doing });
      },
      take: (frame, picture, soft, changed) =>
        mattes.make(picture, soft, (matte) => answer({ kind: 'cut', frame, matte, changed })),
      between,
    });
    await mattes.done();
    answer({ kind: 'finished', cancelled: false });
  } catch (error) {
    if (!(error instanceof Cancelled)) throw error;
    await mattes.done();
    answer({ kind: 'finished', cancelled: true });
  } finally {
    mattes.close();
    reader.close();
  }
}

/** Lets a wish to stop be heard. @throws Cancelled */
async function between(): Promise<void> {
  await breathe();
  if (stop) throw new Cancelled();
}

/** The masks of all keys, and where work is taken up again that of the frame before it. */
async function keyMasks(frames: FilmFrames, recipe: FigureRecipe, from: number): Promise<KeyMask[]> {
  const look = await learnedLook();
  const load = (file: string): Promise<Rgba> => loadPixels(fileUrlOf(file));
  const keys: KeyMask[] = [];
  for (const key of recipe.keys) {
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

const maskOf = ({ width, height, data }: Bytes): Bytes => ({
  width,
  height,
  data: data.map((a) => (a >= 128 ? 1 : 0)),
});

function framesOf(reader: ClipReader): FilmFrames {
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
