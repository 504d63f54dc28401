export type Vector = [number, number, number];

export interface Material {
  color: Vector;
  /** 0 mirror .. 1 chalk. */
  roughness: number;
  /** 0 dielectric, 1 metal. */
  metal: number;
  /** Own light, linear. */
  glow: Vector;
  /** Share of light let through from behind (paper, leaves). */
  translucent: number;
}

/** A world to photograph. Distances in metres, y up, the camera looks roughly along +z. */
export interface MarchedScene {
  eye: Vector;
  target: Vector;
  /** Vertical angle of view in degrees. */
  view: number;
  /** Distance that is sharp, and the diameter of the lens; both in metres. */
  focus: number;
  lens: number;
  far: number;
  /** Nothing is higher than this; a ray above it and rising sees the sky. */
  ceiling: number;
  light: Vector;
  lightColor: Vector;
  /** Half angle of the area light as a tangent: 0.05 a low sun, 0.6 a bright window. */
  lightSize: number;
  ambient: Vector;
  haze: number;
  exposure: number;
  /** Distance to the nearest surface; writes the surface's number into found[0]. */
  map(x: number, y: number, z: number, found: Int32Array): number;
  material(id: number, x: number, y: number, z: number, normal: Vector): Material;
  /** What is seen where nothing is hit; also what mirrors show. */
  sky(dx: number, dy: number, dz: number): Vector;
  /** Whether a surface belongs to what a person would cut out. */
  isSubject(id: number): boolean;
}

export interface SceneOptions {
  /** False leaves the subject (and so its shadow) out: the true background. */
  withSubject: boolean;
}
