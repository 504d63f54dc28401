/** Results beyond those being made that may wait for their turn: each is a frame in memory. */
const mostWaiting = 2;

/** Where one of them will be. */
class Place<T> {
  resolve!: (made: T) => void;
  reject!: (error: unknown) => void;
  readonly promise = new Promise<T>((resolve, reject) => {
    this.resolve = resolve;
    this.reject = reject;
  });
}

/**
 * Makes things side by side and hands them over in their order.
 * @param indices what is to be made  @param makers each makes one thing at a time
 * @param take gets what was made; false ends it early
 * @returns whether all was taken  @throws what a maker or `take` throws
 */
export async function inOrder<T>(
  indices: readonly number[],
  makers: readonly ((index: number) => Promise<T>)[],
  take: (made: T, index: number) => Promise<boolean> | boolean,
): Promise<boolean> {
  const places = indices.map(() => new Place<T>());
  // One that fails is met when its turn comes, or never.
  for (const { promise } of places) promise.catch(() => undefined);
  let [next, taken, over] = [0, 0, false];
  let asleep: (() => void)[] = [];
  const wake = (): void => {
    const all = asleep;
    asleep = [];
    for (const one of all) one();
  };
  const work = async (make: (index: number) => Promise<T>): Promise<void> => {
    while (!over && next < indices.length) {
      if (next >= taken + makers.length + mostWaiting) {
        await new Promise<void>((resolve) => asleep.push(resolve));
        continue;
      }
      const at = next++;
      await make(indices[at]!).then(places[at]!.resolve, places[at]!.reject);
    }
  };
  for (const make of makers) void work(make);
  try {
    for (const [at, { promise }] of places.entries()) {
      if (!(await take(await promise, indices[at]!))) return false;
      taken = at + 1;
      wake();
    }
    return true;
  } finally {
    over = true;
    wake();
  }
}
