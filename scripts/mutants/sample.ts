import { seededRandom } from '../../core/pixels/random.ts';

/** Some of a list, each as likely as any other; the same seed takes the same ones, in the order of the list. */
export function sampled<T>(list: readonly T[], count: number, seed: number): T[] {
  const random = seededRandom(seed);
  const order = list.map((_, k) => k);
  for (let k = order.length - 1; k > 0; k--) {
    const other = Math.floor(random() * (k + 1));
    [order[k], order[other]] = [order[other]!, order[k]!];
  }
  return order
    .slice(0, count)
    .sort((a, b) => a - b)
    .map((k) => list[k]!);
}
