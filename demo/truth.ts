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
  const renderShares = async (): Promise<void> => {
    const thread = renderingThread();
    try {
      for (let from = starts.shift(); from !== undefined; from = starts.shift()) {
        const part = await renderRows(thread, request, from, Math.min(height, from + rowsPerJob));
        out.picture.data.set(part.picture.data, from * width * 4);
        out.alpha.data.set(part.alpha.data, from * width);
        out.front.data.set(part.front.data, from * width * 4);
        out.depth.data.set(part.depth.data, from * width);
      }
    } finally {
      await thread.terminate();
    }
  };
  const threads = Math.min(request.threads, starts.length);
  await Promise.all(Array.from({ length: threads }, renderShares));
  return out;
}

/** Threads do not inherit the TypeScript loader, so the thread registers it before it imports its module. */
function renderingThread(): Worker {
  const module = JSON.stringify(new URL('./photograph-rows.ts', import.meta.url).href);
  const boot = `import('tsx/esm/api').then(({ register }) => { register(); return import(${module}); })`;
  return new Worker(boot, { eval: true });
}

function renderRows(thread: Worker, request: RenderingRequest, fromRow: number, toRow: number): Promise<Rendering> {
  const { scene, withSubject, width, height, samples } = request;
  const job: RowsJob = { scene, withSubject, options: { width, height, samples, fromRow, toRow } };
  return new Promise((resolve, reject) => {
    thread.once('error', reject);
    thread.once('message', (part: Rendering) => {
      thread.off('error', reject);
      resolve(part);
    });
    thread.postMessage(job);
  });
}
