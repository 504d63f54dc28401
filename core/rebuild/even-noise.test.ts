import { expect } from 'chai';
import { makePlane, type Plane } from '../pixels/raster.ts';
import { seededRandom } from '../pixels/random.ts';
import { evenNoise } from './even-noise.ts';

const [width, height] = [200, 160];
const grain = 3;

/** Share of light a round shadow takes, 0..255: most in its middle, nothing outside. */
const alpha = Uint8Array.from({ length: width * height }, (_, k) => {
  const far = Math.hypot(((k % width) - 100) / 90, (Math.floor(k / width) - 80) / 70);
  return Math.round(255 * 0.8 * Math.max(0, Math.min(1, (1 - far) / 0.6)));
});
const inMiddle = (k: number): boolean => Math.hypot((k % width) - 100, Math.floor(k / width) - 80) < 24;
const nothing = new Uint8Array(width * height);

/** A ground under the shadow, with the grain of the light that came in, and made lighter again. */
function lifted(ground: (x: number, y: number) => number, noise = grain): Plane {
  const random = seededRandom(5);
  const plane = makePlane(width, height);
  for (let k = 0; k < plane.data.length; k++) {
    const left = 1 - alpha[k]! / 255;
    const normal = Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
    plane.data[k] = (ground(k % width, Math.floor(k / width)) * left + noise * normal) / left;
  }
  return plane;
}

function spread(plane: Plane, truth: (x: number, y: number) => number): number {
  let [sum, n] = [0, 0];
  for (let k = 0; k < plane.data.length; k++) {
    if (!inMiddle(k)) continue;
    sum += (plane.data[k]! - truth(k % width, Math.floor(k / width))) ** 2;
    n++;
  }
  return Math.sqrt(sum / n);
}

describe('the grain of ground that a shadow was lifted from', () => {
  it('is as around: on plain ground as strong as before the shadow, where it was five times as strong', () => {
    const ground = (x: number): number => 140 + x * 0.1;
    const noisy = lifted(ground);
    expect(spread(noisy, ground)).to.be.above(4 * grain);
    const [even] = evenNoise([noisy], alpha, nothing);
    expect(spread(even!, ground)).to.be.within(0.7 * grain, 1.45 * grain);
  });

  it('goes, and the joints of boards stay', () => {
    const ground = (x: number): number => (x % 20 < 3 ? 60 : 150);
    const noisy = lifted(ground);
    const [even] = evenNoise([noisy], alpha, nothing);
    expect(spread(even!, ground)).to.be.below(0.7 * spread(noisy, ground));
    const depth = (plane: Plane): number => {
      const at = (from: number, to: number): number => {
        let [sum, n] = [0, 0];
        for (let y = 70; y < 90; y++)
          for (let x = 80; x < 120; x++)
            if (x % 20 >= from && x % 20 < to) [sum, n] = [sum + plane.data[y * width + x]!, n + 1];
        return sum / n;
      };
      return at(8, 16) - at(1, 2);
    };
    expect(depth(even!)).to.be.closeTo(90, 8);
  });

  it('is left where a fine texture is everywhere, and no grain on it', () => {
    const ground = (x: number, y: number): number => 130 + 20 * Math.sin(x * 2.1) * Math.cos(y * 1.7);
    const clean = lifted(ground, 0);
    const [even] = evenNoise([clean], alpha, nothing);
    let most = 0;
    for (let k = 0; k < clean.data.length; k++) most = Math.max(most, Math.abs(even!.data[k]! - clean.data[k]!));
    expect(most).to.be.below(1);
  });

  it('is neither read nor changed under a piece and outside the shadow', () => {
    const noisy = lifted(() => 140);
    const hidden = Uint8Array.from(noisy.data, (_, k) => (k % width > 90 && k % width < 110 ? 1 : 0));
    const withPiece: Plane = { ...noisy, data: noisy.data.map((v, k) => (hidden[k] ? 20_000 : v)) };
    const [even] = evenNoise([withPiece], alpha, hidden);
    for (let k = 0; k < noisy.data.length; k++) {
      if (hidden[k] || !alpha[k]) expect(even!.data[k]).to.equal(withPiece.data[k]);
      else expect(even!.data[k]).to.be.within(60, 220);
    }
  });

  it('stays as it is where no rim of the shadow can be seen', () => {
    const noisy = lifted(() => 140);
    const hidden = Uint8Array.from(alpha, (a) => (a < 80 ? 1 : 0));
    expect(evenNoise([noisy], alpha, hidden)[0]!.data).to.deep.equal(noisy.data);
  });
});
