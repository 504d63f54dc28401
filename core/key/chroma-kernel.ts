import { chromaCode } from '../kernels/built/chroma.ts';
import { Layout, type Kernel } from '../kernels/instance.ts';
import { lumaOf } from '../pixels/color.ts';
import { makeBytes, makeRgba, type Rgba } from '../pixels/raster.ts';
import { cellBlocks, rgbOf } from './blocks.ts';
import {
  colourDifferences,
  everyLine,
  groupsOfColumns,
  groupsOfRows,
  samplingBy,
  type ColourSampling,
  type Traces,
} from './colour-sampling.ts';
import { edgeLayers, layerSizes } from './edge-network.ts';
import type { ChromaSettings, Keyed } from './keyed.ts';
import { mostNoise, noiseOf, noiseSteps } from './noise.ts';
import {
  findScreenColour,
  leastReach,
  reachOf,
  rimOf,
  screenPasses,
  screenSmoothings,
  strengthOf,
  type Rgb,
} from './screen.ts';
import { hueOf } from './spill.ts';
import { deepReach, grown, mixingReach } from './subject.ts';

/** What the kernel in core/kernels/assembly/chroma exports; addresses are numbers. */
interface ChromaExports extends Kernel {
  blocksOf(picture: number, width: number, height: number, blended: boolean, rows: number, ...planes: number[]): void;
  tracesAcross(...numbers: number[]): void;
  tracesDown(...numbers: number[]): void;
  sumCells(...numbers: number[]): void;
  measureScreen(...numbers: number[]): number;
  smoothScreen(values: number, columns: number, rows: number, rounds: number, scratch: number): void;
  distanceToScreen(...numbers: number[]): void;
  countDistances(...numbers: number[]): number;
  measureSubject(...numbers: number[]): number;
  measureDeep(...numbers: number[]): number;
  preferDeep(colours: number, deep: number, screen: number, count: number): void;
  describeBlocks(...numbers: number[]): void;
  describeScene(...numbers: number[]): void;
  cellsOfScreen(ranges: number, count: number, edge: number, out: number): void;
  coverOfBlocks(...numbers: number[]): void;
  blocksInEdge(cover: number, flags: number): number;
  steadyBytes(rowBlocks: number, rows: number): number;
  steadyColours(flags: number, copies: number): void;
  coverOfSteadyBlocks(flags: number, cover: number): void;
  alphaOfPixels(picture: number, cover: number, alpha: number): void;
  edgeBytes(rowBlocks: number, rows: number): number;
  describeEdges(...numbers: number[]): void;
  alphaOfHalvedColour(cover: number, alpha: number, solid: number): void;
  describeSpill(amount: number, high: number, middle: number, low: number, single: boolean): void;
  coloursOf(picture: number, alpha: number, solid: number, out: number): void;
}

/** Pixels up to which the memory of a picture is kept for the next: frames of a clip, not large photographs. */
const keptPixels = 4e6;
let kept: ChromaExports | null = null;

export const hasChromaKernel = (): boolean => chromaCode.runs;

/** As `chromaKeyPlain`, four colours at a time in WebAssembly. */
export function chromaKeyByKernel(picture: Rgba, settings: ChromaSettings): Keyed {
  const large = picture.width * picture.height > keptPixels;
  const kernel = large ? chromaCode.instance<ChromaExports>() : (kept ??= chromaCode.instance());
  return new ChromaRun(kernel, picture).key(settings);
}

/** One picture in a kernel's memory, its sides filled up to whole vectors. */
class ChromaRun {
  /** Pixels of a row, a multiple of eight, and rows, a multiple of two. */
  private readonly wide: number;
  private readonly high: number;
  /** Blocks that are there, and blocks of a row with those that fill it up. */
  private readonly blocksAcross: number;
  private readonly blocksDown: number;
  private readonly stride: number;
  private readonly columns: number;
  private readonly rows: number;
  private readonly at: ReturnType<typeof layOut>;

