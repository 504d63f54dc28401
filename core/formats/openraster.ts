import { XMLBuilder, XMLParser } from 'fast-xml-parser';
import { blendModes, type BlendMode } from '../document/blend.ts';

/** A layer of a picture in layers, in pixels of the picture. */
export interface StackLayer {
  name: string;
  /** Its PNG within the ZIP. */
  src: string;
  x: number;
  y: number;
  opacity: number;
  visible: boolean;
  blend: BlendMode;
}

/** A picture in layers, the nearest first. */
export interface Stack {
  width: number;
  height: number;
  layers: StackLayer[];
}

/** Where things lie in an OpenRaster file (OpenRaster 0.0.6, File Layout). */
export const openRaster = {
  type: 'image/openraster',
  stack: 'stack.xml',
  merged: 'mergedimage.png',
  thumbnail: 'Thumbnails/thumbnail.png',
  /** The longest side of the thumbnail. */
  thumbnailEdge: 256,
} as const;

/** Thrown for a file that is no OpenRaster picture. */
export class UnreadableStack extends Error {
  constructor() {
    super('It is no picture in layers that can be read (OpenRaster).');
    this.name = 'UnreadableStack';
  }
}

const operatorOf = (blend: BlendMode): string =>
  blend === 'normal' ? 'svg:src-over' : blend === 'plus-lighter' ? 'svg:plus' : `svg:${blend}`;

/** Blend modes by their operators; those of the standard that Clyvo has no mode for are taken as normal, as it says. */
const modes: Record<string, BlendMode> = Object.fromEntries(
  blendModes.map((mode) => [operatorOf(mode).replace('svg:', ''), mode]),
);

/** stack.xml of a picture in layers (OpenRaster 0.0.6, Layer Stack). */
export function writeStack({ width, height, layers }: Stack): string {
  const options = { ignoreAttributes: false, attributeNamePrefix: '@', format: true, suppressEmptyNode: true };
  const layer = layers.map(({ name, src, x, y, opacity, visible, blend }) => ({
    '@name': name,
    '@src': src,
    '@x': x,
    '@y': y,
    '@opacity': Number(opacity.toFixed(4)),
    '@visibility': visible ? 'visible' : 'hidden',
    '@composite-op': operatorOf(blend),
  }));
  const image = { '@version': '0.0.6', '@w': width, '@h': height, '@xres': 72, '@yres': 72, stack: { layer } };
  return `<?xml version="1.0" encoding="UTF-8"?>\n${new XMLBuilder(options).build({ image })}`;
}

type Ordered = Record<string, unknown> & { ':@'?: Record<string, string> };

/** Groups in groups beyond this depth, and more layers than these, nobody draws. */
const [deepest, mostLayers] = [40, 500];

/**
 * The layers that stack.xml tells of, the nearest first; groups are taken apart, their places and opacities passed on.
 * @throws UnreadableStack
 */
export function readStack(text: string): Stack {
  if (/<!(ENTITY|DOCTYPE)/i.test(text)) throw new UnreadableStack();
  let tree: Ordered[];
  try {
    const options = { ignoreAttributes: false, attributeNamePrefix: '', preserveOrder: true };
    tree = new XMLParser(options).parse(text, true) as Ordered[];
  } catch {
    throw new UnreadableStack();
  }
  const image = tree.find((one) => 'image' in one);
  const [width, height] = ['w', 'h'].map((side) => Number(image?.[':@']?.[side])) as [number, number];
  const stack = (image?.image as Ordered[] | undefined)?.find((one) => 'stack' in one);
  if (!stack || !(width >= 1 && height >= 1 && width <= 30_000 && height <= 30_000)) throw new UnreadableStack();
  const layers = layersIn(stack, { x: 0, y: 0, opacity: 1, visible: true }, 0);
  if (layers.length === 0 || layers.length > mostLayers) throw new UnreadableStack();
  return { width: Math.round(width), height: Math.round(height), layers };
}

type Place = Pick<StackLayer, 'x' | 'y' | 'opacity' | 'visible'>;

function layersIn(stack: Ordered, around: Place, depth: number): StackLayer[] {
  if (depth > deepest) throw new UnreadableStack();
  const own = placed(stack, around);
  return (stack.stack as Ordered[]).flatMap((one): StackLayer[] => {
    if ('stack' in one) return layersIn(one, own, depth + 1);
    const told = one[':@'];
    if (!('layer' in one) || !told?.src) return [];
    const blend = modes[(told['composite-op'] ?? '').replace('svg:', '')] ?? 'normal';
    return [{ name: told.name?.trim() || 'Layer', src: told.src, blend, ...placed(one, own) }];
  });
}

function placed(one: Ordered, around: Place): Place {
  const told = one[':@'] ?? {};
  const number = (name: string, otherwise: number): number => {
    const value = Number(told[name] ?? otherwise);
    return Number.isFinite(value) ? value : otherwise;
  };
  return {
    x: around.x + number('x', 0),
    y: around.y + number('y', 0),
    opacity: around.opacity * Math.max(0, Math.min(1, number('opacity', 1))),
    visible: around.visible && told.visibility !== 'hidden',
  };
}
