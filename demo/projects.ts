import type { Recipe } from '../core/scene/document.ts';
import type { Edit } from '../core/scene/edit.ts';
import { setFraming } from '../core/scene/layer-edits.ts';
import type { SceneName } from './scenes/index.ts';

export interface DemoProject {
  name: string;
  picture: SceneName;
  pictureName: string;
  pieceName: string;
  recipe: Recipe;
  frame: { width: number; height: number; rate: number };
  seconds: number;
  /** Edits after the lift. */
  finish: Edit[];
}

const stroke = (radius: number, ...points: [number, number][]): Recipe['keep'][number] => ({ radius, points });

export const demoProjects: DemoProject[] = [
  {
    name: 'Lantern Week',
    picture: 'lantern',
    pictureName: 'Lantern on the boardwalk',
    pieceName: 'Lantern',
    recipe: { answer: 'subject', keep: [], drop: [], box: null },
    frame: { width: 1080, height: 1080, rate: 30 },
    seconds: 6,
    finish: [],
  },
  {
    name: 'The breakwater at dusk',
    picture: 'breakwater',
    pictureName: 'Breakwater',
    pieceName: 'Breakwater and tower',
    recipe: {
      answer: 'foreground',
      // The sunlit side of the tower has the colour of the sky, the water that of the stones: what strokes are for.
      keep: [
        stroke(10, [1008, 410], [1024, 520]),
        stroke(10, [1022, 480], [1046, 900]),
        stroke(10, [845, 480], [838, 880]),
        stroke(18, [1560, 1130], [1900, 1250]),
        stroke(22, [1700, 1400], [2300, 1450]),
      ],
      drop: [
        stroke(24, [20, 820], [780, 835]),
        stroke(24, [1150, 820], [2380, 740]),
        stroke(20, [20, 930], [560, 925]),
        stroke(20, [1900, 960], [2380, 1000]),
        stroke(16, [2060, 1130], [2380, 1190]),
        stroke(12, [1700, 1040], [1900, 1080], [2080, 1120]),
        stroke(14, [1480, 900], [1500, 930], [1700, 1010], [1840, 1060]),
        stroke(8, [1615, 800], [1610, 1000]),
      ],
      box: null,
    },
    frame: { width: 1920, height: 1280, rate: 30 },
    seconds: 6,
    finish: [setFraming('shot-1', 'last', { x: 46, y: -12, size: 0.88 })],
  },
];
