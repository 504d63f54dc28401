/** Thrown by long computations when their caller no longer wants the result. */
export class Cancelled extends Error {
  constructor() {
    super('The work was cancelled.');
    this.name = 'Cancelled';
  }
}

/** How a long computation talks to its caller. */
export interface Progress {
  /** Called with what is being done and the share done so far, 0..1. */
  report?: (doing: string, share: number) => void;
  /**
   * Awaited often; resolves to true when the work should stop. It is asynchronous so that a worker can read its
   * messages between two steps.
   */
  cancelled?: () => Promise<boolean>;
}

/** Gives the caller a chance to cancel; throws Cancelled when it did. */
export async function checkpoint(progress: Progress | undefined): Promise<void> {
  if (progress?.cancelled && (await progress.cancelled())) throw new Cancelled();
}
