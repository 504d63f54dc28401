import type { Settings, Values } from '../settings/setting.ts';
import { set, type FinishKind, type FinishPixels } from './finish.ts';
import { kernelOf, laid } from './operations/memory.ts';

/** Where in the layer's box a finish works; every finish has these beside its own. */
export const areaSettings = {
  area: { kind: 'choice', name: 'Area', options: ['everywhere', 'one side', 'round', 'around'], start: 'everywhere' },
  areaCentre: {
    kind: 'place',
    name: 'Area centre',
    start: [0.5, 0.5],
    only: { area: ['one side', 'round', 'around'] },
  },
  areaDirection: { ...set.angle('Area direction', -90), only: { area: ['one side'] } },
  areaSize: { ...set.percent('Area size', 0.6, 3), only: { area: ['round', 'around'] } },
  areaSoftness: { ...set.percent('Area softness', 0.6, 3, 0.01), only: { area: ['one side', 'round', 'around'] } },
} as const satisfies Settings;

type Area = Values<typeof areaSettings>;
type Box = { x: number; y: number; width: number; height: number };

/** What the kernel needs to know of an area that is not everywhere; see `mixBack`. */
function numbersOf({ area, areaCentre, areaDirection, areaSize, areaSoftness }: Area, box: Box): Float32Array {
  const [cx, cy] = [box.x + areaCentre[0] * box.width, box.y + areaCentre[1] * box.height];
  const [rx, ry] = [Math.max(1, box.width / 2), Math.max(1, box.height / 2)];
  const turn = (areaDirection * Math.PI) / 180;
  const [dx, dy] = [Math.cos(turn), Math.sin(turn)];
  const half = Math.abs(dx) * rx + Math.abs(dy) * ry;
  return area === 'one side'
    ? Float32Array.of(0, 0, dx / half, dy / half, -(cx * dx + cy * dy) / half, 0, 0, 1 / areaSoftness)
    : Float32Array.of(1, area === 'around' ? 1 : 0, cx, cy, 1 / rx, 1 / ry, areaSize, 1 / areaSoftness);
}

/**
 * How much of a finish is there at a place, 0..1: *one side* rises across a line through the centre towards a direction
 * (degrees, clockwise from the right), *round* falls outwards from an ellipse as the box has it, *around* is what it leaves.
 * Size and softness are shares of half the box. The rise is smooth at both ends (Hermite).
 */
export function areaShare({ area, areaCentre, areaDirection, areaSize, areaSoftness }: Area, box: Box) {
  const [cx, cy] = [box.x + areaCentre[0] * box.width, box.y + areaCentre[1] * box.height];
  const [rx, ry] = [Math.max(1, box.width / 2), Math.max(1, box.height / 2)];
  const turn = (areaDirection * Math.PI) / 180;
  const [dx, dy] = [Math.cos(turn), Math.sin(turn)];
  const half = Math.abs(dx) * rx + Math.abs(dy) * ry;
  return (x: number, y: number): number => {
    if (area === 'everywhere') return 1;
    const along =
      area === 'one side'
        ? ((x - cx) * dx + (y - cy) * dy) / half
        : areaSize - Math.hypot((x - cx) / rx, (y - cy) / ry);
    const t = Math.max(0, Math.min(1, along / areaSoftness + 0.5));
    const rise = t * t * (3 - 2 * t);
    return area === 'around' ? 1 - rise : rise;
  };
}

/** Lays changed pixels over what they were, by the share of an area at each place; colours count by their alpha. */
function mixed(pixels: FinishPixels, before: Uint8ClampedArray, area: Area, box: Box): void {
  const { data, width, height } = pixels;
  const kernel = kernelOf(data);
  const byKernel = (numbers: number, was: number): void =>
    kernel!.mixBack(data.byteOffset, was, width, height, numbers);
  if (kernel && laid([numbersOf(area, box), before], byKernel)) return;
  const share = areaShare(area, box);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = (y * width + x) * 4;
      const now = share(x + 0.5, y + 0.5);
      if (now === 1) continue;
      const [a, b] = [before[i + 3]! * (1 - now), data[i + 3]! * now];
      const alpha = a + b;
      for (let c = 0; c < 3; c++) data[i + c] = alpha > 0 ? (before[i + c]! * a + data[i + c]! * b) / alpha : 0;
      data[i + 3] = alpha;
    }
  }
}

/** The same finish with an area in which it works. */
export function withArea(kind: FinishKind): FinishKind {
  return {
    ...kind,
    settings: { ...kind.settings, ...areaSettings },
    apply(pixels, values, moment) {
      const area = values as unknown as Area;
      const before = area.area === 'everywhere' ? null : pixels.data.slice();
      kind.apply(pixels, values, moment);
      if (before) mixed(pixels, before, area, moment.box);
    },
  };
}
