import type { BlendMode } from '../../../core/document/blend.ts';
import type { ExportOrder } from '../export-messages.ts';

/** A layer of the frame, which can be painted alone, without its opacity and blend mode. */
export interface LayerToPaint {
  name: string;
  opacity: number;
  blend: BlendMode;
  /** False when the export was cancelled. */
  paint(): Promise<boolean>;
}

/** What a writer gets: a surface that is painted frame by frame. */
export interface ExportWork {
  canvas: OffscreenCanvas;
  context: OffscreenCanvasRenderingContext2D;
  order: ExportOrder;
  /** Bits a second a video is to have; left out for what looks good. */
  bitrate?: number;
  /** The same for its sound. */
  soundBitrate?: number;
  /** Levels of a channel that a colour of a GIF may be off to stay as it was; left out for what nobody sees. */
  hold?: number;
  /** Frames of the result. */
  total: number;
  /** Paints a frame of the result on the canvas; false when the export was cancelled. */
  paint(index: number): Promise<boolean>;
  /**
   * Paints frames of the result, several at once where the machine can, and hands them over in the order asked for: as RGBA
   * with straight alpha, which may be written to, or as PNGs. False when the export was cancelled.
   */
  each(
    indices: readonly number[],
    as: 'pixels' | 'png',
    take: (data: Uint8ClampedArray<ArrayBuffer>, index: number) => Promise<void> | void,
  ): Promise<boolean>;
  /** The layers of the first frame of the result, nearest first. */
  layers(): LayerToPaint[];
  report(done: number): void;
  /** Told of videos: the bytes of each frame. */
  wrote?(bytes: number): void;
}

/** Makes the file of one format; null when it was cancelled. */
export type ExportWriter = (work: ExportWork) => Promise<Blob | null>;
