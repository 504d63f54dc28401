import type { Rgba } from '../pixels/raster.ts';
import { blocksOf, smallPicture } from './blocks.ts';
import { alphaOfHalvedColour, alphaOfPixels, coverOfBlocks } from './chroma-alpha.ts';
import type { Scene } from './scene.ts';
import { coloursOf } from './chroma-colours.ts';
import { colourSamplingOf } from './colour-sampling.ts';
import type { ChromaSettings, Keyed } from './keyed.ts';
import { distanceToScreen, findScreenColour, leastReach, measureScreen, meanColour, strengthOf } from './screen.ts';
import { mostNoise, noiseOf, noiseSteps } from './noise.ts';
import { steadyColours } from './steady-colour.ts';
import { measureSubject } from './subject.ts';

/** What is measured in a picture before its alpha is solved, and how much of every block is subject. */
export interface MeasuredScene {
  scene: Scene;
  cover: Float32Array;
  /** Whether the picture stores colour at half size. */
  halved: boolean;
}

/** Measures screen, noise and subject, and with them the cover of every block, 0..1. */
export function measureScene(picture: Rgba, settings: ChromaSettings): MeasuredScene {
  const sampling = colourSamplingOf(picture);
  const blocks = blocksOf(picture, sampling);
  const colours = settings.colours.length > 0 ? settings.colours : [findScreenColour(smallPicture(blocks))];
  const screen = measureScreen(blocks, colours, Math.max(settings.edge, leastReach));
  const strength = strengthOf(meanColour(screen));
  const [core, edge] = [settings.core * strength, settings.edge * strength];
  const distance = distanceToScreen(blocks, screen);
  const most = mostNoise(settings.core);
  const noise = noiseOf(countDistances(distance, most), most);
  const subject = measureSubject(blocks, distance, core, edge, strength, screen);
  const seen: Scene = { blocks, screen, subject, thresholds: { core, edge, noise } };
  const halved = sampling !== 'full';
  const scene = halved ? { ...seen, blocks: steadyColours(blocks, coverOfBlocks(seen)) } : seen;
  return { scene, cover: coverOfBlocks(scene), halved };
}

/**
 * Chroma key: colour difference to a screen that is measured from the picture itself, as is the subject's colour near its
 * edge. Alpha is where a colour lies on the way from the one to the other, which also gives the colour of the edge itself;
 * what the screen throws on the subject is taken off in proportion. In plain steps: `chromaKey` does the same many times as
 * fast where WebAssembly is there, and is tested against this.
 */
export function chromaKeyPlain(picture: Rgba, settings: ChromaSettings): Keyed {
  const { scene, cover, halved } = measureScene(picture, settings);
  const alpha = halved ? alphaOfHalvedColour(picture, scene, cover) : alphaOfPixels(picture, scene, cover);
  return { alpha, colours: coloursOf(picture, alpha, scene, halved, settings.spill) };
}

/** Counts every third distance below `most` in even steps. */
function countDistances(distance: Float32Array, most: number): Uint32Array {
  const counts = new Uint32Array(noiseSteps);
  for (let i = 0; i < distance.length; i += 3) {
    if (distance[i]! >= most) continue;
    const step = Math.floor((distance[i]! / most) * noiseSteps);
    counts[step] = counts[step]! + 1;
  }
  return counts;
}
