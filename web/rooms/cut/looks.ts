import { create } from 'zustand';
import type { ViewTransform } from '../../parts/zoom.ts';
import type { CutPixels } from './cut-session.ts';
import { drawOnScene, type Scene } from './scene.ts';

/** Ways to look at a cut. */
export const looks = [
  { id: 'picture', name: 'Picture' },
  { id: 'hatch', name: 'Hatch outside' },
  { id: 'colour', name: 'On a colour' },
  { id: 'scene', name: 'On the scene' },
  { id: 'alpha', name: 'Alpha only' },
  { id: 'wipe', name: 'Wipe' },
] as const;
export type Look = (typeof looks)[number]['id'];

export interface LookOptions {
  look: Look;
  colour: string;
  /** Whether the untouched picture shows faintly under the piece. */
  ghost: boolean;
  /** Share of the picture's width at which the wipe changes from before to after. */
  wipe: number;
}

/** How cuts are looked at: the same from piece to piece, and when the room is left and entered again. */
export const useLook = create<LookOptions>(() => ({ look: 'hatch', colour: '#d8249a', ghost: false, wipe: 0.5 }));

const field = '#777b7c';

/** Draws a cut on a canvas of CSS size width x height at the device's pixel ratio. */
export function drawLook(
  canvas: HTMLCanvasElement,
  pixels: CutPixels,
  view: ViewTransform,
  options: LookOptions,
  scene: Scene | null,
): void {
  const ratio = window.devicePixelRatio;
  const context = canvas.getContext('2d')!;
  const { width, height } = pixels.picture;
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.fillStyle = field;
  context.fillRect(0, 0, canvas.width, canvas.height);
  const scale = view.scale * ratio;
  const onPicture = (target: CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D): void =>
    target.setTransform(scale, 0, 0, scale, view.x * ratio, view.y * ratio);
  onPicture(context);
  // Above 200 % single pixels are what is looked at.
  context.imageSmoothingEnabled = view.scale * ratio < 2;
  const { look, colour, ghost, wipe } = options;
  if (look === 'picture' || look === 'hatch' || look === 'wipe') context.drawImage(pixels.picture, 0, 0);
  if (look === 'hatch') drawHatch(context, canvas, pixels, onPicture, ratio);
  if (look === 'alpha') {
    context.fillStyle = '#000000';
    context.fillRect(0, 0, width, height);
    context.drawImage(pixels.alpha, 0, 0);
  }
  if (look === 'scene' && scene)
    drawOnScene(context, scene, pixels.cutout, { scale, x: view.x * ratio, y: view.y * ratio, width, height });
  if (look === 'colour' || look === 'wipe') {
    context.save();
    const from = look === 'wipe' ? Math.round(width * wipe) : 0;
    context.beginPath();
    context.rect(from, 0, width - from, height);
    context.clip();
    context.fillStyle = colour;
    context.fillRect(0, 0, width, height);
    if (ghost) {
      context.globalAlpha = 0.28;
      context.drawImage(pixels.picture, 0, 0);
      context.globalAlpha = 1;
    }
    context.drawImage(pixels.cutout, 0, 0);
    context.restore();
  }
}

/** A diagonal hatch over everything outside the piece, of even width on screen at any zoom. */
function drawHatch(
  context: CanvasRenderingContext2D,
  canvas: HTMLCanvasElement,
  pixels: CutPixels,
  onPicture: (target: OffscreenCanvasRenderingContext2D) => void,
  ratio: number,
): void {
  const layer = new OffscreenCanvas(canvas.width, canvas.height);
  const hatch = layer.getContext('2d')!;
  hatch.fillStyle = hatch.createPattern(hatchTile(ratio), 'repeat')!;
  hatch.fillRect(0, 0, layer.width, layer.height);
  onPicture(hatch);
  hatch.imageSmoothingEnabled = context.imageSmoothingEnabled;
  hatch.globalCompositeOperation = 'destination-out';
  hatch.drawImage(pixels.alpha, 0, 0);
  context.save();
  context.beginPath();
  context.rect(0, 0, pixels.picture.width, pixels.picture.height);
  context.clip();
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.drawImage(layer, 0, 0);
  context.restore();
}

function hatchTile(ratio: number): OffscreenCanvas {
  const size = Math.round(9 * ratio);
  const tile = new OffscreenCanvas(size, size);
  const context = tile.getContext('2d')!;
  context.fillStyle = 'rgba(245, 242, 235, 0.42)';
  context.fillRect(0, 0, size, size);
  context.strokeStyle = 'rgba(28, 42, 48, 0.75)';
  context.lineWidth = 1.1 * ratio;
  for (const shift of [-size, 0, size]) {
    context.beginPath();
    context.moveTo(shift - 1, size + 1);
    context.lineTo(shift + size + 1, -1);
    context.stroke();
  }
  return tile;
}
