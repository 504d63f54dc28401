/**
 * The largest loudness in each of `count` equal stretches of a sound, for drawing it.
 * @returns `count` numbers, 0..1 for sound that is not overdriven
 */
export function peaksOf(mono: Float32Array, count: number): Float32Array<ArrayBuffer> {
  const out = new Float32Array(count);
  for (let k = 0; k < count; k++) {
    const end = Math.floor(((k + 1) * mono.length) / count);
    let most = 0;
    for (let i = Math.floor((k * mono.length) / count); i < end; i++) most = Math.max(most, Math.abs(mono[i]!));
    out[k] = most;
  }
  return out;
}
