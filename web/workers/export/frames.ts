import type { FrameKind } from '../frame-messages.ts';
import { HelperGone, type FrameHelper } from './frame-helper.ts';
import { inOrder } from './in-order.ts';

type Taken = (data: Uint8ClampedArray<ArrayBuffer>, index: number) => Promise<void> | void;

/** What paints frames in this worker. */
interface PaintsHere {
  frame(index: number, as: FrameKind): Promise<Uint8ClampedArray<ArrayBuffer>>;
}

/** The frames of one export, painted by several workers, or here where one is enough. */
export class Frames {
  /** Frames that are painted here share one canvas: one after the other. */
  private here: Promise<unknown> = Promise.resolve();

  /** @param helpers further workers that paint the same frames; none where one place is enough */
  constructor(
    private readonly painter: PaintsHere,
    private readonly helpers: readonly Pick<FrameHelper, 'paint' | 'close'>[],
    private readonly stopped: () => boolean,
  ) {}

  /** Paints frames and hands them over in the order asked for. @returns false when it was cancelled */
  each(indices: readonly number[], as: FrameKind, take: Taken): Promise<boolean> {
    const paintHere = (index: number): Promise<Uint8ClampedArray<ArrayBuffer>> => {
      const painted = this.here.then(() => this.painter.frame(index, as));
      this.here = painted.catch(() => undefined);
      return painted;
    };
    const makers = this.helpers.map((helper) => async (index: number) => {
      try {
        return await helper.paint(index, as);
      } catch (error) {
        if (error instanceof HelperGone) return paintHere(index);
        throw error;
      }
    });
    return inOrder(indices, makers.length > 0 ? makers : [paintHere], async (data, index) => {
      if (this.stopped()) return false;
      await take(data, index);
      return !this.stopped();
    });
  }

  close(): void {
    for (const helper of this.helpers) helper.close();
  }
}

/** The numbers of all frames of a result. */
export const everyFrame = (total: number): number[] => Array.from({ length: total }, (_, index) => index);
