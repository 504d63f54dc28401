import { Worker } from 'node:worker_threads';
import { makeBytes, makePlane, makeRgba } from '../core/pixels/raster.ts';
import type { Rendering } from './marcher/march.ts';
import type { RowsJob } from './photograph-rows.ts';
import type { SceneName } from './scenes/index.ts';

export interface RenderingRequest {
  scene: SceneName;
  withSubject: boolean;
  width: number;
  height: number;
  samples: number;
  threads: number;
}

const rowsPerJob = 32;

/** Renders a scene with several threads: the picture, and the true alpha and depth of its subject. */
export async function renderScene(request: RenderingRequest): Promise<Rendering> {
  const { width, height } = request;
  const out: Rendering = {
    picture: makeRgba(width, height),
    alpha: makeBytes(width, height),
    front: makeRgba(width, height),
    depth: makePlane(width, height),
  };
  const starts = Array.from({ length: Math.ceil(height / rowsPerJob) }, (_, k) => k * rowsPerJob);
  const worker = async (): Promise<void> => {
    for (let from = starts.shift(); from !== undefined; from = starts.shift()) {
      const part = await renderRows(request, from, Math.min(height, from + rowsPerJob));
      out.picture.data.set(part.picture.data, from * width * 4);
      out.alpha.data.set(part.alpha.data, from * width);
      out.front.data.set(part.front.data, from * width * 4);
      out.depth.data.set(part.depth.data, from * width);
    }
  };
  await Promise.all(Array.from({ length: request.threads }, worker));
  return out;
}

function renderRows(request: RenderingRequest, fromRow: number, toRow: number): Promise<Rendering> {
  const { width, height, samples } = request;
  const job: RowsJob = {
    scene: request.scene,
    withSubject: request.withSubject,
    options: { width, height, samples, fromRow, toRow },
  };
  return new Promise((resolve, reject) => {
    // Threads do not inherit the TypeScript loader, so the thread registers it before it imports its module.
    const module = JSON.stringify(new URL('./photograph-rows.ts', import.meta.url).href);
    const boot = `import('tsx/esm/api').then(({ register }) => { register(); return import(${module}); })`;
    const thread = new Worker(boot, { workerData: job, eval: true });
    thread.once('message', resolve);
    thread.once('error', reject);
  });
}
