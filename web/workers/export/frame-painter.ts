import type { EvaluatedFrame } from '../../../core/scene/draw.ts';
import { exportFormats } from '../../../core/formats/exports.ts';
import { paintFrame } from '../../../core/paint/painter.ts';
import type { Surface2D } from '../../../core/paint/surface.ts';
import { evaluateLoop } from '../../../core/scene/loop.ts';
import type { FrameKind, FramesOrder } from '../frame-messages.ts';
import type { ImageStore, Picture } from '../image-store.ts';

/** Paints the frames of one export on a canvas of their size. */
export class FramePainter {
  readonly canvas: OffscreenCanvas;
  readonly context: OffscreenCanvasRenderingContext2D;
  private readonly transparent: boolean;

  constructor(
    private readonly images: ImageStore,
    private readonly order: FramesOrder,
  ) {
    const { still, ...format } = exportFormats[order.format];
    this.transparent = format.transparent || (format.clearable && order.clear);
    this.canvas = new OffscreenCanvas(order.width, order.height);
    // Every format but the poster reads each frame back.
    this.context = this.canvas.getContext('2d', { willReadFrequently: !still, alpha: this.transparent })!;
  }

  /** A frame of the result, from 0. */
  evaluated(index: number): EvaluatedFrame {
    const { document, rate, only, begins } = this.order;
    return evaluateLoop(document, this.order, only ?? Math.round(((begins + index) * document.frame.rate) / rate));
  }

  async put(frame: EvaluatedFrame): Promise<void> {
    const { document, width, height } = this.order;
    const scale = width / document.frame.width;
    const studio = await this.images.studioFor(frame, scale);
    const ground = this.transparent ? null : '#000000';
    const surface = this.context as unknown as Surface2D<Picture>;
    paintFrame(surface, frame, studio, { scale, ground, size: { width, height } });
  }

  paint(index: number): Promise<void> {
    return this.put(this.evaluated(index));
  }

  /** A painted frame: its pixels (RGBA, straight alpha), or a PNG of it. */
  async frame(index: number, kind: FrameKind): Promise<Uint8ClampedArray<ArrayBuffer>> {
    await this.paint(index);
    const { width, height } = this.order;
    if (kind === 'pixels') return this.context.getImageData(0, 0, width, height).data as Uint8ClampedArray<ArrayBuffer>;
    const png = await this.canvas.convertToBlob({ type: 'image/png' });
    return new Uint8ClampedArray(await png.arrayBuffer());
  }
}
