import type { Rgba } from '../pixels/raster.ts';

interface Gradient2D {
  addColorStop(at: number, colour: string): void;
}

/** The part of CanvasRenderingContext2D that painting needs; browsers and @napi-rs/canvas both have it. */
export interface Surface2D<Image> {
  globalAlpha: number;
  globalCompositeOperation: string;
  imageSmoothingEnabled: boolean;
  imageSmoothingQuality: 'low' | 'medium' | 'high';
  fillStyle: unknown;
  strokeStyle: unknown;
  lineWidth: number;
  lineJoin: string;
  lineCap: string;
  miterLimit: number;
  lineDashOffset: number;
  filter: string;
  setTransform(a: number, b: number, c: number, d: number, e: number, f: number): void;
  fillRect(x: number, y: number, width: number, height: number): void;
  clearRect(x: number, y: number, width: number, height: number): void;
  drawImage(image: Image, x: number, y: number, width: number, height: number): void;
  beginPath(): void;
  moveTo(x: number, y: number): void;
  bezierCurveTo(ax: number, ay: number, bx: number, by: number, x: number, y: number): void;
  closePath(): void;
  fill(rule?: 'nonzero' | 'evenodd'): void;
  clip(rule?: 'nonzero' | 'evenodd'): void;
  save(): void;
  restore(): void;
  stroke(): void;
  setLineDash(lengths: number[]): void;
  createLinearGradient(x0: number, y0: number, x1: number, y1: number): Gradient2D;
  createRadialGradient(x0: number, y0: number, r0: number, x1: number, y1: number, r1: number): Gradient2D;
  getImageData(x: number, y: number, width: number, height: number): { data: Uint8ClampedArray };
  createImageData(width: number, height: number): { data: Uint8ClampedArray };
  putImageData(data: never, x: number, y: number): void;
}

/** A surface to paint on for a while, and the same as an image to be drawn. */
export interface Scratch<Image> {
  context: Surface2D<Image>;
  image: Image;
  width: number;
  height: number;
}

/** Where painting gets its pixels and its paper from. */
export interface Studio<Image> {
  /** The pixels of a file, at any resolution; undefined while they are not there. */
  imageOf(file: string): Image | undefined;
  sizeOf(image: Image): { width: number; height: number };
  /** Pixels of an image as numbers. */
  pixelsOf(image: Image): Rgba;
  /** A clear surface of at least one pixel each way. */
  scratch(width: number, height: number): Scratch<Image>;
  /** Gives a surface back to be used again. */
  release(scratch: Scratch<Image>): void;
  /** What was made under a name before, or what `make` makes of it now; kept as long as there is room for it. */
  kept(name: string, make: () => Scratch<Image>): Scratch<Image>;
}

interface CanvasLike {
  width: number;
  height: number;
}

/** Bytes of papers that wait to be used again. */
const freeBytes = 120e6;
/** Bytes of finished pictures that are kept. */
const keptBytes = 300e6;

/**
 * A studio over any kind of canvas.
 * @param makeCanvas a new canvas and its context
 * @param sizeOf size of an image in pixels
 */
export function studioOf<Image extends object>(
  imageOf: (file: string) => Image | undefined,
  makeCanvas: (width: number, height: number) => { canvas: Image & CanvasLike; context: Surface2D<Image> },
  sizeOf: (image: Image) => { width: number; height: number },
): Studio<Image> {
  const free: Scratch<Image>[] = [];
  const read = new WeakMap<Image, Rgba>();
  const take = (width: number, height: number): Scratch<Image> => {
    const found = free.findIndex((s) => s.width === width && s.height === height);
    if (found >= 0) return free.splice(found, 1)[0]!;
    const { canvas, context } = makeCanvas(width, height);
    return { context, image: canvas, width, height };
  };
  const scratch = (width: number, height: number): Scratch<Image> => {
    const made = take(Math.max(1, Math.ceil(width)), Math.max(1, Math.ceil(height)));
    resetContext(made.context);
    made.context.clearRect(0, 0, made.width, made.height);
    return made;
  };
  const release = (given: Scratch<Image>): void => {
    free.push(given);
    // Sizes change with every zoom; as many as fit are kept, the oldest go.
    let bytes = free.reduce((sum, { width, height }) => sum + width * height * 4, 0);
    while (bytes > freeBytes && free.length > 1) {
      const { width, height } = free.shift()!;
      bytes -= width * height * 4;
    }
  };
  const pixelsOf = (image: Image): Rgba => {
    const known = read.get(image);
    if (known) return known;
    const { width, height } = sizeOf(image);
    const paper = scratch(width, height);
    paper.context.drawImage(image, 0, 0, width, height);
    const data = paper.context.getImageData(0, 0, width, height).data;
    release(paper);
    const pixels = { width, height, data };
    read.set(image, pixels);
    return pixels;
  };
  const store = new Map<string, Scratch<Image>>();
  let stored = 0;
  const kept = (name: string, make: () => Scratch<Image>): Scratch<Image> => {
    const known = store.get(name);
    // Least recently used first.
    if (known) store.delete(name);
    const found = known ?? make();
    store.set(name, found);
    if (!known) stored += found.width * found.height * 4;
    for (const [old, paper] of store) {
      if (stored <= keptBytes || old === name) break;
      store.delete(old);
      stored -= paper.width * paper.height * 4;
    }
    return found;
  };
  return { imageOf, sizeOf, pixelsOf, scratch, release, kept };
}

/** Sets a surface to how every drawing begins. */
export function resetContext<Image>(context: Surface2D<Image>): void {
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.globalAlpha = 1;
  context.globalCompositeOperation = 'source-over';
  context.filter = 'none';
  context.imageSmoothingEnabled = true;
  // Images come at nearly the size they are drawn at, where bilinear is as good as the dearer filters.
  context.imageSmoothingQuality = 'low';
}

/** Draws one paper over another by a composite operation. */
export function lay<Image>(paper: Scratch<Image>, over: Scratch<Image>, operation: string): void {
  resetContext(paper.context);
  paper.context.globalCompositeOperation = operation;
  paper.context.drawImage(over.image, 0, 0, over.width, over.height);
  resetContext(paper.context);
}
