import type { Material, Vector } from '../marcher/scene.ts';

export const mix = (a: Vector, b: Vector, t: number): Vector => [
  a[0] + (b[0] - a[0]) * t,
  a[1] + (b[1] - a[1]) * t,
  a[2] + (b[2] - a[2]) * t,
];

/** 0 below a, 1 above b (or the reverse), smooth in between. */
export const step = (a: number, b: number, x: number): number => {
  const t = Math.max(0, Math.min(1, (x - a) / (b - a)));
  return t * t * (3 - 2 * t);
};

export const matt = (color: Vector, roughness = 0.95): Material => ({
  color,
  roughness,
  metal: 0,
  glow: [0, 0, 0],
  translucent: 0,
});

export const metal = (color: Vector, roughness: number): Material => ({
  color,
  roughness,
  metal: 0.9,
  glow: [0, 0, 0],
  translucent: 0,
});