  constructor(
    private readonly kernel: ChromaExports,
    private readonly picture: Rgba,
  ) {
    const { width, height } = picture;
    this.wide = (width + 7) & ~7;
    this.high = (height + 1) & ~1;
    this.blocksAcross = (width + 1) >> 1;
    this.blocksDown = this.high >> 1;
    this.stride = this.wide >> 1;
    this.columns = this.stride / cellBlocks;
    this.rows = Math.ceil(this.blocksDown / cellBlocks);
    this.at = layOut(kernel, this.wide, this.high, this.columns * this.rows);
    this.writePicture();
  }

  key({ colours, spill, ...settings }: ChromaSettings): Keyed {
    const { kernel, at } = this;
    const sampling = this.colourSampling();
    const planes = [at.luma, at.blue, at.red] as const;
    kernel.blocksOf(at.picture, this.wide, this.high, sampling === 'blended', at.rows, ...planes);
    kernel.describeBlocks(this.blocksAcross, this.blocksDown, this.stride, ...planes);
    const samples = colours.length > 0 ? colours : [findScreenColour(this.smallPicture())];
    this.measureScreen(samples, Math.max(settings.edge, leastReach));
    const mean = this.meanScreen();
    const strength = strengthOf(mean);
    const [core, edge] = [settings.core * strength, settings.edge * strength];
    const noise = this.measureNoise(mostNoise(settings.core));
    const subject = this.measureSubject(core, edge, strength);
    kernel.describeScene(at.screen, subject, at.near, at.mixture, core, edge, noise);
    const halved = sampling !== 'full';
    kernel.coverOfBlocks(at.ranges, at.distance, at.scratch);
    if (halved) {
      this.steadyEdges();
      this.fill(at.solid, (this.stride + 8) * (this.blocksDown + 2), 1);
      this.describeEdges();
      kernel.alphaOfHalvedColour(at.distance, at.alpha, at.solid);
    } else {
      kernel.alphaOfPixels(at.picture, at.distance, at.alpha);
    }
    const hue = hueOf(mean);
    kernel.describeSpill(hue ? spill : 0, hue?.high ?? 0, hue?.middle ?? 1, hue?.low ?? 2, hue?.single ?? true);
    kernel.coloursOf(at.picture, at.alpha, halved ? at.solid : 0, at.colours);
    return this.result();
  }

  private bytes(from: number, length: number): Uint8Array {
    return new Uint8Array(this.kernel.memory.buffer, from, length);
  }

  private floats(from: number, length: number): Float32Array {
    return new Float32Array(this.kernel.memory.buffer, from, length);
  }

  private fill(from: number, length: number, value: number): void {
    this.bytes(from, length).fill(value);
  }

  /** Rows and columns that fill the picture up repeat its last ones. */
  private writePicture(): void {
    const { width, height, data } = this.picture;
    const { wide, high, at } = this;
    const memory = this.bytes(at.picture, wide * high * 4);
    if (wide === width) memory.set(data);
    else {
      for (let y = 0; y < height; y++) {
        memory.set(data.subarray(y * width * 4, (y + 1) * width * 4), y * wide * 4);
        const last = (y * wide + width - 1) * 4;
        for (let x = width; x < wide; x++) memory.copyWithin((y * wide + x) * 4, last, last + 4);
      }
    }
    if (high > height) memory.copyWithin(height * wide * 4, (height - 1) * wide * 4, height * wide * 4);
  }

  private colourSampling(): ColourSampling {
    const { kernel, at, wide } = this;
    const { width, height } = this.picture;
    const traces = (look: (weights: readonly [number, number, number]) => void): Traces => {
      this.fill(at.counts, 24, 0);
      colourDifferences.forEach(look);
      const [a = 0, b = 0, c = 0, d = 0, e = 0, f = 0] = this.floats(at.counts, 6);
      return { repeated: [a, b], blended: [c, d], count: [e, f] };
    };
    const rows = everyLine(height, groupsOfRows);
    const columns = everyLine(width, groupsOfColumns);
    return samplingBy(
      traces((w) => kernel.tracesAcross(at.picture, width, height, wide, rows, at.rows, ...w, at.counts)),
      () => traces((w) => kernel.tracesDown(at.picture, width, height, wide, columns, ...w, at.counts)),
    );
  }

