import type { Document } from '../document/document.ts';
import type { Draw, DrawWindow, EvaluatedFrame } from './draw.ts';
import { evaluateFrame } from './evaluate.ts';
import type { Matrix } from './matrix.ts';
import type { Shot } from '../document/shot.ts';

/** A shot's place in the project: it begins before the one before it ends when both are seen for a while. */
export interface PlacedShot {
  shot: Shot;
  first: number;
  end: number;
}

/** All shots in order, with the frames of the project they take. */
export function placedShots(document: Document): PlacedShot[] {
  let at = 0;
  return document.shots.map((shot, k) => {
    const placed = { shot, first: at, end: at + shot.length };
    at = placed.end - (k + 1 < document.shots.length ? overlapOf(document, k) : 0);
    return placed;
  });
}

/** The frame of the project at which a shot begins. */
export const filmStartOf = (document: Document, shotId: string): number =>
  placedShots(document).find(({ shot }) => shot.id === shotId)?.first ?? 0;

/** Frames in which a shot and the one after it are both seen. */
function overlapOf(document: Document, index: number): number {
  const [shot, next] = [document.shots[index]!, document.shots[index + 1]!];
  return shot.transition.kind === 'cut' ? 0 : Math.min(shot.transition.frames, shot.length, next.length);
}

export const projectLength = (document: Document): number => placedShots(document).at(-1)!.end;

/** What the project looks like at a frame of all its shots played one after the other. */
export function evaluateProject(document: Document, frame: number): EvaluatedFrame {
  const placed = placedShots(document);
  const seen = placed.filter(({ first, end }) => frame >= first && frame < end);
  const [one, other] = seen.length > 0 ? seen : [placed.at(-1)!];
  const from = evaluateFrame(document, one!.shot, Math.min(one!.shot.length - 1, frame - one!.first));
  if (!other) return from;
  const to = evaluateFrame(document, other.shot, frame - other.first);
  const length = one!.end - other.first;
  // Both ends are shown whole once, so that the steps between are even.
  const share = (frame - other.first + 1) / (length + 1);
  const { kind, angle } = one!.shot.transition;
  if (kind === 'pose-match') return poseMatch(document, one!.shot, other.shot, from, to, smooth(share));
  const over = together(to, `over-${other.shot.id}`);
  if (kind === 'wipe') over.window = wipeAt(from, share, angle);
  else over.opacity = share;
  return { ...from, draws: [...from.draws, over] };
}

const smooth = (t: number): number => t * t * (3 - 2 * t);

/** A frame as one thing, on black, to be laid over another. */
export function together({ width, height, draws }: EvaluatedFrame, layer: string): Draw {
  const plain = { masks: null, window: null, finishes: null, blur: 0, opaque: false } as const;
  const ground: Draw = {
    layer: `${layer}-ground`,
    content: { kind: 'flat', colour: [0, 0, 0, 1] },
    matrix: [1, 0, 0, 1, 0, 0],
    width,
    height,
    opacity: 1,
    blend: 'normal',
    clips: [],
    ...plain,
  };
  return { ...ground, layer, content: { kind: 'together', draws: [ground, ...draws] } };
}

/** A soft line that travels over the frame; what it has passed is free. */
function wipeAt({ width, height }: EvaluatedFrame, share: number, angle: number): DrawWindow {
  const radians = (angle * Math.PI) / 180;
  const [dx, dy] = [Math.cos(radians), Math.sin(radians)];
  const soft = Math.min(width, height) * 0.06;
  const reach = (Math.abs(dx) * width + Math.abs(dy) * height) / 2 + soft;
  const way = -reach + 2 * reach * share;
  const free = { x: width / 2 + dx * way, y: height / 2 + dy * way, dx: -dx, dy: -dy, soft };
  return { matte: [], how: 'inside', by: 'alpha', free };
}

/** What both shots show travels from its place in one to its place in the other; everything else fades. */
function poseMatch(
  document: Document,
  one: Shot,
  other: Shot,
  from: EvaluatedFrame,
  to: EvaluatedFrame,
  share: number,
): EvaluatedFrame {
  const before = from.draws.map((draw) => shownBy(one, draw));
  const after = to.draws.map((draw) => shownBy(other, draw));
  const partners = partnersOf(before, after);
  const met = new Set<number>();
  const mix = (a: number, b: number): number => a + (b - a) * share;
  const draws = to.draws.map((draw, k): Draw => {
    const at = partners.get(k) ?? -1;
    const was = from.draws[at];
    // Only what is drawn from pixels of the same size can travel.
    if (!was || !sameContent(was, draw)) return { ...draw, opacity: draw.opacity * share, opaque: false };
    met.add(at);
    return {
      ...draw,
      matrix: was.matrix.map((v, n) => mix(v, draw.matrix[n]!)) as unknown as Matrix,
      opacity: mix(was.opacity, draw.opacity),
      blur: mix(was.blur, draw.blur),
      opaque: was.opaque && draw.opaque,
    };
  });
  const leaving = new Map<number, Draw>();
  from.draws.forEach((draw, n) => {
    if (!met.has(n)) leaving.set(n, { ...draw, opacity: draw.opacity * (1 - share), opaque: false });
  });
  const { width, height } = document.frame;
  return { width, height, draws: inDepth(partners, leaving, draws) };
}

/** What a draw shows, and what its layer is called. */
interface Shown {
  source: string;
  name: string;
}

function shownBy(shot: Shot, draw: Draw): Shown {
  const layer = shot.layers.find((l) => l.id === draw.layer);
  return { source: JSON.stringify(layer?.source ?? draw.layer), name: layer?.name ?? draw.layer };
}

/** Of each that comes, which of those before shows the same: first those of one name, then what is left in its order. */
function partnersOf(before: readonly Shown[], after: readonly Shown[]): Map<number, number> {
  const partners = new Map<number, number>();
  const taken = new Set<number>();
  for (const alike of [(a: Shown, b: Shown) => a.name === b.name, () => true])
    after.forEach((shown, k) => {
      if (partners.has(k)) return;
      const at = before.findIndex((was, n) => !taken.has(n) && was.source === shown.source && alike(was, shown));
      if (at < 0) return;
      partners.set(k, at);
      taken.add(at);
    });
  return partners;
}

const sameContent = (a: Draw, b: Draw): boolean =>
  a.content.kind === b.content.kind && a.width === b.width && a.height === b.height;

/** What leaves stays in front of what it was in front of, as far as that is still there. */
function inDepth(partners: ReadonlyMap<number, number>, leaving: ReadonlyMap<number, Draw>, to: Draw[]): Draw[] {
  const out = to.map((draw, k) => ({ draw, was: partners.get(k) }));
  for (const [index, draw] of leaving) {
    const behind = out.findLastIndex(({ was }) => was !== undefined && was < index);
    out.splice(behind + 1, 0, { draw, was: index });
  }
  return out.map(({ draw }) => draw);
}
