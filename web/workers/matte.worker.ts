import '../data/without-eval.ts';
import { softAlpha } from '../../core/film/soft-alpha.ts';
import { matteRequestSchema, type MatteAnswer } from './matte-messages.ts';
import { alphaPng } from './pixels.ts';

self.onmessage = ({ data }: MessageEvent<unknown>) => {
  const { request, width, height, picture, soft } = matteRequestSchema.parse(data);
  void alphaPng(softAlpha({ width, height, data: picture }, soft)).then((matte) =>
    self.postMessage({ request, matte } satisfies MatteAnswer),
  );
};
