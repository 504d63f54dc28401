/** What is known of a clip before its frames are read. */
export interface ClipFacts {
  width: number;
  height: number;
  frames: number;
  /** Frames a second. */
  rate: number;
  /** Whether something can be seen through it. */
  alpha: boolean;
  /** What is missing of a file that was cut short, for a sentence; null for a whole one. */
  missing: string | null;
}

/** Single frames of a clip, whatever kind of file it is. */
export interface FrameReader {
  readonly facts: ClipFacts;
  /**
   * A frame at the size the clip is worked on with.
   * @param index from 0; beyond the end the last frame is shown
   * @param halved whether half that size does, where that is quicker
   */
  frame(index: number, halved?: boolean): Promise<ImageBitmap>;
  /** Lets go of what was decoded; the reader is not used again. */
  close(): void;
}

/** Thrown when a clip cannot be read; the sentence names it. */
export class UnreadableClip extends Error {
  constructor(name: string, why: string) {
    super(`"${name}" ${why}`);
    this.name = 'UnreadableClip';
  }
}

/** The longest side a clip is worked on with. */
const longestEdge = 1920;

export function workedSize(width: number, height: number): { width: number; height: number } {
  const shrink = Math.min(1, longestEdge / Math.max(width, height));
  return { width: Math.max(1, Math.round(width * shrink)), height: Math.max(1, Math.round(height * shrink)) };
}
