import { parentPort } from 'node:worker_threads';
import { photograph, type RenderOptions } from './marcher/march.ts';
import { scenes, type SceneName } from './scenes/index.ts';

/** One share of a picture: some rows of a scene. */
export interface RowsJob {
  scene: SceneName;
  withSubject: boolean;
  options: RenderOptions;
}

parentPort!.on('message', ({ scene, withSubject, options }: RowsJob) =>
  parentPort!.postMessage(photograph(scenes[scene]({ withSubject }), options)),
);
