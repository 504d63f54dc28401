import { expect } from 'chai';
import { seededRandom } from '../pixels/random.ts';
import { makeBytes, makePlane, makeRgba, type Bytes, type Rgba } from '../pixels/raster.ts';
import { boundaryBands } from './band.ts';
import { Gathered, PlainClusters } from './colour-clusters.ts';
import { fitColourModel } from './colour-model.ts';
import { cuttingPlainly, KernelClusters } from './cut-kernel.ts';
import { DROP, FREE, KEEP, solveGraphCut, type GraphCutInput } from './graph-cut.ts';

const random = seededRandom(31);

function noise(width: number, height: number): Rgba {
  const picture = makeRgba(width, height);
  picture.data.forEach((_, i) => (picture.data[i] = random() * 120));
  return picture;
}

/** A cut of noise by a random prior, with few pixels decided before. */
function inputOf(width: number, height: number, active: Int32Array): GraphCutInput {
  const [seeds, mask, prior] = [makeBytes(width, height, FREE), makeBytes(width, height), makePlane(width, height)];
  for (let i = 0; i < width * height; i++) {
    mask.data[i] = random() > 0.5 ? 1 : 0;
    prior.data[i] = 40 * (random() - 0.5);
  }
  seeds.data[0] = KEEP;
  seeds.data[width * height - 1] = DROP;
  return { picture: noise(width, height), seeds, mask, active, colours: null, prior, smoothness: 14, beta: 2e-4 };
}

/** GrabCut's energy of a labelling, from its definition; what is decided by hand is law. */
function energyOf({ picture, seeds, prior, smoothness, beta }: GraphCutInput, labels: ArrayLike<number>): number {
  const { width, height, data } = picture;
  let energy = 0;
  for (let i = 0; i < width * height; i++) {
    const [x, y] = [i % width, Math.floor(i / width)];
    const seed = seeds.data[i];
    if (seed === KEEP || seed === DROP) energy += labels[i] === (seed === KEEP ? 1 : 0) ? 0 : 1e4;
    else energy += labels[i] ? Math.max(0, -prior!.data[i]!) : Math.max(0, prior!.data[i]!);
    for (const [dx, dy] of [
      [1, 0],
      [0, 1],
      [1, 1],
      [-1, 1],
    ] as const) {
      const [u, v] = [x + dx, y + dy];
      if (u < 0 || u >= width || v >= height || labels[i] === labels[v * width + u]) continue;
      const square = [0, 1, 2].reduce((sum, c) => sum + (data[4 * i + c]! - data[4 * (v * width + u) + c]!) ** 2, 0);
      energy += (smoothness * (0.04 + 0.96 * Math.exp(-beta * square))) / Math.hypot(dx, dy);
    }
  }
  return energy;
}

const everyPixel = (count: number): Int32Array => Int32Array.from({ length: count }, (_, i) => i);

function solved(input: GraphCutInput): Bytes {
  const mask = { ...input.mask, data: input.mask.data.slice() };
  solveGraphCut({ ...input, mask });
  return mask;
}

