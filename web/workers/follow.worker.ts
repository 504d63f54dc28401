import '../data/without-eval.ts';
import { followPoint, type Frames } from '../../core/follow/follow-clip.ts';
import { cuttingOf } from '../../core/follow/cutting.ts';
import { openClip } from './open-clip.ts';
import type { FrameReader } from './frame-reader.ts';
import { followRequestSchema, type FollowAnswer, type FollowRequest } from './follow-messages.ts';
import { FrameWindow } from './frame-window.ts';
import { fileUrlOf, loadFile } from './pixels.ts';

const answer = (message: FollowAnswer): void => self.postMessage(message);

self.onmessage = ({ data }: MessageEvent<unknown>) => {
  run(followRequestSchema.parse(data)).catch((error: unknown) => {
    answer({ kind: 'failed', message: error instanceof Error ? error.message : String(error) });
  });
};

/** Milliseconds between two reports of progress. */
const reportEvery = 100;

async function run({ file, marks, radius, from, to }: FollowRequest): Promise<void> {
  const reader = await openClip(await loadFile(fileUrlOf(file)), 'The clip');
  let told = 0;
  const report = (share: number): void => {
    if (performance.now() - told < reportEvery) return;
    told = performance.now();
    answer({ kind: 'progress', share });
  };
  const found = await followPoint(framesOf(reader), marks, [from, to], { radius, report });
  answer({ kind: 'followed', points: found.flatMap(({ at, doubt }) => [...at, doubt]) });
}

function framesOf(reader: FrameReader): Frames {
  const frames = new FrameWindow(reader);
  const { width, height } = reader.facts;
  const canvas = new OffscreenCanvas(1, 1);
  const context = canvas.getContext('2d', { willReadFrequently: true })!;
  return {
    count: reader.facts.frames,
    cutting: async (frame, around, reach) => {
      const bitmap = await frames.frame(frame);
      const [w, h] = [Math.min(width, 2 * reach), Math.min(height, 2 * reach)];
      // What left the frame is looked for at its border.
      const x = Math.max(0, Math.min(width - w, Math.round(around[0]) - reach));
      const y = Math.max(0, Math.min(height - h, Math.round(around[1]) - reach));
      if (canvas.width !== w || canvas.height !== h) [canvas.width, canvas.height] = [w, h];
      context.drawImage(bitmap, -x, -y);
      return cuttingOf(context.getImageData(0, 0, w, h), x, y);
    },
  };
}
