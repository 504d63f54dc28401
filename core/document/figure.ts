import type { FigureKey, FigureRecipe, SubjectRecipe } from './recipe.ts';

/* A figure of a clip: what is said about single frames, and what was carried from them to the others. */

/** What is said of a subject, without its kind. */
const saidOf = ({ answer, keep, drop, box, at }: Omit<SubjectRecipe, 'kind'>): Omit<SubjectRecipe, 'kind'> => ({
  ...{ answer, keep, drop, box },
  ...(at && { at }),
});

/** A figure found in one frame of a clip, and to be carried to all others. */
export function newFigure(frame: number, frames: number, subject: SubjectRecipe): FigureRecipe {
  return {
    kind: 'figure',
    keys: [{ frame, base: null, ...saidOf(subject) }],
    mattes: Array.from({ length: frames }, () => null),
    changed: Array.from({ length: frames }, () => null),
    due: [0, frames],
  };
}

export const keyAt = ({ keys }: FigureRecipe, frame: number): FigureKey | null =>
  keys.find((key) => key.frame === frame) ?? null;

/** What is said about a frame, as of a still subject; where nothing is said yet, what strokes would be added to. */
export function subjectAt(figure: FigureRecipe, frame: number): SubjectRecipe {
  const key = keyAt(figure, frame);
  const { answer } = figure.keys[0]!;
  return key ? { kind: 'subject', ...saidOf(key) } : { kind: 'subject', answer, keep: [], drop: [], box: null };
}

/** The figure with something else said about a frame; the frames up to those around it of which something is said are due. */
export function withSubjectAt(figure: FigureRecipe, frame: number, subject: SubjectRecipe): FigureRecipe {
  const known = keyAt(figure, frame);
  const base = known ? known.base : (figure.mattes[frame] ?? null);
  const others = figure.keys.filter((key) => key !== known);
  const keys = [...others, { frame, base, ...saidOf(subject) }].sort((a, b) => a.frame - b.frame);
  return { ...figure, keys, due: joined(figure.due, between(keys, frame, figure.mattes.length)) };
}

/** The figure with nothing said about a frame any more; the last key stays. */
export function withoutKeyAt(figure: FigureRecipe, frame: number): FigureRecipe {
  const keys = figure.keys.filter((key) => key.frame !== frame);
  if (keys.length === 0 || keys.length === figure.keys.length) return figure;
  return { ...figure, keys, due: joined(figure.due, between(keys, frame, figure.mattes.length)) };
}

/** From the key before a frame to the one after it. */
function between(keys: readonly FigureKey[], frame: number, count: number): [number, number] {
  const before = keys.filter((key) => key.frame < frame).at(-1);
  const after = keys.find((key) => key.frame > frame);
  return [before?.frame ?? 0, (after?.frame ?? count - 1) + 1];
}

const joined = (a: FigureRecipe['due'], [from, to]: [number, number]): [number, number] =>
  a ? [Math.min(a[0], from), Math.max(a[1], to)] : [from, to];

/** A frame that was cut. */
export interface CutFrame {
  frame: number;
  matte: string;
  changed: number;
}

/**
 * The figure with frames that were cut; those of `range` that were not reached stay due.
 * @param range the frames that were to be cut
 */
export function withMattes(
  figure: FigureRecipe,
  cut: readonly CutFrame[],
  range: readonly [number, number],
): FigureRecipe {
  const mattes = [...figure.mattes];
  const changed = [...figure.changed];
  const done = new Set<number>();
  for (const one of cut) {
    mattes[one.frame] = one.matte;
    changed[one.frame] = Math.round(one.changed * 1000) / 1000;
    done.add(one.frame);
  }
  const left = Array.from({ length: range[1] - range[0] }, (_, k) => range[0] + k).filter((frame) => !done.has(frame));
  const due: FigureRecipe['due'] = left.length > 0 ? [left[0]!, left.at(-1)! + 1] : null;
  return { ...figure, mattes, changed, due };
}
