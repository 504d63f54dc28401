import type { Bytes } from './raster.ts';

export interface Component {
  label: number;
  area: number;
  /** Whether it touches the border of the picture. */
  touchesBorder: boolean;
}

export interface Labelling {
  /** 0 where the mask is not `value`, otherwise the 1-based label of the component. */
  labels: Int32Array;
  /** components[k] has label k + 1. */
  components: Component[];
}

/** Connected components (8 neighbours) of the pixels equal to `value`, by flood fill. */
export function labelComponents(mask: Bytes, value: number): Labelling {
  const { width, height, data } = mask;
  const labels = new Int32Array(width * height);
  const stack = new Int32Array(width * height);
  const components: Component[] = [];
  for (let start = 0; start < data.length; start++) {
    if (labels[start] !== 0 || data[start] !== value) continue;
    const label = components.length + 1;
    let depth = 0;
    let area = 0;
    let touchesBorder = false;
    stack[depth++] = start;
    labels[start] = label;
    while (depth > 0) {
      const i = stack[--depth]!;
      const x = i % width;
      const y = (i / width) | 0;
      area++;
      if (x === 0 || y === 0 || x === width - 1 || y === height - 1) touchesBorder = true;
      for (let dy = -1; dy <= 1; dy++) {
        const ny = y + dy;
        if (ny < 0 || ny >= height) continue;
        for (let dx = -1; dx <= 1; dx++) {
          const nx = x + dx;
          if (nx < 0 || nx >= width) continue;
          const j = ny * width + nx;
          if (labels[j] === 0 && data[j] === value) {
            labels[j] = label;
            stack[depth++] = j;
          }
        }
      }
    }
    components.push({ label, area, touchesBorder });
  }
  return { labels, components };
}
