import type { Document } from '../core/document/document.ts';
import type { SubjectRecipe } from '../core/document/recipe.ts';
import type { Edit } from '../core/edits/edit.ts';
import { placeAt } from '../core/scene/place.ts';
import { addKey } from '../core/edits/layer-edits.ts';
import { restFraming } from '../core/document/shot.ts';
import { setFraming } from '../core/edits/camera-edits.ts';
import type { SceneName } from './scenes/index.ts';

export interface DemoProject {
  name: string;
  picture: SceneName;
  pictureName: string;
  pieceName: string;
  recipe: SubjectRecipe;
  /** Whether the piece throws a shadow that is lifted with it. */
  withShadow: boolean;
  /** The take that was chosen for what lies behind. */
  seed: number;
  frame: { width: number; height: number; rate: number };
  seconds: number;
  /** Edits after the lift. */
  finish: ((document: Document) => Edit[])[];
}

const stroke = (radius: number, ...points: [number, number][]): SubjectRecipe['keep'][number] => ({ radius, points });

export const demoProjects: DemoProject[] = [
  {
    name: 'Lantern Week',
    picture: 'lantern',
    pictureName: 'Lantern on the boardwalk',
    pieceName: 'Lantern',
    recipe: {
      kind: 'subject',
      answer: 'subject',
      // The thin handle and the tassel are what one press loses.
      keep: [
        stroke(
          3,
          [918, 530],
          [925, 470],
          [960, 415],
          [1005, 380],
          [1051, 370],
          [1100, 380],
          [1142, 412],
          [1172, 465],
          [1181, 530],
        ),
        stroke(4, [1051, 1036], [1045, 1115]),
      ],
      // The joints of the boards and the ropes are as dark and as thin.
      drop: [
        stroke(9, [832, 1027], [430, 1584]),
        stroke(6, [926, 1034], [904, 1080], [662, 1584]),
        stroke(6, [1022, 1130], [1012, 1150], [943, 1400]),
        stroke(6, [1173, 1044], [1168, 1110], [1140, 1400]),
        stroke(6, [740, 552], [885, 538]),
        stroke(4, [885, 545], [909, 542]),
        stroke(4, [1194, 537], [1236, 546]),
        stroke(6, [1212, 524], [1300, 520]),
        stroke(5, [1285, 699], [1420, 690]),
      ],
      box: null,
    },
    withShadow: true,
    seed: 1,
    frame: { width: 1080, height: 1080, rate: 30 },
    seconds: 6,
    // The lantern floats up; its shadow stays on the boards, fainter and smaller.
    finish: [
      (document) => {
        const [x, y] = placeAt(document.shots[0]!.layers[0]!, 0);
        return [
          addKey('shot-1', 'layer-1', 'position', 0, [x, y]),
          addKey('shot-1', 'layer-1', 'position', 179, [x, y - 150]),
        ];
      },
    ],
  },
  {
    name: 'The breakwater at dusk',
    picture: 'breakwater',
    pictureName: 'Breakwater',
    pieceName: 'Breakwater and tower',
    withShadow: false,
    seed: 1,
    recipe: {
      kind: 'subject',
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
    finish: [() => [setFraming('shot-1', 'last', { ...restFraming, x: 46, y: -12, size: 0.88 })]],
  },
];
