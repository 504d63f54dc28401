/** A plane of f32 at a place given in its pixels, bilinear; beyond its border as at the border. */
// @ts-ignore: a decorator of the compiler
@inline
export function closenessAt(map: usize, width: i32, height: i32, u: f32, v: f32): f32 {
  const x = max<f32>(0, min<f32>(<f32>width - 1.001, u - 0.5));
  const y = max<f32>(0, min<f32>(<f32>height - 1.001, v - 0.5));
  const left = <i32>x;
  const top = <i32>y;
  const at = map + <usize>((top * width + left) * 4);
  const next = at + <usize>(width * 4);
  const fx = x - <f32>left;
  const above = load<f32>(at) + (load<f32>(at + 4) - load<f32>(at)) * fx;
  const below = load<f32>(next) + (load<f32>(next + 4) - load<f32>(next)) * fx;
  return above + (below - above) * (y - <f32>top);
}
