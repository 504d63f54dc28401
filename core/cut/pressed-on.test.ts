import { expect } from 'chai';
import { blind } from '../learned/subject-networks.ts';
import { seededRandom } from '../pixels/random.ts';
import { makeRgba, type Bytes, type Rgba } from '../pixels/raster.ts';
import { CutPicture } from './cut-picture.ts';
import { CutSession, type SubjectRequest } from './subject.ts';

interface Disc {
  x: number;
  y: number;
  r: number;
  colour: [number, number, number];
}

/** Two floats alike on water, and a paler one that does not stand out. */
const left: Disc = { x: 150, y: 150, r: 62, colour: [190, 60, 40] };
const right: Disc = { x: 400, y: 190, r: 58, colour: [186, 66, 44] };
const pale: Disc = { x: 250, y: 340, r: 30, colour: [128, 146, 128] };
const all = [left, right, pale];

const holds = ({ x, y, r }: Disc, u: number, v: number): boolean => Math.hypot(u - x, v - y) < r;

function water(): Rgba {
  const picture = makeRgba(560, 420);
  const random = seededRandom(5);
  for (let i = 0; i < 560 * 420; i++) {
    const [x, y] = [i % 560, Math.floor(i / 560)];
    const colour = all.find((disc) => holds(disc, x, y))?.colour ?? [84 + (y % 6) * 3, 118, 132];
    const grain = 7 * (random() + random() - 1);
    picture.data.set([...colour.map((c) => c + grain), 255], i * 4);
  }
  return picture;
}

const shareOf = (mask: Bytes, disc: Disc): number => {
  let [found, whole] = [0, 0];
  for (let i = 0; i < mask.data.length; i++)
    if (holds(disc, i % mask.width, Math.floor(i / mask.width))) [found, whole] = [found + mask.data[i]!, whole + 1];
  return found / whole;
};
/** Which of the floats are taken: nearly all of them, or nearly nothing. */
function taken(mask: Bytes): string[] {
  const names = { left, right, pale };
  return Object.entries(names).flatMap(([name, disc]) => {
    const share = shareOf(mask, disc);
    expect(share > 0.9 || share < 0.03, `${name} ${share}`).to.equal(true);
    return share > 0.5 ? [name] : [];
  });
}

type Color = [number, number, number];
type Round = Omit<Disc, 'colour'>;
const inDisc = ({ x, y, r }: Round, u: number, v: number): boolean => Math.hypot(u - x, v - y) < r;

/** What presses take of a picture of such colours, beside a disc in it: each one's intersection over union. */
function takenShares(colour: (x: number, y: number) => Color, disc: Round, ...presses: [number, number][]): number[] {
  const picture = makeRgba(560, 420);
  const random = seededRandom(11);
  for (let i = 0; i < 560 * 420; i++) {
    const grain = 7 * (random() + random() - 1);
    picture.data.set([...colour(i % 560, Math.floor(i / 560)).map((c) => c + grain), 255], i * 4);
  }
  const session = new CutSession(new CutPicture(picture, blind));
  return presses.map((at) => {
    const { data } = session.solve(asked({ at })).mask;
    let [both, either] = [0, 0];
    for (let i = 0; i < data.length; i++) {
      const truth = inDisc(disc, i % 560, Math.floor(i / 560));
      if (truth && data[i]) both++;
      if (truth || data[i]) either++;
    }
    return both / either;
  });
}

const picture = water();
const session = (): CutSession => new CutSession(new CutPicture(picture, blind));
const asked = (more: Partial<SubjectRequest>): SubjectRequest => ({
  answer: 'subject',
  keep: [],
  drop: [],
  box: null,
  ...more,
});
const middle = ({ x, y }: Disc): [number, number] => [x, y];

