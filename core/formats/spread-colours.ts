/** One level of a picture that is halved and halved: colours, and how much of each pixel is known. */
interface Level {
  width: number;
  height: number;
  /** Red, green, blue and weight 0..1 of each pixel. */
  data: Float32Array;
}

/**
 * Gives pixels that are wholly transparent the colours of what is visible around them, in place, so that a coder that mixes
 * neighbours mixes no black into soft edges: push-pull of Gortler et al., The Lumigraph (SIGGRAPH 1996). Alpha stays.
 * @param rgba straight alpha, `width` x `height`
 */
export function spreadColours(rgba: Uint8ClampedArray, width: number, height: number): void {
  if (!hasClear(rgba)) return;
  const levels: Level[] = [firstLevel(rgba, width, height)];
  for (let last = levels[0]!; last.width > 1 || last.height > 1; last = levels.at(-1)!) levels.push(halved(last));
  for (let k = levels.length - 2; k >= 0; k--) fillFrom(levels[k]!, levels[k + 1]!);
  const { data } = levels[0]!;
  for (let i = 0; i < rgba.length; i += 4) {
    if (rgba[i + 3] !== 0) continue;
    rgba[i] = data[i]!;
    rgba[i + 1] = data[i + 1]!;
    rgba[i + 2] = data[i + 2]!;
  }
}

function hasClear(rgba: Uint8ClampedArray): boolean {
  for (let i = 3; i < rgba.length; i += 4) if (rgba[i] === 0) return true;
  return false;
}

function firstLevel(rgba: Uint8ClampedArray, width: number, height: number): Level {
  // Not `from`, which would go through an iterator.
  const data = new Float32Array(rgba);
  for (let i = 3; i < data.length; i += 4) data[i]! /= 255;
  return { width, height, data };
}

function halved({ width, height, data }: Level): Level {
  const [w, h] = [Math.ceil(width / 2), Math.ceil(height / 2)];
  const out = new Float32Array(w * h * 4);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const [from, to] = [(y * width + x) * 4, ((y >> 1) * w + (x >> 1)) * 4];
      const weight = data[from + 3]!;
      if (weight === 0) continue;
      out[to]! += weight * data[from]!;
      out[to + 1]! += weight * data[from + 1]!;
      out[to + 2]! += weight * data[from + 2]!;
      out[to + 3]! += weight;
    }
  for (let i = 0; i < out.length; i += 4) {
    const weight = out[i + 3]!;
    if (weight > 0) for (let c = 0; c < 3; c++) out[i + c]! /= weight;
    out[i + 3] = Math.min(1, weight);
  }
  return { width: w, height: h, data: out };
}

/** What a level does not know, the coarser one tells. */
function fillFrom({ width, height, data }: Level, coarse: Level): void {
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const [to, from] = [(y * width + x) * 4, ((y >> 1) * coarse.width + (x >> 1)) * 4];
      const weight = data[to + 3]!;
      if (weight >= 1) continue;
      for (let c = 0; c < 3; c++) data[to + c] = weight * data[to + c]! + (1 - weight) * coarse.data[from + c]!;
      data[to + 3] = 1;
    }
}
