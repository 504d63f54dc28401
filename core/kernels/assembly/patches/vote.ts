import { at } from '../memory';

/* What the patches around a pixel propose, as core/rebuild/vote.ts takes it together. */

const patchRadius: i32 = 3;
/** Variance below which proposals count as one, and (squared colour distance)^2 at which one counts half. */
const agreement: f64 = 3;
const modeWidth: f64 = 90000;
/** Weight and colour of up to 49 proposals, as f64. */
const proposals: usize = memory.data(49 * 32);

/**
 * @param targets i32 centres, of which those from..to - 1 are taken  @param known a byte a pixel
 * @param match i32, weight f32 a pixel  @param result three bytes a target
 */
export function voteTargets(
  targets: usize, from: i32, to: i32, width: i32, pixels: usize, known: usize, match: usize, weight: usize, result: usize,
  sharpen: bool,
): void {
  for (let k = from; k < to; k++) {
    const t = load<i32>(at(targets, k, 4));
    if (load<u8>(known + <usize>t) != 0) continue;
    let end = proposals;
    let sum: f64 = 0;
    let r: f64 = 0;
    let g: f64 = 0;
    let b: f64 = 0;
    let squares: f64 = 0;
    for (let dy = -patchRadius; dy <= patchRadius; dy++) {
      for (let dx = -patchRadius; dx <= patchRadius; dx++) {
        const c = t + dy * width + dx;
        const m = load<i32>(at(match, c, 4));
        if (m == 0) continue;
        const p = at(pixels, m - dy * width - dx, 4);
        const w = <f64>load<f32>(at(weight, c, 4));
        const pr = <f64>load<u8>(p);
        const pg = <f64>load<u8>(p, 1);
        const pb = <f64>load<u8>(p, 2);
        store<f64>(end, w);
        store<f64>(end, pr, 8);
        store<f64>(end, pg, 16);
        store<f64>(end, pb, 24);
        end += 32;
        sum += w;
        r += w * pr;
        g += w * pg;
        b += w * pb;
        squares += w * (pr * pr + pg * pg + pb * pb);
      }
    }
    const out = result + <usize>(k * 3);
    if (sum <= 0) {
      const p = at(pixels, t, 4);
      store<u8>(out, load<u8>(p));
      store<u8>(out, load<u8>(p, 1), 1);
      store<u8>(out, load<u8>(p, 2), 2);
      continue;
    }
    r /= sum;
    g /= sum;
    b /= sum;
    if (sharpen && squares / sum - (r * r + g * g + b * b) > agreement) {
      for (let pass = 0; pass < 2; pass++) {
        let s: f64 = 0;
        let sr: f64 = 0;
        let sg: f64 = 0;
        let sb: f64 = 0;
        for (let p = proposals; p < end; p += 32) {
          const dr = load<f64>(p, 8) - r;
          const dg = load<f64>(p, 16) - g;
          const db = load<f64>(p, 24) - b;
          const d = dr * dr + dg * dg + db * db;
          const w = load<f64>(p) / (1.0 + (d * d) / modeWidth);
          s += w;
          sr += w * load<f64>(p, 8);
          sg += w * load<f64>(p, 16);
          sb += w * load<f64>(p, 24);
        }
        r = sr / s;
        g = sg / s;
        b = sb / s;
      }
    }
    store<u8>(out, <u8>(<i32>(r + 0.5)));
    store<u8>(out, <u8>(<i32>(g + 0.5)), 1);
    store<u8>(out, <u8>(<i32>(b + 0.5)), 2);
  }
}

/** Writes the results into the pixels of the hole. */
export function takeOver(targets: usize, count: i32, pixels: usize, known: usize, result: usize): void {
  for (let k = 0; k < count; k++) {
    const t = load<i32>(at(targets, k, 4));
    if (load<u8>(known + <usize>t) != 0) continue;
    const from = result + <usize>(k * 3);
    const to = at(pixels, t, 4);
    store<u8>(to, load<u8>(from));
    store<u8>(to, load<u8>(from, 1), 1);
    store<u8>(to, load<u8>(from, 2), 2);
  }
}
