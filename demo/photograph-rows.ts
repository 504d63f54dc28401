import { parentPort, workerData } from 'node:worker_threads';
import { photograph, type RenderOptions } from './marcher/march.ts';
import { scenes, type SceneName } from './scenes/index.ts';

/** One thread's share of a picture: some rows of a scene. */
export interface RowsJob {
  scene: SceneName;
  withSubject: boolean;
  options: RenderOptions;
}

const job = workerData as RowsJob;
parentPort!.postMessage(photograph(scenes[job.scene]({ withSubject: job.withSubject }), job.options));
