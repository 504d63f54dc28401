/* What every kernel exports beside its memory itself. */

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
