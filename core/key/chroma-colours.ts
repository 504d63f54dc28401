import { lumaOf } from '../pixels/color.ts';
import { makeRgba, type Bytes, type Rgba } from '../pixels/raster.ts';
import { cellOf, rgbOf } from './blocks.ts';
import type { Scene } from './scene.ts';
import { meanColour } from './screen.ts';
import { hueOf, takeSpill } from './spill.ts';

/** Alpha below which a colour is no longer told from what is left of it. */
const [leastAlpha, leastCover] = [0.06, 0.1];

/**
 * The subject's own colours, straight, with its alpha: what the screen shines through is taken out of the edge (Smith &
 * Blinn 1996), and what it throws on the subject in proportion.
 * @param halved the picture stores colour at half size: then an edge has the colour of its block, as its pixels' are blurred,
 * and the fainter it is, the more that of the subject beside it  @param spill 0..1
 */
export function coloursOf(picture: Rgba, alpha: Bytes, scene: Scene, halved: boolean, spill: number): Rgba {
  const { width, height, data } = picture;
  const out = makeRgba(width, height);
  const hue = hueOf(meanColour(scene.screen));
  const colour = new Float64Array(3);
  for (let y = 0, i = 0; y < height; y++) {
    for (let x = 0; x < width; x++, i++) {
      const a = alpha.data[i]!;
      if (a === 0) continue;
      const block = (y >> 1) * scene.blocks.width + (x >> 1);
      for (let c = 0; c < 3; c++) colour[c] = data[i * 4 + c]!;
      if (halved && !solidAround(alpha, x, y)) colourOfHalvedEdge(scene, block, a / 255, coverAt(alpha, x, y), colour);
      else if (a < 255) unmix(scene, block, Math.max(leastAlpha, a / 255), colour);
      for (let c = 0; c < 3; c++) colour[c] = Math.max(0, Math.min(255, colour[c]!));
      takeSpill(colour, hue, spill);
      out.data.set(colour, i * 4);
      out.data[i * 4 + 3] = a;
    }
  }
  return out;
}

function unmix({ blocks, screen }: Scene, block: number, a: number, colour: Float64Array): void {
  const o = cellOf(blocks, block) * 4;
  const behind = rgbOf(screen.values[o]!, screen.values[o + 1]!, screen.values[o + 2]!);
  for (let c = 0; c < 3; c++) colour[c] = behind[c]! + (colour[c]! - behind[c]!) / a;
}

function colourOfHalvedEdge(
  { blocks, screen, subject }: Scene,
  block: number,
  a: number,
  cover: number,
  colour: Float64Array,
): void {
  const o = cellOf(blocks, block) * 4;
  const behind = screen.values;
  const own = (subject.colours ?? screen).values;
  const seen = lumaOf(colour[0]!, colour[1]!, colour[2]!);
  const luma = behind[o]! + (seen - behind[o]!) / Math.max(leastAlpha, a);
  const gain = 1 / Math.max(leastCover, cover);
  const blue = behind[o + 1]! + (blocks.blue[block]! - behind[o + 1]!) * gain;
  const red = behind[o + 2]! + (blocks.red[block]! - behind[o + 2]!) * gain;
  const towards = (from: number, to: number, t: number): number => from + (to - from) * t;
  const mixed = [
    towards(own[o]!, luma, a),
    towards(own[o + 1]!, blue, cover),
    towards(own[o + 2]!, red, cover),
  ] as const;
  colour.set(rgbOf(...mixed));
}

/** Whether the block of a pixel and all blocks around it are solid. */
function solidAround({ width, height, data }: Bytes, x: number, y: number): boolean {
  const [left, top] = [x & ~1, y & ~1];
  for (let v = Math.max(0, top - 2); v < Math.min(height, top + 4); v++)
    for (let u = Math.max(0, left - 2); u < Math.min(width, left + 4); u++)
      if (data[v * width + u]! < 255) return false;
  return true;
}

/** Mean alpha of the block of a pixel, 0..1. */
function coverAt({ width, height, data }: Bytes, x: number, y: number): number {
  const [left, top] = [x & ~1, y & ~1];
  const [right, bottom] = [Math.min(width - 1, left + 1), Math.min(height - 1, top + 1)];
  const sum =
    data[top * width + left]! +
    data[top * width + right]! +
    data[bottom * width + left]! +
    data[bottom * width + right]!;
  return sum / (4 * 255);
}