describe('a thing that is pressed on', () => {
  const shared = session();
  it('is taken alone, of several alike', () => {
    expect(taken(shared.solve(asked({})).mask)).to.include.members(['left', 'right']);
    expect(taken(shared.solve(asked({ at: middle(left) })).mask)).to.deep.equal(['left']);
    expect(taken(shared.solve(asked({ at: middle(right) })).mask)).to.deep.equal(['right']);
    // Also by its edge.
    expect(taken(shared.solve(asked({ at: [right.x + right.r - 4, right.y] })).mask)).to.deep.equal(['right']);
  });

  it('is taken also where it does not stand out', () => {
    expect(taken(shared.solve(asked({})).mask)).not.to.include('pale');
    expect(taken(shared.solve(asked({ at: middle(pale) })).mask)).to.deep.equal(['pale']);
  });

  it('is where strokes go on from', () => {
    const keep = [{ radius: 8, points: [middle(left)], turn: 1 }];
    expect(taken(shared.solve(asked({ at: middle(right), keep })).mask)).to.deep.equal(['left', 'right']);
  });

  it('stays whole where a line parts it into unlike halves, while halves alike may be two things', () => {
    const halves = (lower: [number, number, number]): Bytes => {
      const picture = makeRgba(560, 420);
      const random = seededRandom(9);
      for (let i = 0; i < 560 * 420; i++) {
        const [x, y] = [i % 560, Math.floor(i / 560)];
        const within = x > 220 && x < 330 && y > 80 && y < 340 && Math.abs(y - 210) > 9;
        const colour = !within ? [84 + (y % 6) * 3, 118, 132] : y < 210 ? [190, 60, 40] : lower;
        picture.data.set([...colour.map((c) => c + 7 * (random() + random() - 1)), 255], i * 4);
      }
      return new CutSession(new CutPicture(picture, blind)).solve(asked({ at: [275, 150] })).mask;
    };
    const lowerShare = (mask: Bytes): number => shareOf(mask, { x: 275, y: 280, r: 45, colour: [0, 0, 0] });
    expect(lowerShare(halves([40, 60, 40]))).to.be.above(0.95);
    expect(lowerShare(halves([186, 64, 44]))).to.be.below(0.05);
  });

  it('is looked for within a box', () => {
    const box = { x: 60, y: 60, width: 470, height: 220 };
    expect(taken(session().solve(asked({ at: middle(left), box })).mask)).to.deep.equal(['left']);
  });

  it('ends where a box ends, also when it goes on beyond', () => {
    const box = { x: pale.x - 80, y: pale.y - 60, width: 90, height: 120 };
    const { mask } = shared.solve(asked({ at: [pale.x - 10, pale.y], box }));
    let [inside, beyond] = [0, 0];
    mask.data.forEach((v, i) => {
      const [x, y] = [(i % mask.width) + 0.5, Math.floor(i / mask.width) + 0.5];
      const within = x >= box.x && x <= box.x + box.width && y >= box.y && y <= box.y + box.height;
      if (within) inside += v;
      else beyond += v;
    });
    expect(beyond).to.equal(0);
    expect(inside).to.be.above(1000);
  });

  it('is the same whatever was asked for before', () => {
    const at = middle(right);
    for (const before of [undefined, middle(pale)]) shared.solve(asked({ at: before }));
    expect(Buffer.compare(shared.solve(asked({ at })).mask.data, session().solve(asked({ at })).mask.data)).to.equal(0);
  });

  it('is a small thing where something larger and brighter stands out', () => {
    // A bright place far out of focus, and a bird before it.
    const colour = (x: number, y: number): Color => {
      if (inDisc(bird, x, y)) return [96, 62, 40];
      const light = 1 / (1 + Math.exp((Math.hypot(x - 280, y - 210) - 120) / 14));
      return [60 + 180 * light, 84 + 156 * light, 56 + 180 * light];
    };
    const bird = { x: 262, y: 200, r: 22 };
    const shares = takenShares(colour, bird, [bird.x + 12, bird.y - 9], [bird.x - 10, bird.y + 12]);
    for (const share of shares) expect(share).to.be.above(0.85);
  });

  it('is the thing and not the sky around it, clouds or none', () => {
    const kite = { x: 390, y: 150, r: 18 };
    const colour = (x: number, y: number): Color => {
      if (inDisc(kite, x, y)) return x > kite.x ? [220, 60, 40] : [240, 200, 60];
      const cloud = Math.hypot(x - 20, (y - 200) * 0.6) < 90 || Math.hypot(x - 560, y) < 80;
      return cloud ? [226, 230, 236] : [40 + y / 12, 84 + y / 12, 160];
    };
    expect(takenShares(colour, kite, [kite.x - 6, kite.y])[0]).to.be.above(0.9);
  });

  it('is found at the rim of a picture and in its corner', () => {
    for (const [x, y] of [
      [0, 180],
      [559, 419],
    ] as const) {
      const stone = { x, y, r: 40 };
      const colour = (u: number, v: number): Color => {
        if (inDisc(stone, u, v)) return [60, 50, 90];
        return u > 200 && u < 420 && v > 60 && v < 330 ? [240, 220, 90] : [90, 130, 84];
      };
      const [share] = takenShares(colour, stone, [Math.abs(x - 6), Math.abs(y - 6)]);
      expect(share, `${x}, ${y}`).to.be.above(0.9);
    }
  });
});
