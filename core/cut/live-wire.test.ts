import { expect } from 'chai';
import { seededRandom } from '../pixels/random.ts';
import { makeRgba, type Rgba } from '../pixels/raster.ts';
import { LiveWire } from './live-wire.ts';

/** A disc of a slightly other grey on noise. */
function disc(size: number, radius: number, noise: number): Rgba {
  const picture = makeRgba(size, size);
  const random = seededRandom(9);
  for (let i = 0; i < size * size; i++) {
    const inside = Math.hypot((i % size) + 0.5 - size / 2, ((i / size) | 0) + 0.5 - size / 2) < radius;
    const grey = (inside ? 150 : 110) + (random() - 0.5) * noise;
    picture.data.set([grey, grey, grey, 255], i * 4);
  }
  return picture;
}

describe('live wire', () => {
  const size = 160;
  const radius = 52;
  const onDisc = (degrees: number): [number, number] => {
    const angle = (degrees * Math.PI) / 180;
    return [size / 2 + radius * Math.cos(angle), size / 2 + radius * Math.sin(angle)];
  };

  it('follows a faint round edge through noise', () => {
    const wire = new LiveWire(disc(size, radius, 24));
    wire.start(onDisc(180));
    const way = wire.wayTo(onDisc(300));
    for (const [x, y] of way) expect(Math.hypot(x - size / 2, y - size / 2)).closeTo(radius, 2.5);
    expect(way.length).above(80);
  });

  it('goes straight where it does not cling', () => {
    const wire = new LiveWire(disc(size, radius, 24), 0);
    wire.start([20.5, 30.5]);
    const way = wire.wayTo([120.5, 80.5]);
    expect(way[0]).to.deep.equal([20.5, 30.5]);
    expect(way.at(-1)).to.deep.equal([120.5, 80.5]);
    expect(way).to.have.length(101);
  });

  it('finds the same way whether it was asked for other places before or not', () => {
    const picture = disc(size, radius, 24);
    const once = new LiveWire(picture);
    once.start(onDisc(180));
    const often = new LiveWire(picture);
    often.start(onDisc(180));
    for (const degrees of [190, 350, 20]) often.wayTo(onDisc(degrees));
    expect(often.wayTo(onDisc(250))).to.have.length(once.wayTo(onDisc(250)).length);
    expect(often.wayTo(onDisc(180))).to.have.length(1);
  });

  it('stays in the picture at its corners and needs a start', () => {
    const wire = new LiveWire(disc(40, 12, 0));
    expect(() => wire.wayTo([3, 3])).to.throw(RangeError);
    wire.start([-5, -5]);
    const way = wire.wayTo([90, 90]);
    expect([way[0], way.at(-1)]).to.deep.equal([
      [0.5, 0.5],
      [39.5, 39.5],
    ]);
  });
});
