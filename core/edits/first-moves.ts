import type { Document } from '../document/document.ts';
import { restFraming, type Framing, type Shot } from '../document/shot.ts';
import { bareShare } from '../scene/bare.ts';
import { seenBox } from '../scene/seen-box.ts';
import { defineEdit } from './edit.ts';
import { shotIn } from './layer-edits.ts';

/* Moves of the camera to start from. Each is made as strong as the subject and the picture's border allow. */

type Ends = Pick<Shot['camera'], 'first' | 'last' | 'hold'>;

/** How a move looks at a strength of 1, in shares of the frame; 0 stands still. */
type Move = (strength: number, frame: { width: number; height: number }) => Ends;

const framing = (change: Partial<Framing>): Framing => ({ ...restFraming, ...change });

export const firstMoves = {
  push: {
    name: 'Push in',
    purpose: 'Towards the subject; near grows more than far',
    at: (k) => ({ first: framing({ size: 1 - 0.03 * k }), last: framing({ size: 1 - 0.2 * k }), hold: 0 }),
  },
  pull: {
    name: 'Pull out',
    purpose: 'Away from the subject, which gives the place room',
    at: (k) => ({ first: framing({ size: 1 - 0.2 * k }), last: framing({ size: 1 - 0.03 * k }), hold: 0 }),
  },
  slide: {
    name: 'Slide',
    purpose: 'Sideways past it, with a little push',
    at: (k, { width }) => ({
      first: framing({ x: -0.03 * k * width, size: 1 - 0.07 * k }),
      last: framing({ x: 0.03 * k * width, size: 1 - 0.12 * k }),
      hold: 0,
    }),
  },
  rise: {
    name: 'Rise',
    purpose: 'Upwards, as on a crane',
    at: (k, { height }) => ({
      first: framing({ y: 0.04 * k * height, size: 1 - 0.12 * k }),
      last: framing({ y: -0.04 * k * height, size: 1 - 0.12 * k }),
      hold: 0,
    }),
  },
  around: {
    name: 'Around the subject',
    purpose: 'The subject stays while the place turns behind it',
    at: (k, { width }) => ({
      first: framing({ x: -0.06 * k * width, size: 1 - 0.18 * k }),
      last: framing({ x: 0.06 * k * width, size: 1 - 0.18 * k }),
      hold: 1,
    }),
  },
  opposite: {
    name: 'Near up, far down',
    purpose: 'Near and far go opposite ways',
    at: (k, { height }) => ({
      first: framing({ y: -0.07 * k * height, size: 1 - 0.18 * k }),
      last: framing({ y: 0.07 * k * height, size: 1 - 0.18 * k }),
      hold: 1,
    }),
  },
} satisfies Record<string, { name: string; purpose: string; at: Move }>;

export type FirstMove = keyof typeof firstMoves;

/** Share of the frame's sides that stays free around the subject, where the picture leaves it free. */
const margin = 0.04;

const strengths = [1, 0.85, 0.7, 0.55, 0.4, 0.25, 0.1];

/**
 * Replaces the Framings by a move that keeps a layer whole: it stays within the frame, with head room, wherever it was so at
 * rest, and the frame stays covered where it is covered at rest. Where the full move would not do that, it is made smaller.
 */
export const startMove = defineEdit('Change move', (draft, shotId: string, move: FirstMove, subject: string | null) => {
  fitMove(draft, shotIn(draft, shotId), (strength) => firstMoves[move].at(strength, draft.frame), subject);
});

/**
 * Takes the strongest of a move's ways that keeps the subject whole and the frame covered; the weakest if none does.
 * @param mayUncover where the frame need not be covered: it is not at rest either, or the background is yet to be enlarged
 */
export function fitMove(
  document: Document,
  shot: Shot,
  at: (strength: number) => Partial<Shot['camera']>,
  subject: string | null,
  mayUncover = bareShare(document, atRest(shot), 0) > 0,
): void {
  for (const strength of strengths) {
    Object.assign(shot.camera, at(strength));
    if (subject !== null) aim(document, shot, subject);
    const whole = subject === null || staysWhole(document, shot, subject);
    if (whole && (mayUncover || momentsOf(shot).every((frame) => bareShare(document, shot, frame) === 0))) return;
  }
}

/** Shifts both Framings by as little as brings the subject inside them, and never over the border of the frame at rest. */
function aim(document: Document, shot: Shot, subject: string): void {
  const { camera } = shot;
  const sides = freeSides(document, shot, subject);
  if (!sides || camera.hold > 0) return;
  const { width, height } = document.frame;
  for (const end of ['first', 'last'] as const) {
    const { size, x, y } = camera[end];
    camera[end] = {
      ...camera[end],
      x: shifted(x, sides.left - width / 2, sides.right - width / 2, size * width, ((1 - size) * width) / 2),
      y: shifted(y, sides.top - height / 2, sides.bottom - height / 2, size * height, ((1 - size) * height) / 2),
    };
  }
}

/** The place nearest to `at` for the middle of a window of this length that holds `from` to `to`, at most `most` off the middle. */
function shifted(at: number, from: number, to: number, length: number, most: number): number {
  const high = Number.isFinite(from) ? from + length / 2 : Infinity;
  const low = Number.isFinite(to) ? to - length / 2 : -Infinity;
  const inside = low > high ? (low + high) / 2 : Math.max(low, Math.min(high, at));
  return Math.max(-most, Math.min(most, inside));
}

const momentsOf = ({ length }: Shot): number[] => [0, 1, 2, 3, 4].map((k) => Math.round((k * (length - 1)) / 4));
const atRest = (shot: Shot): Shot => ({
  ...shot,
  camera: { ...shot.camera, first: restFraming, last: restFraming, hold: 0, shake: null },
});

/** Nearer to the border than this share of the frame a side counts as running out of the picture. */
const touching = 0.015;

/**
 * How far a layer reaches to each side with the camera at rest, with the margin that it is to keep; infinite where it runs out of
 * the picture. Null for what has no box.
 */
function freeSides(document: Document, shot: Shot, layerId: string) {
  const layer = shot.layers.find(({ id }) => id === layerId);
  const rest = layer && seenBox(document, atRest(shot), layer, 0);
  if (!rest) return null;
  const { width, height } = document.frame;
  const [mx, my] = [margin * width, margin * height];
  return {
    left: rest.left > touching * width ? Math.max(0, rest.left - mx) : -Infinity,
    top: rest.top > touching * height ? Math.max(0, rest.top - my) : -Infinity,
    right: rest.right < width * (1 - touching) ? Math.min(width, rest.right + mx) : Infinity,
    bottom: rest.bottom < height * (1 - touching) ? Math.min(height, rest.bottom + my) : Infinity,
  };
}

/** Whether a layer stays inside the frame over the whole shot on every side on which it does with the camera at rest. */
export function staysWhole(document: Document, shot: Shot, layerId: string): boolean {
  const layer = shot.layers.find(({ id }) => id === layerId);
  const free = freeSides(document, shot, layerId);
  if (!layer || !free) return true;
  const { width, height } = document.frame;
  return momentsOf(shot).every((frame) => {
    const box = seenBox(document, shot, layer, frame);
    if (!box) return true;
    return (
      (free.left === -Infinity || box.left >= -1) &&
      (free.top === -Infinity || box.top >= -1) &&
      (free.right === Infinity || box.right <= width + 1) &&
      (free.bottom === Infinity || box.bottom <= height + 1)
    );
  });
}
