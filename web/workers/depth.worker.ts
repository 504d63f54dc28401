import '../data/without-eval.ts';
import { behindSteps, type FillSteps } from '../../core/depth/behind.ts';
import { drawnDepth } from '../../core/depth/depth-map.ts';
import { guessedDepth } from '../../core/depth/guess.ts';
import { slicedByDepth } from '../../core/depth/slice.ts';
import { readDepthPng, writeDepthPng } from '../../core/formats/depth-png.ts';
import type { Bytes, Plane, Rgba } from '../../core/pixels/raster.ts';
import { quickFill } from '../../core/rebuild/quick-fill.ts';
import { NothingToContinue, rebuild } from '../../core/rebuild/fill.ts';
import { byKind } from './by-kind.ts';
import { depthRequestSchema, type DepthAnswer, type DepthRequest } from './depth-messages.ts';
import { learnedLook } from './learned.ts';
import { fileUrlOf, loadPixels, pngOf } from './pixels.ts';

const answer = (message: DepthAnswer): void => self.postMessage(message);

/** One order for each worker; whoever does not want it any more ends the worker. */
self.onmessage = ({ data }: MessageEvent<unknown>) => {
  const message = depthRequestSchema.parse(data);
  handle(message).catch((error: unknown) => {
    const message = error instanceof Error ? error.message : String(error);
    answer({ kind: 'failed', message, nothingBehind: error instanceof NothingToContinue });
  });
};

const handle = (message: DepthRequest): Promise<void> =>
  byKind<DepthRequest, Promise<void>>(message, {
    draw: async ({ file, strokes }) => tell(await drawnDepth(await loadPixels(fileUrlOf(file)), strokes)),
    guess: async ({ file }) => {
      const { map, horizon } = await guessedDepth(await loadPixels(fileUrlOf(file)), await learnedLook());
      tell(map, horizon);
    },
    read: async ({ bytes }) => tell(readDepthPng(new Uint8Array(bytes))),
    slice,
    behind: rebuildBehind,
  });

const tell = (map: Plane, horizon: number | null = null): void =>
  answer({ kind: 'map', map: pngOfMap(map), width: map.width, height: map.height, horizon });

const pngOfMap = (map: Plane): Blob => new Blob([writeDepthPng(map) as Uint8Array<ArrayBuffer>], { type: 'image/png' });

const report = (doing: string, share: number): void => answer({ kind: 'progress', doing, share });

const loadMap = async (file: string): Promise<Plane> =>
  readDepthPng(new Uint8Array(await (await fetch(fileUrlOf(file))).arrayBuffer()));

async function rebuildBehind({ file, map }: Extract<DepthRequest, { kind: 'behind' }>): Promise<void> {
  const picture = await loadPixels(fileUrlOf(file));
  const fill: FillSteps = (from, steps) => rebuild({ picture: from, ...steps, seed: 1 }, { report });
  const made = await behindSteps(picture, await loadMap(map), fill);
  const behind = made && { picture: await pngOf(made.picture), depth: pngOfMap(made.map) };
  answer({ kind: 'behind', behind });
}

async function slice({ file, map, count, quick }: Extract<DepthRequest, { kind: 'slice' }>): Promise<void> {
  const picture = await loadPixels(fileUrlOf(file));
  const depth = await loadMap(map);
  const fill = (from: Rgba, hole: Bytes): Promise<Rgba> =>
    quick ? quickFill(from, hole) : rebuild({ picture: from, hole, seed: 1 });
  const { slices, background, backgroundCloseness } = await slicedByDepth(picture, depth, count, fill, { report });
  answer({
    kind: 'sliced',
    slices: await Promise.all(
      slices.map(async ({ colours, alpha, closeness }) => ({
        picture: await pngOf(colours),
        alpha: await pngOf(whiteWith(alpha)),
        closeness,
      })),
    ),
    background: await pngOf(background),
    closeness: backgroundCloseness,
    width: picture.width,
    height: picture.height,
  });
}

/** A stored mask is white with its alpha. */
function whiteWith({ width, height, data }: Bytes): Rgba {
  const out = new Uint8ClampedArray(data.length * 4).fill(255);
  for (let i = 0; i < data.length; i++) out[i * 4 + 3] = data[i]!;
  return { width, height, data: out };
}
