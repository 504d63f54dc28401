import { lumaOf } from '../pixels/color.ts';
import type { Rgba } from '../pixels/raster.ts';
import { cellOf, indexAt } from './blocks.ts';
import type { Scene } from './scene.ts';

/** Whole steps in one, of everything the edge network sees and keeps. */
export const inputUnit = 512;
/** Beyond this much nothing is told apart. */
const mostSeen = 2;

/** What is known of each block, in pairs, and how many blocks around one are looked at. */
export const channelPairs = [
  { of: ['cover', 'along'], reach: 2 },
  { of: ['luma above left', 'luma above right'], reach: 1 },
  { of: ['luma below left', 'luma below right'], reach: 1 },
  { of: ['alpha above left', 'alpha above right'], reach: 1 },
  { of: ['alpha below left', 'alpha below right'], reach: 1 },
] as const;

/** What is known of each cell: how far screen and subject are apart, and how sure that is. */
export const cellFacts = ['step', 'way', 'texture', 'blindness', 'noise'] as const;

/** Which channel of which block, counted from the one that is looked at, each input is. */
export const inputPlaces: readonly { channel: number; dx: number; dy: number }[] = channelPairs.flatMap(
  ({ reach }, pair) =>
    squareAround(reach).flatMap(([dx, dy]) => [0, 1].map((k) => ({ channel: pair * 2 + k, dx, dy }))),
);
export const inputCount = inputPlaces.length + cellFacts.length;

function squareAround(reach: number): [number, number][] {
  const side = 2 * reach + 1;
  return Array.from({ length: side * side }, (_, k) => [(k % side) - reach, Math.floor(k / side) - reach]);
}

/** What the edge network sees of a picture, in units of `inputUnit`. */
export interface EdgeInputs {
  width: number;
  height: number;
  /** A plane of blocks for each channel. */
  channels: Int16Array[];
  /** The facts of the cell of each block. */
  factsAt(block: number): Int16Array;
}

const whole = (v: number): number => Math.round(Math.max(-mostSeen, Math.min(mostSeen, v)) * inputUnit);

/** Squares of bytes that keep a share from being divided by nearly nothing: of colour, and of brightness. */
const [leastWay, leastStep] = [100, 36];
/** Bytes that count as one: of brightness, of its variation, of noise. */
const [lumaUnit, textureUnit, noiseUnit] = [64, 32, 5];
/** Step of brightness at which it tells half of what it can. */
const halfBlind = 16;

/**
 * Describes the blocks and pixels of a picture that stores colour at half size as shares of the way from screen to subject,
 * whatever their colours are, so that one network knows all screens.
 * @param cover of every block, 0..1
 */
export function edgeInputsOf(picture: Rgba, scene: Scene, cover: Float32Array): EdgeInputs {
  const { blocks } = scene;
  const { width, height } = blocks;
  const channels = channelPairs.flatMap(() => [new Int16Array(width * height), new Int16Array(width * height)]);
  const ways = waysOf(scene);
  for (let i = 0; i < cover.length; i++) {
    const way = ways[cellOf(blocks, i)]!;
    channels[0]![i] = whole(cover[i]!);
    channels[1]![i] = whole(shareOfColour(way, blocks.blue[i]!, blocks.red[i]!));
    for (let k = 0; k < 4; k++) {
      const seen = lumaAt(picture, (i % width) * 2 + (k & 1), Math.floor(i / width) * 2 + (k >> 1)) - way.behind[0];
      channels[2 + k]![i] = whole((way.step < 0 ? -seen : seen) / lumaUnit);
      channels[6 + k]![i] = whole((seen * way.step) / (way.step * way.step + leastStep));
    }
  }
  const facts = ways.map((way) => factsOf(way, scene.thresholds.noise));
  return { width, height, channels, factsAt: (block) => facts[cellOf(blocks, block)]! };
}

/** What lies between the screen's colour and the subject's in a cell. */
interface Way {
  behind: readonly [luma: number, blue: number, red: number];
  /** Luma of the subject less that of the screen, bytes. */
  step: number;
  /** The same of blue and red, as colour difference is stored. */
  blue: number;
  red: number;
  /** Variance of the subject's luma. */
  texture: number;
}

const [blueWeight, redWeight] = [1 / 1.8556, 1 / 1.5748];

function waysOf({ screen, subject }: Scene): Way[] {
  const own = subject.colours?.values ?? screen.values;
  return Array.from({ length: screen.values.length / 4 }, (_, cell) => {
    const o = cell * 4;
    const behind = [screen.values[o]!, screen.values[o + 1]!, screen.values[o + 2]!] as const;
    return {
      behind,
      step: own[o]! - behind[0],
      blue: (own[o + 1]! - behind[1]) * blueWeight,
      red: (own[o + 2]! - behind[2]) * redWeight,
      texture: subject.colours ? Math.max(0, own[o + 3]! - own[o]! * own[o]!) : 0,
    };
  });
}

const squareOf = ({ blue, red }: Way): number => blue * blue + red * red;

/** How far a colour has come from the screen's to the subject's, by its hue and strength alone. */
function shareOfColour(way: Way, blue: number, red: number): number {
  const along = (blue - way.behind[1]) * blueWeight * way.blue + (red - way.behind[2]) * redWeight * way.red;
  return along / (squareOf(way) + leastWay);
}

function factsOf(way: Way, noise: number): Int16Array {
  const step = Math.abs(way.step);
  const facts: Record<(typeof cellFacts)[number], number> = {
    step: step / lumaUnit,
    way: Math.sqrt(squareOf(way)) / lumaUnit,
    texture: Math.sqrt(way.texture) / textureUnit,
    blindness: halfBlind / (halfBlind + step),
    noise: noise / noiseUnit,
  };
  return Int16Array.from(cellFacts, (name) => whole(facts[name]));
}

/** The last row and column are repeated where a block reaches beyond them. */
function lumaAt({ width, height, data }: Rgba, x: number, y: number): number {
  const o = (Math.min(height - 1, y) * width + Math.min(width - 1, x)) * 4;
  return lumaOf(data[o]!, data[o + 1]!, data[o + 2]!);
}

/** What the network sees of one block. @param out `inputCount` long */
export function gatherInputs(inputs: EdgeInputs, bx: number, by: number, out: Int16Array): void {
  const { width, channels } = inputs;
  for (let k = 0; k < inputPlaces.length; k++) {
    const { channel, dx, dy } = inputPlaces[k]!;
    out[k] = channels[channel]![indexAt(inputs, bx + dx, by + dy)]!;
  }
  out.set(inputs.factsAt(by * width + bx), inputPlaces.length);
}
