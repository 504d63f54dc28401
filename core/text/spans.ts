import type { TextSpan } from './text-setting.ts';

/**
 * Where the spans of a text lie once it reads otherwise: those before what changed stay, those behind move, and what is
 * typed within one belongs to it. Spans whose letters are gone go.
 */
export function spansAfter<S extends TextSpan>(spans: readonly S[], before: string, after: string): S[] {
  let start = 0;
  while (start < Math.min(before.length, after.length) && before[start] === after[start]) start++;
  let end = 0;
  const most = Math.min(before.length, after.length) - start;
  while (end < most && before[before.length - 1 - end] === after[after.length - 1 - end]) end++;
  const gone = before.length - end;
  const by = after.length - before.length;
  // What lies in the changed part goes to its new ends.
  const moved = (place: number, ends: boolean): number =>
    place < start || (place === start && !ends)
      ? place
      : place >= gone
        ? place + by
        : ends
          ? after.length - end
          : start;
  return spans
    .map((span) => ({ ...span, from: moved(span.from, false), to: moved(span.to, span.to > start) }))
    .filter((span) => span.from < span.to);
}

/**
 * Spans in which a part of the text has settings of its own; settings that are null are taken away from it. Neighbours
 * that are alike become one.
 */
export function spansWith<S extends TextSpan>(
  spans: readonly S[],
  from: number,
  to: number,
  change: { [K in keyof Omit<S, 'from' | 'to'>]?: S[K] | null },
): S[] {
  if (from >= to) return [...spans];
  const cuts = [...new Set([from, to, ...spans.flatMap((s) => [s.from, s.to])])].sort((a, b) => a - b);
  const out: S[] = [];
  cuts.slice(0, -1).forEach((start, k) => {
    const end = cuts[k + 1]!;
    const own = Object.assign({}, ...spans.filter((s) => s.from <= start && s.to >= end)) as Record<string, unknown>;
    if (start >= from && end <= to) Object.assign(own, change);
    const settings = Object.entries(own).filter(
      ([key, v]) => key !== 'from' && key !== 'to' && v !== null && v !== undefined,
    );
    if (settings.length === 0) return;
    const made = { ...Object.fromEntries(settings), from: start, to: end } as S;
    const before = out.at(-1);
    const alike =
      before && JSON.stringify({ ...before, from: 0, to: 0 }) === JSON.stringify({ ...made, from: 0, to: 0 });
    if (alike && before.to === start) before.to = end;
    else out.push(made);
  });
  return out;
}
