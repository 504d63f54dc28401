import type { Camera } from './camera.ts';
import type { Plane, Rgba } from '../pixels/raster.ts';

/** How a picture with a depth map hangs: its pixels lie between two distances. */
export interface ReliefView {
  camera: Camera;
  /** Distances of closeness 1 and 0. */
  near: number;
  far: number;
  /** Rest pixels (origin in the centre) to pixels of the picture: u = a x + c y + e, v = b x + d y + f. */
  toPicture: readonly [number, number, number, number, number, number];
  /** Surface pixels to frame pixels around the centre. */
  scale: number;
  x: number;
  y: number;
}

/** Places at which a ray is looked at before the crossing is narrowed down. */
const looks = 14;

/**
 * A picture seen through the lens pixel by pixel, each at the distance its closeness says. With q = 1 / distance, a point
 * at p appears at (p - c q) / (1 - z q), so what is seen at o lies at p = o + q (c - z o): a straight line over the
 * picture. It is followed from near to far until it meets the relief (relief mapping: Policarpo, Oliveira & Comba 2005).
 * @param map closeness 0..1, with the picture's proportions
 * @param write called with the place in the picture (pixels) for every pixel of the surface that shows it
 */
export function traceRelief(
  map: Plane,
  picture: { width: number; height: number },
  view: ReliefView,
  area: { x: number; y: number; width: number; height: number },
  write: (u: number, v: number, at: number) => void,
): void {
  const { camera, toPicture } = view;
  const [a, b, c, d, e, f] = toPicture;
  const [sx, sy] = [map.width / picture.width, map.height / picture.height];
  const [qNear, qFar] = [relatedCloseness(view, 1 / view.near), relatedCloseness(view, 1 / view.far)];
  const { zoom = 1, roll = 0, planes } = camera;
  const turn = (roll * Math.PI) / 180;
  const [cos, sin] = [Math.cos(turn) / zoom, Math.sin(turn) / zoom];
  const held = planes?.hold ? planes.hold / (planes.depth - camera.z) : 0;
  const looked = map.data;
  const closenessAt = (u: number, v: number): number => {
    const x = Math.max(0, Math.min(map.width - 1.001, u * sx - 0.5));
    const y = Math.max(0, Math.min(map.height - 1.001, v * sy - 0.5));
    const left = x | 0;
    const top = y | 0;
    const i = top * map.width + left;
    const fx = x - left;
    const above = looked[i]! + (looked[i + 1]! - looked[i]!) * fx;
    const below = looked[i + map.width]! + (looked[i + map.width + 1]! - looked[i + map.width]!) * fx;
    return above + (below - above) * (y - top);
  };
  for (let row = 0; row < area.height; row++) {
    for (let column = 0; column < area.width; column++) {
      const px = (area.x + column + 0.5 - view.x) / view.scale;
      const py = (area.y + row + 0.5 - view.y) / view.scale;
      // The roll is undone first, then the zoom, then the share of the way that is taken back.
      const ox = px * cos - py * sin - held * camera.x;
      const oy = px * sin + py * cos - held * camera.y;
      const wx = camera.x - camera.z * ox;
      const wy = camera.y - camera.z * oy;
      const u0 = a * ox + c * oy + e;
      const v0 = b * ox + d * oy + f;
      const du = a * wx + c * wy;
      const dv = b * wx + d * wy;
      let k = 1;
      let above = 1 - closenessAt(u0 + du * qNear, v0 + dv * qNear);
      let before = k;
      let gap = above;
      for (let n = 1; n <= looks && gap > 0; n++) {
        before = k;
        above = gap;
        k = 1 - n / looks;
        const q = qFar + k * (qNear - qFar);
        gap = k - closenessAt(u0 + du * q, v0 + dv * q);
      }
      // Between the last look above the relief and the first below it, it is met where the straight line says.
      if (gap < 0 && above > 0) k = k + ((before - k) * -gap) / (above - gap);
      const q = qFar + k * (qNear - qFar);
      write(u0 + du * q, v0 + dv * q, row * area.width + column);
    }
  }
}

/** 1 / distance as the camera takes it, with near and far made more or less unlike. */
function relatedCloseness({ camera }: ReliefView, q: number): number {
  const { planes } = camera;
  return planes ? Math.max(1e-3, 1 / planes.depth + planes.parallax * (q - 1 / planes.depth)) : q;
}

/** Closeness from a grey picture. */
export function closenessOf({ width, height, data }: Rgba): Plane {
  const out = new Float32Array(width * height);
  for (let i = 0; i < out.length; i++) out[i] = data[i * 4]! / 255;
  return { width, height, data: out };
}
