/** So few frames at least stay in sight. */
const leastSpan = 8;

/** The part of the shot that is seen after zooming about a frame that keeps its place; null for all of it. */
export function zoomedTime(
  view: { first: number; span: number },
  whole: number,
  about: number,
  factor: number,
): { first: number; span: number } | null {
  const span = Math.max(Math.min(leastSpan, whole), Math.min(whole, view.span * factor));
  if (span >= whole) return null;
  const first = about - ((about - view.first) / view.span) * span;
  return { first: Math.max(0, Math.min(whole - span, first)), span };
}
