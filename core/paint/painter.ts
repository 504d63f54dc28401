import type { EvaluatedFrame } from '../scene/evaluate.ts';
import type { BlendMode } from '../scene/document.ts';
import type { Surface2D } from './surface.ts';

export interface PaintOptions {
  /** Surface pixels per frame pixel. */
  scale: number;
  /** Where the frame's top left corner lies on the surface, in surface pixels. */
  x?: number;
  y?: number;
  /** Ground under everything; null leaves it transparent. */
  ground: string | null;
}

/**
 * Draws an evaluated frame. Preview and export both come through here, so they cannot differ.
 * @param imageOf the pixels of a file, at any resolution; a file whose pixels are not there yet is left out
 * @returns the files that were missing
 */
export function paintFrame<Image>(
  surface: Surface2D<Image>,
  frame: EvaluatedFrame,
  imageOf: (file: string) => Image | undefined,
  options: PaintOptions,
): string[] {
  const { scale, x = 0, y = 0, ground } = options;
  const missing: string[] = [];
  surface.setTransform(1, 0, 0, 1, 0, 0);
  surface.globalAlpha = 1;
  surface.globalCompositeOperation = 'source-over';
  const width = frame.width * scale;
  const height = frame.height * scale;
  if (ground === null) surface.clearRect(x, y, width, height);
  else {
    surface.fillStyle = ground;
    surface.fillRect(x, y, width, height);
  }
  surface.imageSmoothingEnabled = true;
  // Images come at nearly the size they are drawn at, where bilinear is as good as the dearer filters.
  surface.imageSmoothingQuality = 'low';
  for (const draw of frame.draws) {
    const image = imageOf(draw.file);
    if (image === undefined) {
      missing.push(draw.file);
      continue;
    }
    const [a, b, c, d, e, f] = draw.matrix;
    surface.setTransform(a * scale, b * scale, c * scale, d * scale, e * scale + x, f * scale + y);
    surface.globalAlpha = draw.opacity;
    surface.globalCompositeOperation = operationOf(draw.blend);
    surface.drawImage(image, 0, 0, draw.width, draw.height);
  }
  surface.setTransform(1, 0, 0, 1, 0, 0);
  surface.globalAlpha = 1;
  surface.globalCompositeOperation = 'source-over';
  return missing;
}

/** Canvas has names of its own for two of the modes. */
export function operationOf(blend: BlendMode): string {
  if (blend === 'normal') return 'source-over';
  return blend === 'plus-lighter' ? 'lighter' : blend;
}
