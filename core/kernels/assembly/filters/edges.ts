import { at } from '../memory';

/* How strongly brightness changes (core/pixels/slopes.ts). */

/** 255 times what red, green and blue add to brightness. @param tables 256 doubles each of red, green and blue */
export function brightness(data: usize, pixels: i32, tables: usize, to: usize): void {
  for (let k = 0; k < pixels; k++) {
    const pixel = at(data, k, 4);
    const red = load<f64>(at(tables, load<u8>(pixel), 8));
    const green = load<f64>(at(tables, load<u8>(pixel, 1), 8), 2048);
    const blue = load<f64>(at(tables, load<u8>(pixel, 2), 8), 4096);
    store<f32>(at(to, k, 4), <f32>(255 * (red + green + blue)));
  }
}

/** Two floats as doubles. */
// @ts-ignore: a decorator of the compiler
@inline
function two(address: usize): v128 {
  return f64x2.promote_low_f32x4(v128.load64_zero(address));
}

/** Half the length of the difference of what lies on both sides; 0 on the border. @param to may not be `from` */
export function slopes(from: usize, width: i32, height: i32, to: usize): void {
  memory.fill(to, 0, <usize>(width * height * 4));
  const row = <usize>(width * 4);
  const half = f64x2.splat(0.5);
  for (let y = 1; y < height - 1; y++) {
    // Of the last two, one may lie on the border: it is cleared again.
    for (let x = 1; x < width - 1; x += 2) {
      const i = at(from, y * width + x, 4);
      const across = f64x2.sub(two(i + 4), two(i - 4));
      const down = f64x2.sub(two(i + row), two(i - row));
      const length = f64x2.sqrt(f64x2.add(f64x2.mul(across, across), f64x2.mul(down, down)));
      v128.store64_lane(at(to, y * width + x, 4), f32x4.demote_f64x2_zero(f64x2.mul(half, length)), 0);
    }
    store<f32>(at(to, (y + 1) * width - 1, 4), 0);
  }
}
