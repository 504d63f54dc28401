import '@tensorflow/tfjs-backend-cpu';
import * as tf from '@tensorflow/tfjs-core';
import { expect } from 'chai';
import { learnedFiles } from '../../cli/learned.ts';
import { intersectionOverUnion } from '../../bench/measures.ts';
import { photographOf } from '../../bench/truth/photograph.ts';
import { photographs } from '../../bench/truth/photographs.ts';
import { seededRandom } from '../pixels/random.ts';
import { makeRgba, type Rgba } from '../pixels/raster.ts';
import { enlargedPlane } from '../pixels/resample.ts';
import { fromHalf, readModel, UnreadableModel, type NetworkModel } from './model-file.ts';
import { Network } from './network.ts';
import { lookThrough } from './subject-networks.ts';

/** Every layer by a public library: the truth for what the kernel computes. */
function byLibrary(model: NetworkModel, values: Float32Array): Float32Array {
  const flows = new Map<number, tf.Tensor4D>();
  const [height, width, channels] = model.shapes.get(model.input)!;
  flows.set(model.input, tf.tensor4d(values, [1, height, width, channels]));
  for (const { step, inputs, output } of model.layers) {
    const [x, y] = inputs.map((flow) => flows.get(flow)!) as [tf.Tensor4D, tf.Tensor4D];
    const [outHeight, outWidth] = model.shapes.get(output)!;
    const made = (): tf.Tensor => {
      switch (step.kind) {
        case 'convolve': {
          const kernel = tf.transpose(tf.tensor4d(step.weights.values, step.weights.shape as never), [1, 2, 3, 0]);
          const pad = step.padded ? 'same' : 'valid';
          return tf.add(tf.conv2d(x, kernel as tf.Tensor4D, step.stride, pad), tf.tensor1d(step.bias));
        }
        case 'depthwise': {
          const kernel = tf.transpose(tf.tensor4d(step.weights.values, step.weights.shape as never), [1, 2, 3, 0]);
          const pad = step.padded ? 'same' : 'valid';
          return tf.add(tf.depthwiseConv2d(x, kernel as tf.Tensor4D, step.stride, pad), tf.tensor1d(step.bias));
        }
        case 'transposed': {
          const kernel = tf.transpose(tf.tensor4d(step.weights.values, step.weights.shape as never), [1, 2, 0, 3]);
          const turned = tf.conv2dTranspose(x, kernel as tf.Tensor4D, [1, outHeight, outWidth, 1], 2, 'same');
          return tf.add(turned, tf.tensor1d(step.bias));
        }
        case 'rectify':
          return tf.relu(x);
        case 'hard-swish':
          return tf.mul(x, tf.div(tf.clipByValue(tf.add(x, 3), 0, 6), 6));
        case 'logistic':
          return tf.sigmoid(x);
        case 'mean':
          return tf.mean(x, [1, 2], true);
        case 'resize':
          return tf.image.resizeBilinear(x, [outHeight, outWidth], false, true);
        case 'add':
          return tf.add(x, y);
        case 'multiply':
          return tf.mul(x, y);
      }
    };
    flows.set(output, made() as tf.Tensor4D);
  }
  return flows.get(model.output)!.dataSync() as Float32Array;
}

function anyPicture(width: number, height: number): Rgba {
  const picture = makeRgba(width, height);
  const random = seededRandom(5);
  for (let i = 0; i < picture.data.length; i++) picture.data[i] = i % 4 === 3 ? 255 : 255 * random();
  return picture;
}

