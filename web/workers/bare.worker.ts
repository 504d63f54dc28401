import { bareFrames } from '../../core/scene/bare.ts';
import { bareRequestSchema, type BareAnswer } from './bare-messages.ts';

self.onmessage = ({ data }: MessageEvent<unknown>) => {
  const { document, shot: id } = bareRequestSchema.parse(data);
  const shot = document.shots.find((one) => one.id === id);
  self.postMessage({ shot: id, bare: shot ? bareFrames(document, shot) : [] } satisfies BareAnswer);
};
