import { expect } from 'chai';
import { seededRandom } from '../pixels/random.ts';
import { makePlane, makeRgba, type Plane, type Rgba } from '../pixels/raster.ts';
import { saliencyOf, type Answer } from './saliency.ts';
import { superpixelsOf } from '../pixels/superpixels.ts';

function paint(color: (x: number, y: number) => [number, number, number]): Rgba {
  const picture = makeRgba(180, 120);
  const random = seededRandom(5);
  for (let y = 0; y < 120; y++) {
    for (let x = 0; x < 180; x++)
      picture.data.set([...color(x, y).map((v) => v + 6 * (random() - 0.5)), 255], (y * 180 + x) * 4);
  }
  return picture;
}

function saliency(picture: Rgba, answer: Answer): Plane {
  const luma = makePlane(picture.width, picture.height);
  for (let i = 0; i < luma.data.length; i++)
    luma.data[i] = 0.2 * picture.data[i * 4]! + 0.7 * picture.data[i * 4 + 1]! + 0.1 * picture.data[i * 4 + 2]!;
  return saliencyOf(superpixelsOf(picture, 200), luma, answer);
}

const at = (plane: Plane, x: number, y: number): number => plane.data[y * plane.width + x]!;

describe('saliency', () => {
  it('is high on what touches no border and low on what does', () => {
    const s = saliency(
      paint((x, y) => (Math.hypot(x - 90, y - 60) < 25 ? [200, 60, 40] : [80, 110, 130])),
      'subject',
    );
    expect(at(s, 90, 60)).to.be.greaterThan(0.9);
    expect(at(s, 10, 10)).to.be.lessThan(0.1);
  });

  it('a colour patch at the border is background though it stands out', () => {
    const s = saliency(
      paint((x, y) => (Math.hypot(x - 90, y - 60) < 22 ? [200, 60, 40] : x < 40 ? [60, 140, 70] : [80, 110, 130])),
      'subject',
    );
    expect(at(s, 90, 60)).to.be.greaterThan(at(s, 12, 60) + 0.5);
  });

  it('sees the background through a hole in the subject', () => {
    const ring = (x: number, y: number): boolean => Math.abs(Math.hypot(x - 90, y - 60) - 35) < 12;
    const s = saliency(
      paint((x, y) => (ring(x, y) ? [200, 60, 40] : [80, 110, 130])),
      'subject',
    );
    expect(at(s, 90 + 35, 60)).to.be.greaterThan(0.8);
    expect(at(s, 90, 60)).to.be.lessThan(0.3);
  });

  it('the foreground answer takes the ground at the lower border, the subject answer leaves it', () => {
    const picture = paint((x, y) =>
      y > 80 ? [110 + (x % 5) * 8, 90, 60] : Math.hypot(x - 90, y - 45) < 18 ? [200, 60, 40] : [150, 180, 205],
    );
    const foreground = saliency(picture, 'foreground');
    const subject = saliency(picture, 'subject');
    expect(at(foreground, 30, 110)).to.be.greaterThan(0.7);
    expect(at(foreground, 30, 15)).to.be.lessThan(0.2);
    expect(at(subject, 90, 45)).to.be.greaterThan(at(subject, 30, 110) + 0.4);
  });
});
