import type { Point } from '../motion/property.ts';

/**
 * A lens at (x, y) looking along +z, dollied forward by z. Points are given as they look at rest, in frame pixels from
 * the centre of the frame; depth and dolly share one unit.
 */
export interface Camera {
  x: number;
  y: number;
  z: number;
}

/** Nothing nearer to the lens than this is drawn: it would fill the frame. */
export const nearestDepth = 0.05;

/** What the camera does to everything at one depth: p appears at p * scale + (x, y). */
export interface PlaneView {
  scale: number;
  x: number;
  y: number;
}

/**
 * Multiplane projection: a point that looks to be at p at rest, at depth d, appears at (p * d - c) / (d - cz). At rest
 * (c = 0, cz = 0) nothing moves, whatever the depth. Null when the plane is at or behind the lens.
 */
export function viewOfPlane(camera: Camera, depth: number): PlaneView | null {
  const distance = depth - camera.z;
  if (distance < nearestDepth) return null;
  return { scale: depth / distance, x: -camera.x / distance, y: -camera.y / distance };
}

/** A rectangle with the frame's proportions on one plane: centre in frame pixels at rest, size as a share of the frame. */
export interface FramingRectangle {
  x: number;
  y: number;
  size: number;
}

/** The camera that sees exactly `framing` on the plane at `depth`. */
export function cameraOfFraming(framing: FramingRectangle, depth: number): Camera {
  return { x: framing.x * depth, y: framing.y * depth, z: depth * (1 - framing.size) };
}

export function apply(view: PlaneView, [x, y]: Point): Point {
  return [x * view.scale + view.x, y * view.scale + view.y];
}