  /** One pixel for each cell along the borders, where the screen is looked for. */
  private smallPicture(): Rgba {
    const { at, columns, rows } = this;
    this.fill(at.subject, columns * rows * 16, 0);
    this.kernel.sumCells(rimOf(columns, rows), at.subject);
    const sums = this.floats(at.subject, columns * rows * 4);
    const small = makeRgba(columns, rows);
    for (let o = 0; o < sums.length; o += 4) {
      const n = sums[o + 3]!;
      if (n === 0) continue;
      const [r, g, b] = rgbOf(sums[o]! / n, sums[o + 1]! / n, sums[o + 2]! / n);
      small.data[o] = r;
      small.data[o + 1] = g;
      small.data[o + 2] = b;
      small.data[o + 3] = 255;
    }
    return small;
  }

  private measureScreen(samples: readonly Rgb[], within: number): void {
    const { kernel, at, columns, rows } = this;
    const colours = samples.slice(0, mostSamples).map(([r, g, b]) => {
      const luma = lumaOf(r, g, b);
      return [luma, b - luma, r - luma, 0];
    });
    this.floats(at.samples, colours.length * 4).set(colours.flat());
    screenPasses.forEach(({ every, enough, share }, pass) => {
      const reach = pass === 0 ? within : reachOf(share, within);
      const count = pass === 0 ? colours.length : 0;
      const places = [at.screen, at.weight, at.scratch] as const;
      if (kernel.measureScreen(at.samples, count, reach, enough, every, ...places)) return;
      const cells = this.floats(at.screen, columns * rows * 4);
      for (let o = 0; o < cells.length; o += 4) cells.set(colours[0]!, o);
    });
    kernel.smoothScreen(at.screen, columns, rows, screenSmoothings, at.scratch);
    kernel.distanceToScreen(at.screen, at.distance, at.ranges);
  }

  private measureNoise(most: number): number {
    const { at } = this;
    this.fill(at.counts, noiseSteps * 4, 0);
    this.kernel.countDistances(at.distance, most, at.counts);
    return noiseOf(new Uint32Array(this.kernel.memory.buffer, at.counts, noiseSteps).slice(), most);
  }

  /** @returns where the subject's colours are; 0 where nothing of it is seen */
  private measureSubject(core: number, edge: number, strength: number): number {
    const { kernel, at, columns, rows } = this;
    kernel.cellsOfScreen(at.ranges, columns * rows, edge, at.near);
    const near = this.bytes(at.near, columns * rows);
    near.set(grown(near, columns, rows, mixingReach));
    const known = [at.distance, at.ranges, at.near] as const;
    const seen = kernel.measureSubject(...known, core, edge, strength, at.subject, at.weight, at.scratch);
    this.bytes(at.wanted, columns * rows).set(grown(near, columns, rows, deepReach));
    if (!kernel.measureDeep(at.distance, at.near, at.wanted, edge, at.deep, at.weight, at.scratch))
      return seen ? at.subject : 0;
    if (!seen) return at.deep;
    kernel.preferDeep(at.subject, at.deep, at.screen, columns * rows);
    return at.subject;
  }

  /** Alpha is not there yet, so that its place serves for the flags. */
  private steadyEdges(): void {
    const { kernel, at } = this;
    if (!kernel.blocksInEdge(at.distance, at.alpha)) return;
    kernel.steadyColours(at.alpha, at.copies);
    kernel.coverOfSteadyBlocks(at.alpha, at.distance);
  }

  private describeEdges(): void {
    const { kernel, at } = this;
    this.bytes(at.network, networkBytes).set(networkInMemory());
    const seen = [at.picture, at.distance, at.seen, at.described] as const;
    kernel.describeEdges(...seen, at.network, layerSizes.length - 1, at.told);
  }

  private meanScreen(): Rgb {
    const cells = this.floats(this.at.screen, this.columns * this.rows * 4);
    let [luma, blue, red] = [0, 0, 0];
    for (let o = 0; o < cells.length; o += 4) {
      luma += cells[o]!;
      blue += cells[o + 1]!;
      red += cells[o + 2]!;
    }
    const count = cells.length / 4;
    return rgbOf(luma / count, blue / count, red / count);
  }

