import '../data/without-eval.ts';
import { bareFrames } from '../../core/scene/bare.ts';
import { bareMessageSchema, type BareAnswer } from './bare-messages.ts';
import { FollowedDocument } from './followed-document.ts';

const followed = new FollowedDocument();

self.onmessage = ({ data }: MessageEvent<unknown>) => {
  const { news, shot: id } = bareMessageSchema.parse(data);
  const document = followed.follow(news);
  const shot = document.shots.find((one) => one.id === id);
  self.postMessage({ shot: id, bare: shot ? bareFrames(document, shot) : [] } satisfies BareAnswer);
};
