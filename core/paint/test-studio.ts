import { createCanvas, type Canvas } from '@napi-rs/canvas';
import { studioOf, type Studio, type Surface2D } from './surface.ts';

export const contextOf = (canvas: Canvas): Surface2D<Canvas> => canvas.getContext('2d') as unknown as Surface2D<Canvas>;

/** A studio on the canvas that Node has. */
export const testStudio = (images: Record<string, Canvas>): Studio<Canvas> =>
  studioOf<Canvas>(
    (file) => images[file],
    (width, height) => {
      const canvas = createCanvas(width, height);
      return { canvas, context: contextOf(canvas) };
    },
    ({ width, height }) => ({ width, height }),
  );
