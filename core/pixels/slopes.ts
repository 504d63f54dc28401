import { floatsAt } from '../kernels/shared.ts';
import { lumaShares } from './color.ts';
import { filterKernel } from './filter-kernel.ts';
import { makePlane, type Plane, type Rgba } from './raster.ts';

/** Brightness 0..255 of every pixel. @param exposed what each step of a channel becomes, 0..1 */
export function brightness({ width, height, data }: Rgba, exposed: Float32Array): Plane {
  const tables = Float64Array.from({ length: 768 }, (_, k) => lumaShares[k >> 8]! * exposed[k & 255]!);
  const made = filterKernel.within([data, tables, 4 * width * height], (kernel, from, table, to) => {
    kernel.brightness(from, width * height, table, to);
    return floatsAt(kernel, to, width * height);
  });
  if (made) return { width, height, data: made };
  const luma = makePlane(width, height);
  for (let i = 0; i < luma.data.length; i++)
    luma.data[i] = 255 * (tables[data[i * 4]!]! + tables[256 + data[i * 4 + 1]!]! + tables[512 + data[i * 4 + 2]!]!);
  return luma;
}

/** Half the length of the difference of what lies on both sides of every pixel; 0 on the border. */
export function slopesOf({ width, height, data }: Plane): Plane {
  const made = filterKernel.within([data, data.byteLength + 16], (kernel, from, to) => {
    kernel.slopes(from, width, height, to);
    return floatsAt(kernel, to, width * height);
  });
  if (made) return { width, height, data: made };
  const slopes = makePlane(width, height);
  for (let y = 1; y < height - 1; y++)
    for (let x = 1; x < width - 1; x++) {
      const i = y * width + x;
      const [dx, dy] = [data[i + 1]! - data[i - 1]!, data[i + width]! - data[i - width]!];
      slopes.data[i] = 0.5 * Math.sqrt(dx * dx + dy * dy);
    }
  return slopes;
}
