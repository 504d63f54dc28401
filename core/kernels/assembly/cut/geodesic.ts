import { at } from '../memory';

/* Distances in colour from strokes, as core/cut/geodesic.ts finds them. */

let colours: usize = 0;
let distances: usize = 0;
let step: f64 = 0;
let freely: i32 = 0;

// @ts-ignore: a decorator of the compiler
@inline
function difference(p: usize, q: usize, channel: usize): i32 {
  return abs<i32>(<i32>load<u8>(p + channel) - <i32>load<u8>(q + channel));
}

/** The way to pixel `i` by its neighbour `j`, if it is shorter. */
// @ts-ignore: a decorator of the compiler
@inline
function relax(i: i32, j: i32): void {
  const p = at(colours, i, 4);
  const q = at(colours, j, 4);
  const change = max<i32>(0, difference(p, q, 0) + difference(p, q, 1) + difference(p, q, 2) - freely);
  const way = <f64>load<f32>(at(distances, j, 4)) + step + <f64>change;
  const own = at(distances, i, 4);
  if (way < <f64>load<f32>(own)) store<f32>(own, <f32>way);
}

function down(width: i32, height: i32): void {
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      if (x > 0) relax(i, i - 1);
      if (y == 0) continue;
      relax(i, i - width);
      if (x > 0) relax(i, i - width - 1);
      if (x + 1 < width) relax(i, i - width + 1);
    }
}

function up(width: i32, height: i32): void {
  for (let y = height - 1; y >= 0; y--)
    for (let x = width - 1; x >= 0; x--) {
      const i = y * width + x;
      if (x + 1 < width) relax(i, i + 1);
      if (y + 1 == height) continue;
      relax(i, i + width);
      if (x > 0) relax(i, i + width - 1);
      if (x + 1 < width) relax(i, i + width + 1);
    }
}

/** @param from f32 of each pixel: 0 where ways begin, infinity elsewhere; then their lengths */
export function colourDistances(
  rgba: usize,
  from: usize,
  width: i32,
  height: i32,
  rounds: i32,
  spatial: f64,
  free: i32,
): void {
  colours = rgba;
  distances = from;
  step = spatial;
  freely = free;
  for (let round = 0; round < rounds; round++) {
    down(width, height);
    up(width, height);
  }
}
