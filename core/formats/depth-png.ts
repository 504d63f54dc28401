import { decode, encode } from 'fast-png';
import type { Plane } from '../pixels/raster.ts';

/** Thrown when a file is no depth map. */
export class UnreadableDepthMap extends Error {
  constructor() {
    super('This is no depth map: a grey PNG is wanted, light where things are near.');
    this.name = 'UnreadableDepthMap';
  }
}

/** A 16-bit grey PNG, white nearest: how depth maps are exchanged. */
export function writeDepthPng({ width, height, data }: Plane): Uint8Array {
  const values = Uint16Array.from(data, (v) => Math.round(Math.max(0, Math.min(1, v)) * 65_535));
  return encode({ width, height, data: values, depth: 16, channels: 1 });
}

/** Closeness 0..1 from a PNG of 8 or 16 bits; of coloured ones the first channel. @throws UnreadableDepthMap */
export function readDepthPng(bytes: Uint8Array): Plane {
  const image = read(bytes);
  const { width, height, channels, data } = image;
  if (image.depth !== 8 && image.depth !== 16) throw new UnreadableDepthMap();
  const most = 2 ** image.depth - 1;
  const out = new Float32Array(width * height);
  for (let i = 0; i < out.length; i++) out[i] = data[i * channels]! / most;
  return { width, height, data: out };
}

function read(bytes: Uint8Array) {
  try {
    return decode(bytes);
  } catch {
    throw new UnreadableDepthMap();
  }
}
