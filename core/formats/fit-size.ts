/** How a video is to be written. */
export interface VideoPlan {
  width: number;
  height: number;
  /** Frames a second. */
  rate: number;
  /** Bits a second. */
  bitrate: number;
}

/** Of a limit so much is aimed at: encoders keep their rate only in the mean, and the container adds a little. */
const aim = 0.93;
/** Bits for a pixel of a frame below which a picture falls to pieces; then frames or pixels are given up instead. */
const leastBits = 0.025;
/** No more bits than these help. */
const mostBits = 0.35;
/** Bits for a pixel of a small frame with which what moves fast stays whole. */
const plentifulBits = 0.24;
/** Frames a second below which motion is no more one. */
const leastRate = 12;
const leastEdge = 160;

/**
 * Bits a second for a film without a limit: enough that what moves fast stays whole; about what sites of
 * film ask for at 1080p. Large pictures need fewer for a pixel, as neighbours are more alike.
 */
export function plentifulBitrate({ width, height, rate }: Omit<VideoPlan, 'bitrate'>): number {
  const smaller = Math.max(1, (width * height) / (640 * 360)) ** -0.25;
  return Math.round(width * height * rate * plentifulBits * smaller);
}

/** Bits a second at which two channels of sound are as good as the original to most ears. */
export const plentifulSound = 160_000;
/** Below so many bits a second sound falls to pieces. */
const leastSound = 32_000;

/** Bits a second for the sound of a video that is to stay under a limit: at most a fifth of all there is. */
export const fittedSound = (seconds: number, limit: number): number =>
  Math.round(Math.max(leastSound, Math.min(plentifulSound, (limit * 8 * 0.2) / seconds)));

/** A side of a picture as encoders want it. */
export const even = (v: number): number => Math.max(2, Math.round(v / 2) * 2);

/**
 * What to try first so that a video of so many seconds stays under a limit: fewer bits, then fewer frames, then a smaller
 * picture. @param limit bytes
 */
export function firstPlan(wanted: Omit<VideoPlan, 'bitrate'>, seconds: number, limit: number): VideoPlan {
  return fitted({ ...wanted, bitrate: (limit * 8 * aim) / seconds });
}

/** What to try after a plan gave too many bytes; null where nothing is left to give up. */
export function nextPlan(plan: VideoPlan, bytes: number, limit: number): VideoPlan | null {
  const next = fitted({ ...plan, bitrate: Math.min(0.95, (limit * aim) / bytes) * plan.bitrate });
  const smallest = Math.max(next.width, next.height) < leastEdge;
  return smallest ? null : next;
}

/** Gives up frames, then pixels, until every pixel of a frame has enough bits. */
function fitted(plan: VideoPlan): VideoPlan {
  let { width, height, rate } = plan;
  const bitsAt = (): number => plan.bitrate / (width * height * rate);
  while (bitsAt() < leastBits && rate / 2 >= leastRate) rate /= 2;
  while (bitsAt() < leastBits && Math.max(width, height) >= leastEdge) {
    width = even(width * 0.8);
    height = even(height * 0.8);
  }
  return { width, height, rate, bitrate: Math.min(plan.bitrate, width * height * rate * mostBits) };
}

/** What was given up to stay under a limit, in words; empty where nothing was. */
export function givenUp(wanted: Omit<VideoPlan, 'bitrate'>, plan: VideoPlan): string {
  const parts = [
    plan.rate < wanted.rate ? `${Number(plan.rate.toFixed(1))} frames per second` : '',
    plan.width < wanted.width ? `${plan.width} × ${plan.height}` : '',
  ].filter(Boolean);
  return parts.join(', ');
}
