import type { Answer } from '../core/cut/saliency.ts';
import type { Edit } from '../core/scene/edit.ts';
import { setFraming } from '../core/scene/layer-edits.ts';
import type { SceneName } from './scenes/index.ts';

export interface DemoProject {
  name: string;
  picture: SceneName;
  pictureName: string;
  pieceName: string;
  answer: Answer;
  frame: { width: number; height: number; rate: number };
  seconds: number;
  /** Edits after the lift. */
  finish: Edit[];
}

export const demoProjects: DemoProject[] = [
  {
    name: 'Lantern Week',
    picture: 'lantern',
    pictureName: 'Lantern on the boardwalk',
    pieceName: 'Lantern',
    answer: 'subject',
    frame: { width: 1080, height: 1080, rate: 30 },
    seconds: 6,
    finish: [],
  },
  {
    name: 'The breakwater at dusk',
    picture: 'breakwater',
    pictureName: 'Breakwater',
    pieceName: 'Breakwater and tower',
    answer: 'foreground',
    frame: { width: 1920, height: 1280, rate: 30 },
    seconds: 6,
    finish: [setFraming('shot-1', 'last', { x: 46, y: -12, size: 0.88 })],
  },
];
