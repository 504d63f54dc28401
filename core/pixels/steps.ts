/** Work in steps, between any two of which whoever does it may do something else, or leave it. */
export type Steps<T> = Generator<undefined, T>;

/** All of it at once. */
export function doneAtOnce<T>(steps: Steps<T>): T {
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
  }
}

/** Step by step. @param between is awaited after each; what it throws ends the work */
export async function doneInSteps<T>(steps: Steps<T>, between: () => Promise<void>): Promise<T> {
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
    await between();
  }
}
