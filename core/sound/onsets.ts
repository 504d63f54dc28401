import FFT from 'fft.js';

/** Frames of the novelty curve a second. */
export const noveltyRate = 100;
/** About how long a stretch is looked at, in seconds. */
const stretchLength = 0.043;

/**
 * How much new sound begins at each moment: spectral flux of the logarithmic spectrum, half-wave rectified, the mean of all
 * frequencies (Dixon, Onset Detection Revisited, DAFx 2006), `noveltyRate` values a second. Something loud raises the logarithm
 * most when it has only begun to come into the stretch that is looked at, so a value belongs to three quarters of that.
 * @param mono samples, -1..1  @param rate samples a second
 */
export function noveltyOf(mono: Float32Array, rate: number): Float32Array {
  const window = 2 ** Math.round(Math.log2(stretchLength * rate));
  const fft = new FFT(window);
  const hann = Float64Array.from({ length: window }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / window));
  const count = Math.ceil((mono.length / rate) * noveltyRate);
  const out = new Float32Array(count);
  const [input, spectrum] = [new Array<number>(window), fft.createComplexArray()];
  let before = new Float64Array(window / 2);
  let now = new Float64Array(window / 2);
  for (let n = 0; n < count; n++) {
    const start = Math.round((n / noveltyRate) * rate) - Math.round(0.75 * window);
    for (let i = 0; i < window; i++) input[i] = (mono[start + i] ?? 0) * hann[i]!;
    fft.realTransform(spectrum, input);
    let flux = 0;
    for (let bin = 1; bin < window / 2; bin++) {
      now[bin] = Math.log1p(10 * Math.hypot(spectrum[2 * bin]!, spectrum[2 * bin + 1]!));
      flux += Math.max(0, now[bin]! - before[bin]!);
    }
    // What is cut off at the end did not strike there.
    out[n] = start + window > mono.length ? 0 : flux / (window / 2);
    [before, now] = [now, before];
  }
  return out;
}

/** Seconds around a moment that it must stand out of, and the least between two loud starts. */
const [around, apart] = [0.5, 0.08];
/** Less novelty than this nobody hears as a start. */
const faint = 0.03;

/**
 * When loud things start, in seconds: maxima of the novelty that stand out of what is around them, as in Böck, Krebs and
 * Schedl (Evaluating the Online Capabilities of Onset Detection Methods, ISMIR 2012).
 */
export function loudStarts(novelty: Float32Array): { time: number; strength: number }[] {
  const top = novelty.reduce((a, b) => Math.max(a, b), 0);
  const reach = Math.round(around * noveltyRate);
  const near = Math.round(apart * noveltyRate);
  const found: { time: number; strength: number }[] = [];
  novelty.forEach((value, n) => {
    if (value < Math.max(faint, 0.12 * top)) return;
    for (let k = Math.max(0, n - near); k <= Math.min(novelty.length - 1, n + near); k++)
      if (novelty[k]! > value || (novelty[k] === value && k < n)) return;
    const stretch = novelty.subarray(Math.max(0, n - reach), n + reach + 1);
    const mean = stretch.reduce((sum, v) => sum + v, 0) / stretch.length;
    if (value > 2 * mean) found.push({ time: n / noveltyRate, strength: value / top });
  });
  return found;
}
