import '../data/without-eval.ts';
import { byKind } from './by-kind.ts';
import { loadMadeOf } from './drawings.ts';
import { FramePainter } from './export/frame-painter.ts';
import { frameRequestSchema, type FrameAnswer, type FrameRequest } from './frame-messages.ts';
import { ImageStore } from './image-store.ts';

const images = new ImageStore(true);
let painter: Promise<FramePainter> | null = null;

const answer = (message: FrameAnswer, transfer: Transferable[] = []): void => self.postMessage(message, { transfer });

self.onmessage = ({ data }: MessageEvent<unknown>) =>
  byKind(frameRequestSchema.parse(data), {
    begin: ({ order }) => {
      painter = loadMadeOf(order.document).then(() => new FramePainter(images, order));
    },
    frame: (wanted) => {
      paint(wanted).catch((error: unknown) => {
        answer({ kind: 'failed', message: error instanceof Error ? error.message : String(error) });
      });
    },
  });

async function paint({ index, as }: Extract<FrameRequest, { kind: 'frame' }>): Promise<void> {
  const data = await (await painter!).frame(index, as);
  answer({ kind: 'frame', data }, [data.buffer]);
}
