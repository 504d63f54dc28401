import type { Bytes, Rgba } from '../core/pixels/raster.ts';
import { seededRandom } from '../core/pixels/random.ts';
import { courseAround, insideOf, isEdge } from '../core/key/chroma-alpha.ts';
import { cellFacts, edgeInputsOf, gatherInputs, inputCount, inputPlaces, inputUnit } from '../core/key/edge-inputs.ts';
import { defaultChroma } from '../core/key/keyed.ts';
import { measureScene } from '../core/key/plain-chroma.ts';

/** Numbers of a sample: what the network sees of a block, the even course of its four pixels, and their true alpha, 0..1. */
export const sampleLength = inputCount + 8;

/**
 * The blocks of a shot that lie in an edge, one sample after another. A shot whose colour seems to be stored in full has none:
 * there the network is not asked.
 * @param most so many at most, chosen evenly
 */
export function samplesOf(picture: Rgba, truth: Bytes, most: number, seed: number): Float32Array {
  const { scene, cover, halved } = measureScene(picture, defaultChroma);
  if (!halved) return new Float32Array();
  const { blocks } = scene;
  const inside = insideOf(scene, cover);
  const course = new Float64Array(4);
  const edges = Array.from(cover.keys()).filter((i) => {
    courseAround(cover, blocks, i % blocks.width, Math.floor(i / blocks.width), course);
    return isEdge(course) && inside[i]! < 0.999;
  });
  const random = seededRandom(seed);
  const chosen = edges.filter(() => random() * edges.length < most);
  const inputs = edgeInputsOf(picture, scene, cover);
  const seen = new Int16Array(inputCount);
  const samples = new Float32Array(chosen.length * sampleLength);
  for (const [n, i] of chosen.entries()) {
    const [bx, by, o] = [i % blocks.width, Math.floor(i / blocks.width), n * sampleLength];
    gatherInputs(inputs, bx, by, seen);
    for (let k = 0; k < inputCount; k++) samples[o + k] = seen[k]! / inputUnit;
    courseAround(cover, blocks, bx, by, course);
    samples.set(course, o + inputCount);
    for (let k = 0; k < 4; k++) {
      const [x, y] = [Math.min(truth.width - 1, bx * 2 + (k & 1)), Math.min(truth.height - 1, by * 2 + (k >> 1))];
      samples[o + inputCount + 4 + k] = truth.data[y * truth.width + x]! / 255;
    }
  }
  return samples;
}

/**
 * The eight ways in which a picture can be turned and mirrored: for each, which number of a sample stands at each place of the
 * sample of the turned picture. An edge knows no up and down, so that each sample is worth eight.
 */
export const turnedSamples: readonly Int32Array[] = Array.from({ length: 8 }, (_, turn) => {
  const placeOf = (dx: number, dy: number): [number, number] => {
    const [x, y] = turn & 4 ? [dy, dx] : [dx, dy];
    return [turn & 1 ? -x : x, turn & 2 ? -y : y];
  };
  const pixelOf = (k: number): number => {
    const [x, y] = placeOf((k & 1) * 2 - 1, (k >> 1) * 2 - 1);
    return (x > 0 ? 1 : 0) + (y > 0 ? 2 : 0);
  };
  /** The four pixels of a block are four channels. */
  const channelOf = (channel: number): number =>
    channel < 2 ? channel : channel < 6 ? 2 + pixelOf(channel - 2) : 6 + pixelOf(channel - 6);
  const indices = new Map(inputPlaces.map(({ channel, dx, dy }, k) => [`${channel} ${dx} ${dy}`, k]));
  return Int32Array.from([
    ...inputPlaces.map(({ channel, dx, dy }) => indices.get([channelOf(channel), ...placeOf(dx, dy)].join(' '))!),
    ...cellFacts.map((_fact, k) => inputPlaces.length + k),
    ...[0, 4].flatMap((from) => [0, 1, 2, 3].map((k) => inputCount + from + pixelOf(k))),
  ]);
});