describe('graph cuts of pictures', () => {
  const ways = {
    'by the kernel': <T>(work: () => T) => work(),
    'without it': cuttingPlainly,
  };
  for (const [name, way] of Object.entries(ways))
    it(`cost as little as the best of all labellings, where only some are free too, ${name}`, () => {
      for (let trial = 0; trial < 30; trial++) {
        const active = everyPixel(12).filter((i) => trial % 3 === 0 || (i * 7 + trial) % 4 !== 0);
        const input = inputOf(4, 3, active);
        const mask = way(() => solved(input));
        let least = Infinity;
        for (let labels = 0; labels < 1 << active.length; labels++) {
          const all = [...input.mask.data];
          active.forEach((i, k) => (all[i] = (labels >> k) & 1));
          least = Math.min(least, energyOf(input, all));
        }
        // Fading is looked up in steps.
        expect(energyOf(input, mask.data)).to.be.closeTo(least, 0.03 * least);
        for (let i = 0; i < 12; i++) if (!active.includes(i)) expect(mask.data[i]).to.equal(input.mask.data[i]);
      }
    });

  it('are the same by the kernel and without it, whole and in parts, one after another', () => {
    for (const [width, height] of [
      [70, 51],
      [1, 40],
      [33, 2],
      [120, 90],
    ] as const) {
      const whole = inputOf(width, height, everyPixel(width * height));
      const shuffled = everyPixel(width * height).filter((i) => i % 5 !== 0);
      for (const input of [whole, { ...whole, active: shuffled.reverse() }, { ...whole, active: new Int32Array() }])
        expect(solved(input).data).to.deep.equal(cuttingPlainly(() => solved(input)).data);
    }
  });

  it('bands of several widths are found at once, each the beginning of the next', () => {
    const mask = makeBytes(40, 30);
    for (let y = 0; y < 30; y++)
      for (let x = 0; x < 40; x++) mask.data[y * 40 + x] = Math.hypot(x - 12, y - 9) < 6 ? 1 : 0;
    const within = makeBytes(40, 30);
    within.data.forEach((_, i) => (within.data[i] = i % 40 < 30 ? 1 : 0));
    const isBoundary = (i: number): boolean =>
      [i - 40, i + 40, i - (i % 40 > 0 ? 1 : 0), i + (i % 40 < 39 ? 1 : 0)].some(
        (j) => j >= 0 && j < 1200 && mask.data[j] !== mask.data[i],
      );
    const [one, two, four] = boundaryBands(mask, [1, 2, 4], within) as [Int32Array, Int32Array, Int32Array];
    expect([...one].sort((a, b) => a - b)).to.deep.equal([...everyPixel(1200)].filter(isBoundary));
    expect([...two.subarray(0, one.length)]).to.deep.equal([...one]);
    expect([...four.subarray(0, two.length)]).to.deep.equal([...two]);
    // Anything up to a step is the boundary alone.
    for (const radius of [0, 0.5]) expect([...boundaryBands(mask, [radius], within)[0]!]).to.deep.equal([...one]);
    expect(boundaryBands(makeBytes(9, 9), [2])[0]).to.have.length(0);
    const near = (of: Int32Array, i: number): boolean =>
      of.some((j) => Math.abs((i % 40) - (j % 40)) <= 1 && Math.abs(Math.floor(i / 40) - Math.floor(j / 40)) <= 1);
    expect([...two].sort((a, b) => a - b)).to.deep.equal(
      [...everyPixel(1200)].filter((i) => within.data[i] && near(one, i)),
    );
  });
});

describe('colour models by the kernel and without it', () => {
  const samples = new Gathered(900);
  for (let i = 0; i < 900; i++)
    samples.add(60 + (i % 3) * 60 + 20 * random(), 200 * random(), 90 + 40 * random(), 0.3 + random());

  it('sum, split and assign alike, each cluster for itself', () => {
    const works = [KernelClusters.of(samples)!, new PlainClusters(samples)];
    const found = works.map((work) => {
      const sums = [work.sums(1)];
      work.split(0, 1, [110, 100, 110, 1, 0, 0]);
      work.split(1, 2, [160, 100, 110, 1, 0.1, 0]);
      sums.push(work.sums(3));
      const first = Float64Array.from(sums[1]!.subarray(0, 10), (v) => v / sums[1]![0]!);
      // Two round components of the same width: each takes what is nearer to it.
      const round = (r: number): number[] => [r, 100, 110, 1, 0, 0, 1, 0, 1, 0];
      work.assign(Float64Array.from([...round(80), ...round(190)]));
      sums.push(work.sums(2), first);
      return sums;
    });
    expect(found[0]).to.deep.equal(found[1]);
    const [all, parted, assigned] = found[1]!;
    expect(all![0]).to.be.closeTo(parted![0]! + parted![10]! + parted![20]!, 1e-6);
    let nearer = 0;
    for (let i = 0; i < 900; i++) if (samples.colours[i * 3]! < 135) nearer += samples.weights[i]!;
    expect(assigned![0]).to.be.closeTo(nearer, 1e-6);
  });

  it('are the same', () => {
    const [byKernel, plain] = [fitColourModel(samples), cuttingPlainly(() => fitColourModel(samples))];
    expect(byKernel.components).to.equal(5);
    expect(plain.components).to.equal(5);
    byKernel.parameters.forEach((v, k) => expect(v).to.be.closeTo(plain.parameters[k]!, 1e-9 * (1 + Math.abs(v))));
  });
});
