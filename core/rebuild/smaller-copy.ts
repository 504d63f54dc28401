import { makeBytes, makePlane, type Bytes, type Plane, type Rgba } from '../pixels/raster.ts';
import { averagedTo, enlargedPlane } from '../pixels/resample.ts';

/** A picture at a size at which something is worked out faster; itself where it is no larger than that. */
export function smallerCopy(picture: Rgba, longest: number): Rgba {
  const shrink = Math.min(1, longest / Math.max(picture.width, picture.height));
  if (shrink === 1) return picture;
  return averagedTo(picture, Math.round(picture.width * shrink), Math.round(picture.height * shrink));
}

/** A mask at a smaller size: every pixel that holds any of it. */
export function anyOf({ width, height, data }: Bytes, w: number, h: number): Bytes {
  const out = makeBytes(w, h);
  for (let y = 0; y < height; y++) {
    const row = Math.min(h - 1, Math.floor((y * h) / height)) * w;
    for (let x = 0; x < width; x++)
      if (data[y * width + x]) out.data[row + Math.min(w - 1, Math.floor((x * w) / width))] = 1;
  }
  return out;
}

/** The picture with what a smaller copy of it shows in the hole. */
export function withEnlarged(picture: Rgba, hole: Bytes, small: Rgba): Rgba {
  const out: Rgba = { ...picture, data: picture.data.slice() };
  for (let c = 0; c < 3; c++) {
    const channel = enlargedPlane(channelOf(small, c), picture.width, picture.height);
    for (let i = 0; i < hole.data.length; i++) if (hole.data[i]) out.data[i * 4 + c] = channel.data[i]!;
  }
  return out;
}

function channelOf({ width, height, data }: Rgba, c: number): Plane {
  const plane = makePlane(width, height);
  for (let i = 0; i < plane.data.length; i++) plane.data[i] = data[i * 4 + c]!;
  return plane;
}