describe('networks', () => {
  let files: Uint8Array[];
  before(async () => {
    files = await learnedFiles();
    await tf.setBackend('cpu');
  });

  it('say for every place what a public library says that evaluates the same layers', () => {
    for (const file of files) {
      const model = readModel(file);
      const network = new Network(model);
      const random = seededRandom(3);
      const [height, width, channels] = network.inputShape;
      const values = Float32Array.from({ length: height * width * channels }, (_, i) =>
        Math.max(0, Math.min(1, 0.5 + 0.4 * Math.sin(i / 900) + 0.3 * (random() - 0.5))),
      );
      const mine = network.evaluate(values);
      const theirs = byLibrary(model, values);
      let worst = 0;
      for (let i = 0; i < mine.length; i++) worst = Math.max(worst, Math.abs(mine[i]! - theirs[i]!));
      expect(mine.length).to.equal(theirs.length);
      expect(worst).to.be.below(1e-3);
      expect(Math.max(...theirs) - Math.min(...theirs), 'says something').to.be.above(0.05);
    }
  });

  it('say the same again, whatever they were asked between', () => {
    const network = new Network(readModel(files[0]!));
    const values = (seed: number): Float32Array => {
      const random = seededRandom(seed);
      return Float32Array.from({ length: 256 * 256 * 3 }, () => random());
    };
    const first = network.evaluate(values(1));
    network.evaluate(values(2));
    expect(network.evaluate(values(1))).to.deep.equal(first);
  });

  it('see somebody on a quay, one map a network', async () => {
    const { picture, alpha } = await photographOf(
      photographs.find(({ name }) => name === 'keeper on the quay')!,
      300,
    );
    const maps = lookThrough(files)(picture);
    expect(maps.map(({ width, height }) => [width, height])).to.deep.equal([
      [256, 256],
      [256, 144],
    ]);
    for (const map of maps) {
      const seen = enlargedPlane(map, picture.width, picture.height);
      const mask = { ...alpha, data: Uint8Array.from(seen.data, (v) => (v > 0.5 ? 1 : 0)) };
      expect(intersectionOverUnion(mask, alpha)).to.be.above(0.9);
    }
  });

  it('look at a picture taken at dusk a second time as if by day, and see more of it', async () => {
    const windmill = photographs.find(({ name }) => name === 'paper windmill before lights')!;
    const { picture, alpha } = await photographOf(windmill, 300);
    const dusk = { ...picture, data: picture.data.map((v, i) => (i % 4 === 3 ? v : 255 * (v / 255) ** 2.2 * 0.6)) };
    const look = lookThrough(files);
    expect(look(picture)).to.have.length(2);
    const maps = look(dusk);
    expect(maps).to.have.length(4);
    const found = maps.map((map) => {
      const seen = enlargedPlane(map, picture.width, picture.height);
      const mask = { ...alpha, data: Uint8Array.from(seen.data, (v) => (v > 0.5 ? 1 : 0)) };
      return intersectionOverUnion(mask, alpha);
    });
    expect(Math.max(found[1]!, found[3]!)).to.be.above(Math.max(found[0]!, found[2]!) + 0.2);
  });

  it('remember the last pictures, and no more', () => {
    const look = lookThrough(files.slice(1));
    const pictures = Array.from({ length: 5 }, () => anyPicture(64, 48));
    const first = look(pictures[0]!);
    expect(look(pictures[0]!)).to.equal(first);
    for (const picture of pictures) look(picture);
    const again = look(pictures[0]!);
    expect(again).to.not.equal(first);
    expect(again[0]!.data).to.deep.equal(first[0]!.data);
  });

  it('reads halves as IEEE 754 says', () => {
    // Signs, a subnormal number, the largest one, and what is no number.
    const known: [number, number][] = [
      [0x0000, 0],
      [0x3c00, 1],
      [0xc000, -2],
      [0x3555, 0.333251953125],
      [0x0001, 2 ** -24],
      [0x7bff, 65504],
      [0x7c00, Infinity],
      [0xfc00, -Infinity],
    ];
    for (const [bits, value] of known) expect(fromHalf(bits)).to.equal(value);
    expect(fromHalf(0x7e00)).to.be.NaN;
  });

  it('says in one sentence that a file is no network', () => {
    for (const bytes of [new Uint8Array(), new Uint8Array(200), files[0]!.slice(0, 60)])
      expect(() => readModel(bytes)).to.throw(UnreadableModel, /could not be read/);
  });
});
