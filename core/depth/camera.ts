import type { Point } from '../motion/property.ts';

/**
 * A lens at (x, y) looking along +z, dollied forward by z. Points are given as they look at rest, in frame pixels from
 * the centre of the frame; depth and dolly share one unit.
 */
export interface Camera {
  x: number;
  y: number;
  z: number;
  /** Focal length as a factor of the one at rest; 1 when left out. */
  zoom?: number;
  /** Degrees the camera is turned clockwise about its axis; what it sees turns the other way. */
  roll?: number;
  /** How the distances between planes are taken; left out they are taken as they are. */
  planes?: PlaneRelation;
  /** Where it is sharp (a distance at rest), and the circle of confusion of things infinitely far away, in frame pixels. */
  focus?: { depth: number; aperture: number };
}

/** Whatever is done to near and far, the plane at `depth` is seen as the Framings say. */
export interface PlaneRelation {
  depth: number;
  /** 1 moves near and far as their distances say, 0 all alike, 2 twice as differently. */
  parallax: number;
  /** Share of the sideways way taken back, so that at 1 the plane stays and near and far go opposite ways. */
  hold: number;
}

/** Nothing nearer to the lens than this is drawn: it would fill the frame. */
export const nearestDepth = 0.05;
const farthestDepth = 1000;

/** What the camera does to everything at one depth: p appears at turn(p * scale + (x, y)), turned by `turn` degrees. */
export interface PlaneView {
  scale: number;
  x: number;
  y: number;
  turn: number;
}

/**
 * Multiplane projection: a point that looks to be at p at rest, at depth d, appears at (p * d - c) / (d - cz). At rest
 * (c = 0, cz = 0) nothing moves, whatever the depth. Null when the plane is at or behind the lens.
 */
export function viewOfPlane(camera: Camera, depth: number): PlaneView | null {
  const { planes, zoom = 1, roll = 0 } = camera;
  const view = project(camera, planes ? related(depth, planes) : depth);
  if (!view) return null;
  const held = planes && planes.hold !== 0 ? project(camera, planes.depth) : null;
  const keep = planes?.hold ?? 0;
  return {
    scale: view.scale * zoom,
    x: (view.x - keep * (held?.x ?? 0)) * zoom,
    y: (view.y - keep * (held?.y ?? 0)) * zoom,
    turn: -roll,
  };
}

function project({ x, y, z }: Camera, depth: number): { scale: number; x: number; y: number } | null {
  const distance = depth - z;
  if (distance < nearestDepth) return null;
  return { scale: depth / distance, x: -x / distance, y: -y / distance };
}

/** The distance at which a plane is taken to hang: parallax is proportional to the difference of 1 / distance. */
function related(depth: number, { depth: plane, parallax }: PlaneRelation): number {
  const closeness = 1 / plane + parallax * (1 / depth - 1 / plane);
  return 1 / Math.max(1 / farthestDepth, Math.min(1 / (2 * nearestDepth), closeness));
}

/** A rectangle with the frame's proportions on one plane: centre in frame pixels at rest, size as a share of the frame. */
export interface FramingRectangle {
  x: number;
  y: number;
  size: number;
  /** Degrees, clockwise. */
  roll?: number;
  /** Focal length as a factor of the one at rest: how much of the size is zoom instead of dolly. */
  zoom?: number;
}

/** The camera that sees exactly `framing` on the plane at `depth`. */
export function cameraOfFraming({ x, y, size, roll = 0, zoom = 1 }: FramingRectangle, depth: number): Camera {
  const camera: Camera = { x: x * depth, y: y * depth, z: depth * (1 - size * zoom) };
  return roll === 0 && zoom === 1 ? camera : { ...camera, roll, zoom };
}

export function apply(view: PlaneView, [x, y]: Point): Point {
  const [u, v] = [x * view.scale + view.x, y * view.scale + view.y];
  if (view.turn === 0) return [u, v];
  const angle = (view.turn * Math.PI) / 180;
  return [u * Math.cos(angle) - v * Math.sin(angle), u * Math.sin(angle) + v * Math.cos(angle)];
}

/**
 * Diameter of the circle of confusion of a plane, in frame pixels: that of a thin lens whose focal length is small
 * against its distances, c = aperture * |d - focus| / d (Potmesil & Chakravarty 1982).
 * @param distance of the plane from the lens  @param focus distance that is sharp
 * @param aperture the circle of things infinitely far away, in frame pixels
 */
export function circleOfConfusion(distance: number, focus: number, aperture: number): number {
  return (aperture * Math.abs(distance - focus)) / Math.max(nearestDepth, distance);
}
