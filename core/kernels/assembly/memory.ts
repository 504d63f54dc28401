/* What every kernel exports beside its memory itself, and where numbers lie in it. */

/** Makes memory reach up to `bytes`. */
export function reserve(bytes: usize): void {
  const pages = <i32>(bytes >> 16) + ((bytes & 0xffff) != 0 ? 1 : 0);
  const missing = pages - memory.size();
  if (missing > 0 && memory.grow(missing) < 0) unreachable();
}

/** Where free memory begins. */
export function freeFrom(): usize {
  return (__heap_base + 15) & ~15;
}

/** Where the number of an index lies, `bytes` each. */
// @ts-ignore: a decorator of the compiler
@inline
export function at(base: usize, index: i32, bytes: i32): usize {
  return base + (<usize>index) * <usize>bytes;
}
