/** A wave over a region, as it stands at one moment; lengths in pixels of what waves. */
export interface SwayShape {
  region: { form: 'rectangle' | 'ellipse'; x: number; y: number; width: number; height: number };
  /** Whether the region is all there is: without a soft edge what is just outside waves too. */
  whole: boolean;
  /** Share of the region over which it fades in from its edge. */
  soft: number;
  /** Degrees in which things are pushed. */
  direction: number;
  /** Crest to crest. */
  size: number;
  strength: number;
  pinned: 'none' | 'left' | 'right' | 'top' | 'bottom';
  shade: number;
  /** Share of a period that has passed; whole numbers look alike. */
  turn: number;
}

/** Writes by how much a point is pushed, x and y, and how much lighter its slope is. */
export type Push = (x: number, y: number, out: Float64Array) => void;

/** Share of the second, quicker wave that keeps the first from looking drawn with compasses. */
const second = 0.28;

/**
 * The push of a travelling wave: two sines, the second of double frequency in time, so that both are where they began
 * after a period. Waves run away from the pinned side, where the push is 0 and from where it grows; without one they run
 * across the direction of the push. The region fades in over its soft edge by a smooth step.
 */
export function pushOf(sway: SwayShape): Push {
  const { region, direction, size, strength, pinned, shade, turn } = sway;
  const radians = (direction * Math.PI) / 180;
  const [px, py] = [Math.cos(radians), Math.sin(radians)];
  const along = travelOf(pinned, px, py);
  const wave = (2 * Math.PI) / size;
  const time = 2 * Math.PI * (turn - Math.floor(turn));
  return (x, y, out) => {
    const shown = shareInside(sway, x, y);
    if (shown === 0) {
      out.fill(0);
      return;
    }
    const way = (x - region.x) * along[0] + (y - region.y) * along[1];
    const first = wave * way - time;
    const other = 1.7 * wave * way - 2 * time + 0.9;
    const push = strength * shown * growth(pinned, region, x, y);
    const height = (Math.sin(first) + second * Math.sin(other)) / (1 + second);
    out[0] = push * height * px;
    out[1] = push * height * py;
    out[2] = shade === 0 ? 0 : shade * 0.45 * shown * growth(pinned, region, x, y) * Math.cos(first);
  };
}

/** The direction in which crests travel. */
function travelOf(pinned: SwayShape['pinned'], px: number, py: number): [number, number] {
  if (pinned === 'left') return [1, 0];
  if (pinned === 'right') return [-1, 0];
  if (pinned === 'top') return [0, 1];
  if (pinned === 'bottom') return [0, -1];
  return [-py, px];
}

/** 0 on the pinned side, growing to 1 at the other: quickly first, as cloth that leaves its pole does. */
function growth(pinned: SwayShape['pinned'], region: SwayShape['region'], x: number, y: number): number {
  if (pinned === 'none') return 1;
  const across = (x - region.x) / region.width;
  const down = (y - region.y) / region.height;
  const share = pinned === 'left' ? across : pinned === 'right' ? 1 - across : pinned === 'top' ? down : 1 - down;
  const held = Math.max(0, Math.min(1, share));
  return held ** 0.8;
}

/** How far inside its region a point is: 1 inside the soft edge, 0 outside. */
function shareInside({ region, soft, whole }: SwayShape, x: number, y: number): number {
  const { form, width, height } = region;
  const u = (2 * (x - region.x)) / width - 1;
  const v = (2 * (y - region.y)) / height - 1;
  const edge = form === 'ellipse' ? 1 - Math.hypot(u, v) : 1 - Math.max(Math.abs(u), Math.abs(v));
  // A flag must be able to wave out of its own box.
  if (soft === 0) return whole || edge > 0 ? 1 : 0;
  if (edge <= 0) return 0;
  const t = Math.min(1, edge / soft);
  return t * t * (3 - 2 * t);
}
