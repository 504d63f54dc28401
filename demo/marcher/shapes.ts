/** Signed distances to simple shapes; plain numbers, because they are called some billion times. */

export const sphere = (x: number, y: number, z: number, r: number): number => Math.sqrt(x * x + y * y + z * z) - r;

export function roundBox(x: number, y: number, z: number, hx: number, hy: number, hz: number, r: number): number {
  const dx = Math.abs(x) - hx + r;
  const dy = Math.abs(y) - hy + r;
  const dz = Math.abs(z) - hz + r;
  const ox = Math.max(dx, 0);
  const oy = Math.max(dy, 0);
  const oz = Math.max(dz, 0);
  return Math.sqrt(ox * ox + oy * oy + oz * oz) + Math.min(Math.max(dx, dy, dz), 0) - r;
}

/** Capsule from a to b whose radius goes from ra to rb (a close lower bound). */
export function capsule(
  x: number,
  y: number,
  z: number,
  ax: number,
  ay: number,
  az: number,
  bx: number,
  by: number,
  bz: number,
  ra: number,
  rb: number,
): number {
  const dx = bx - ax;
  const dy = by - ay;
  const dz = bz - az;
  const px = x - ax;
  const py = y - ay;
  const pz = z - az;
  const t = Math.max(0, Math.min(1, (px * dx + py * dy + pz * dz) / (dx * dx + dy * dy + dz * dz)));
  const ex = px - t * dx;
  const ey = py - t * dy;
  const ez = pz - t * dz;
  return Math.sqrt(ex * ex + ey * ey + ez * ez) - (ra + (rb - ra) * t);
}

/** Upright cylinder: half height h, radius r, rounded by e. */
export function cylinder(x: number, y: number, z: number, h: number, r: number, e: number): number {
  const dx = Math.sqrt(x * x + z * z) - r + e;
  const dy = Math.abs(y) - h + e;
  const ox = Math.max(dx, 0);
  const oy = Math.max(dy, 0);
  return Math.sqrt(ox * ox + oy * oy) + Math.min(Math.max(dx, dy), 0) - e;
}

/** Ellipsoid by scaling (bounds the distance well near the surface). */
export function ellipsoid(x: number, y: number, z: number, a: number, b: number, c: number): number {
  const k0 = Math.sqrt((x / a) ** 2 + (y / b) ** 2 + (z / c) ** 2);
  const k1 = Math.sqrt((x / (a * a)) ** 2 + (y / (b * b)) ** 2 + (z / (c * c)) ** 2);
  return k1 < 1e-9 ? -Math.min(a, b, c) : (k0 * (k0 - 1)) / k1;
}

/** Torus lying flat: ring radius R, tube radius r. */
export function torus(x: number, y: number, z: number, R: number, r: number): number {
  const q = Math.sqrt(x * x + z * z) - R;
  return Math.sqrt(q * q + y * y) - r;
}

/** Union with a soft seam of width k. */
export function blend(a: number, b: number, k: number): number {
  const h = Math.max(k - Math.abs(a - b), 0) / k;
  return Math.min(a, b) - h * h * k * 0.25;
}