  private result(): Keyed {
    const { at, wide, high } = this;
    const { width, height } = this.picture;
    if (wide === width) {
      const { buffer } = this.kernel.memory;
      const alpha = new Uint8Array(buffer.slice(at.alpha, at.alpha + width * height));
      const colours = new Uint8ClampedArray(buffer.slice(at.colours, at.colours + width * height * 4));
      return { alpha: { width, height, data: alpha }, colours: { width, height, data: colours } };
    }
    const [alpha, colours] = [makeBytes(width, height), makeRgba(width, height)];
    const madeAlpha = this.bytes(at.alpha, wide * high);
    const madeColours = this.bytes(at.colours, wide * high * 4);
    for (let y = 0; y < height; y++) {
      alpha.data.set(madeAlpha.subarray(y * wide, y * wide + width), y * width);
      colours.data.set(madeColours.subarray(y * wide * 4, (y * wide + width) * 4), y * width * 4);
    }
    return { alpha, colours };
  }
}

/** Samples of a screen that are looked at; people pick a handful. */
const mostSamples = 64;

/** Inputs come in pairs; a last odd one stands beside a nothing. */
const pairsOf = (inputs: number): number => (inputs + 1) >> 1;
const networkBytes = layerSizes.slice(1).reduce((sum, n, k) => sum + 4 + n * (4 + 4 * pairsOf(layerSizes[k]!)), 0);
let inMemory: Uint8Array | null = null;

/**
 * The edge network as the kernel reads it: how many neurons each layer has; then of each its starts, and for every four neurons
 * their weights of each pair.
 */
function networkInMemory(): Uint8Array {
  if (inMemory) return inMemory;
  const view = new DataView(new ArrayBuffer(networkBytes));
  layerSizes.slice(1).forEach((neurons, k) => view.setInt32(4 * k, neurons, true));
  let at = 4 * (layerSizes.length - 1);
  edgeLayers().forEach(({ weights, starts }, k) => {
    const inputs = layerSizes[k]!;
    for (const start of starts) {
      view.setInt32(at, start, true);
      at += 4;
    }
    for (let j = 0; j < starts.length; j += 4) {
      for (let pair = 0; pair < pairsOf(inputs); pair++) {
        for (let neuron = j; neuron < j + 4; neuron++, at += 4) {
          const o = neuron * inputs + 2 * pair;
          view.setInt16(at, weights[o]!, true);
          if (2 * pair + 1 < inputs) view.setInt16(at + 2, weights[o + 1]!, true);
        }
      }
    }
  });
  return (inMemory = new Uint8Array(view.buffer));
}

/** Places for everything that is known of a picture. */
function layOut(kernel: ChromaExports, wide: number, high: number, cells: number) {
  const layout = new Layout(kernel);
  const blocks = (wide >> 1) * (high >> 1) * 4;
  const margined = ((wide >> 1) + 8) * ((high >> 1) + 2);
  const at = {
    picture: layout.take(wide * high * 4),
    rows: layout.take(2 * (wide + 4) * 8),
    luma: layout.take(blocks),
    blue: layout.take(blocks),
    red: layout.take(blocks),
    samples: layout.take(mostSamples * 16),
    screen: layout.take(cells * 16),
    subject: layout.take(cells * 16),
    deep: layout.take(cells * 16),
    weight: layout.take(cells * 4),
    near: layout.take(cells),
    wanted: layout.take(cells),
    ranges: layout.take(cells * 8),
    mixture: layout.take(cells),
    // Coarser cells of all sizes, or a copy of all cells while they are smoothed.
    scratch: layout.take(cells * 20 + 8192),
    distance: layout.take(margined * 4),
    counts: layout.take(noiseSteps * 4),
    solid: layout.take(margined),
    copies: layout.take(kernel.steadyBytes(wide >> 1, high >> 1)),
    seen: layout.take(kernel.edgeBytes(wide >> 1, high >> 1)),
    network: layout.take(networkBytes),
    described: layout.take((wide >> 3) * (high >> 1)),
    // What every layer sees or tells of two times four blocks.
    told: layout.take(2 * layerSizes.reduce((sum, neurons) => sum + neurons * 16, 64)),
    alpha: layout.take(wide * high),
    colours: layout.take(wide * high * 4),
  };
  layout.reserve();
  return at;
}
