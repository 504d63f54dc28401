import type { MarchedScene, SceneOptions } from '../marcher/scene.ts';
import { breakwater } from './breakwater.ts';
import { heron } from './heron.ts';
import { lantern } from './lantern.ts';

/** The photographs of Wendle Quay that ship with the project. */
export const scenes = { breakwater, lantern, heron } satisfies Record<string, (options: SceneOptions) => MarchedScene>;

export type SceneName = keyof typeof scenes;

export const sceneNames = Object.keys(scenes) as SceneName[];
