/** Bilinear with the middles of pixels at halves; `channels` is a multiple of 4. */
export function resizeBilinear(
  from: usize,
  to: usize,
  height: i32,
  width: i32,
  channels: i32,
  outHeight: i32,
  outWidth: i32,
): void {
  const step = <usize>(channels * 4);
  const down = <f32>height / <f32>outHeight;
  const across = <f32>width / <f32>outWidth;
  for (let y = 0; y < outHeight; y++) {
    const v = max((<f32>y + 0.5) * down - 0.5, <f32>0);
    const y0 = min(<i32>v, height - 1);
    const y1 = min(y0 + 1, height - 1);
    const fy = f32x4.splat(v - <f32>y0);
    for (let x = 0; x < outWidth; x++) {
      const u = max((<f32>x + 0.5) * across - 0.5, <f32>0);
      const x0 = min(<i32>u, width - 1);
      const x1 = min(x0 + 1, width - 1);
      const fx = f32x4.splat(u - <f32>x0);
      const a = from + <usize>(y0 * width + x0) * step;
      const b = from + <usize>(y0 * width + x1) * step;
      const c = from + <usize>(y1 * width + x0) * step;
      const d = from + <usize>(y1 * width + x1) * step;
      const out = to + <usize>(y * outWidth + x) * step;
      for (let k: usize = 0; k < step; k += 16) {
        const upper = between(v128.load(a + k), v128.load(b + k), fx);
        const lower = between(v128.load(c + k), v128.load(d + k), fx);
        v128.store(out + k, between(upper, lower, fy));
      }
    }
  }
}

// @ts-ignore: decorator
@inline
function between(a: v128, b: v128, t: v128): v128 {
  return f32x4.add(a, f32x4.mul(f32x4.sub(b, a), t));
}
