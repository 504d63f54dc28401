import { expect } from 'chai';
import { intersectionOverUnion } from '../../bench/measures.ts';
import { photographOf } from '../../bench/truth/photograph.ts';
import { photographs } from '../../bench/truth/photographs.ts';
import { takenOtherwise } from '../../bench/truth/taken-otherwise.ts';
import { learnedLook } from '../../cli/learned.ts';
import { blind, type Look } from '../learned/subject-networks.ts';
import { seededRandom } from '../pixels/random.ts';
import { makeBytes, makePlane, makeRgba, type Bytes, type Rgba } from '../pixels/raster.ts';
import { CutPicture } from './cut-picture.ts';
import { CutSession, type SubjectRequest, type TeachingStroke } from './subject.ts';

type Painter = (x: number, y: number) => [number, number, number];

function paint(width: number, height: number, color: Painter, noise = 8): Rgba {
  const picture = makeRgba(width, height);
  const random = seededRandom(11);
  for (let i = 0; i < width * height; i++) {
    const grain = noise * (random() + random() - 1);
    const colour = color(i % width, Math.floor(i / width));
    for (let c = 0; c < 3; c++) picture.data[i * 4 + c] = colour[c]! + grain;
    picture.data[i * 4 + 3] = 255;
  }
  return picture;
}

const disc = (cx: number, cy: number, r: number) => (x: number, y: number) => Math.hypot(x - cx, y - cy) < r;
const [first, second, third] = [disc(150, 150, 70), disc(380, 140, 46), disc(560, 320, 20)];
/** Three floats on water, of which the third hardly differs from it. */
const floats = paint(640, 420, (x, y) =>
  first(x, y)
    ? [190, 60, 40]
    : second(x, y)
      ? [186, 66, 44]
      : third(x, y)
        ? [120, 136, 124]
        : [90 + (y % 7) * 3, 120, 130],
);
const nothing: SubjectRequest = { answer: 'subject', keep: [], drop: [], box: null };
const line = (turn: number, radius: number, ...points: [number, number][]): TeachingStroke => ({
  radius,
  points,
  turn,
});
const sessionOf = (picture: Rgba, look: Look = blind): CutSession => new CutSession(new CutPicture(picture, look));
const shareIn = (mask: Bytes, inside: (x: number, y: number) => boolean): number => {
  let [found, all] = [0, 0];
  for (let i = 0; i < mask.data.length; i++) {
    if (!inside(i % mask.width, Math.floor(i / mask.width))) continue;
    all++;
    found += mask.data[i]!;
  }
  return found / all;
};

describe('a cut depends on picture and request alone', () => {
  it('also where it was begun beforehand, and what was found then is not looked for again', () => {
    const picture = floats;
    const request = { ...nothing, at: [150, 150] as const };
    const cut = new CutPicture(picture, blind);
    const session = new CutSession(cut);
    session.begin();
    cut.coarse = () => {
      throw new Error('looked for again');
    };
    expect(session.solve(nothing).mask.data).to.deep.equal(sessionOf(picture).solve(nothing).mask.data);
    expect(session.solve(request).mask.data).to.deep.equal(sessionOf(picture).solve(request).mask.data);
    expect(() => session.solve({ ...nothing, answer: 'foreground' })).to.throw('looked for again');
    // Who asked for something already is not kept waiting for what may never be asked for.
    const asked = new CutPicture(picture, blind);
    const going = new CutSession(asked);
    going.solve({ ...nothing, answer: 'foreground' });
    asked.coarse = cut.coarse;
    expect(() => going.begin()).to.not.throw();
  });

  it('bit for bit, over strokes, undo, other answers, boxes and other pieces, beside a cold solve of each', () => {
    const picture = floats;
    const shared = new CutPicture(picture, blind);
    const warm = [new CutSession(shared), new CutSession(shared)];
    const random = seededRandom(7);
    const at = (): [number, number] => [40 + 560 * random(), 40 + 340 * random()];
    const requests: SubjectRequest[] = [nothing, nothing];
    for (let step = 0; step < 28; step++) {
      const which = random() < 0.7 ? 0 : 1;
      const now = requests[which]!;
      const turn = 1 + Math.max(0, ...[...now.keep, ...now.drop].map((stroke) => stroke.turn!));
      const what = random();
      if (what < 0.55) {
        const kind = random() < 0.5 ? 'keep' : 'drop';
        const [x, y] = at();
        const brush = { ...line(turn, 5 + 9 * random(), [x, y], [x + 30, y + 12]), withinEdges: random() < 0.5 };
        // One in three follows a thin line.
        const drawn = random() < 0.33 ? { ...line(turn, 2, [x, y], [x + 60, y + 8]), radii: [2, 0.8] } : brush;
        requests[which] = { ...now, [kind]: [...now[kind], drawn] };
      } else if (what < 0.8) {
        const kind = now.drop.length > now.keep.length ? 'drop' : 'keep';
        requests[which] = { ...now, [kind]: now[kind].slice(0, -1) };
      } else if (what < 0.9) requests[which] = { ...now, answer: now.answer === 'subject' ? 'foreground' : 'subject' };
      else requests[which] = { ...now, box: now.box ? null : { x: 60, y: 60, width: 400, height: 200 } };
      const { mask } = warm[which]!.solve(requests[which]!);
      // What was asked before is the same at every step; a cold solve takes seconds.
      if (step % 4 !== 3) continue;
      const cold = sessionOf(picture).solve(JSON.parse(JSON.stringify(requests[which])) as SubjectRequest);
      expect(Buffer.compare(mask.data, cold.mask.data), `step ${step}`).to.equal(0);
    }
  });

  it('presses that are tried and taken back are known, and still those of a cold solve, with the strokes after them', () => {
    const [one, other] = [disc(60, 70, 28), disc(150, 60, 16)];
    const picture = paint(200, 140, (x, y) => (one(x, y) || other(x, y) ? [190, 60, 40] : [90, 120, 130]));
    let looked = 0;
    const look: Look = () => {
      looked++;
      return [];
    };
    const session = sessionOf(picture, look);
    const [first, second] = [
      { ...nothing, at: [60, 70] as const },
      { ...nothing, at: [150, 60] as const },
    ];
    const corrected = { ...first, keep: [line(1, 6, [98, 60], [108, 64])] };
    const twice = { ...corrected, drop: [line(2, 5, [40, 60], [40, 80])] };
    const cold = new Map<SubjectRequest, Uint8Array>();
    for (const request of [first, second, first, corrected, twice, second, corrected, second, twice, first]) {
      const [before, isNew] = [looked, !cold.has(request)];
      const { mask, changed } = session.solve(request);
      if (isNew) cold.set(request, sessionOf(picture).solve(request).mask.data);
      expect(Buffer.compare(mask.data, cold.get(request)!)).to.equal(0);
      if (!isNew) expect(looked).to.equal(before);
      if (request === second) expect(changed).to.deep.equal({ x: 0, y: 0, width: 200, height: 140 });
    }
  });

  it('also with more strokes than it keeps masks of', () => {
    const picture = paint(200, 140, (x, y) => (disc(70, 70, 30)(x, y) ? [190, 60, 40] : [90, 120, 130]));
    const strokes = Array.from({ length: 28 }, (_, k) => line(k + 1, 2, [20 + 6 * k, 20 + (k % 9) * 10]));
    const session = sessionOf(picture);
    const solved = (k: number, by = session): Bytes => by.solve({ ...nothing, keep: strokes.slice(0, k) }).mask;
    const masks = strokes.map((_, k) => solved(k + 1).data.slice());
    for (const k of [27, 3]) expect(Buffer.compare(solved(k).data, masks[k - 1]!)).to.equal(0);
    expect(Buffer.compare(masks[2]!, solved(3, sessionOf(picture)).data)).to.equal(0);
  });

  it('says every place that changed, also when strokes are taken back', () => {
    const session = sessionOf(floats);
    const keep = [line(1, 6, [552, 320], [568, 320])];
    const drop = [line(2, 8, [370, 140], [390, 140])];
    let before = session.solve(nothing).mask;
    for (const request of [{ ...nothing, keep }, { ...nothing, keep, drop }, { ...nothing, drop }, nothing]) {
      const { mask, changed } = session.solve(request);
      expect(changed).to.not.equal(null);
      const { x, y, width, height } = changed!;
      for (let i = 0; i < mask.data.length; i++) {
        if (mask.data[i] === before.data[i]) continue;
        const [u, v] = [i % mask.width, Math.floor(i / mask.width)];
        expect(u >= x && v >= y && u < x + width && v < y + height).to.equal(true);
      }
      before = mask;
    }
  });
});

describe('a plain thing on a plain ground', () => {
  it('is found whole in pictures of any size, and nothing else', () => {
    for (const width of [150, 300, 540, 830]) {
      const [height, radius] = [Math.round((2 * width) / 3), 0.15 * width];
      const thing = disc(width / 2, height / 2, radius);
      const picture = paint(width, height, (x, y) => (thing(x, y) ? [200, 80, 42] : [95, 127, 140]), 0);
      const taken = sessionOf(picture)
        .solve(nothing)
        .mask.data.reduce((sum, v) => sum + v, 0);
      expect(taken / (Math.PI * radius * radius), `${width} pixels`).to.be.within(0.96, 1.06);
    }
  });
});

describe('a Keep stroke over something of which nothing was taken', () => {
  const trunk = (x: number, y: number): boolean => x < 220 + 14 * Math.sin(y * 0.03);
  const bark = (x: number, y: number): [number, number, number] => {
    const crack = Math.sin(x * 0.45 + 2 * Math.sin(y * 0.05)) + Math.sin(x * 0.17 + y * 0.02);
    return crack > 0.9 ? [150, 142, 134] : crack < -0.9 ? [74, 52, 42] : [108, 100, 92];
  };
  const snow = (y: number): [number, number, number] =>
    y < 200 ? [228 - y * 0.2, 214 - y * 0.2, 140 + y * 0.3] : [200, 214, 232];
  const float = disc(450, 210, 60);
  const picture = paint(640, 420, (x, y) => (float(x, y) ? [196, 60, 40] : trunk(x, y) ? bark(x, y) : snow(y)));
  const kept = (...points: [number, number][]): Bytes =>
    sessionOf(picture).solve({ ...nothing, keep: [{ ...line(1, 12, ...points), withinEdges: true }] }).mask;

  it('takes all of it where the stroke is long, however its tones change, and nothing of the ground', () => {
    const mask = kept([110, 40], [130, 200], [110, 380]);
    expect(shareIn(mask, trunk)).to.be.above(0.93);
    expect(shareIn(mask, float)).to.be.above(0.98);
    expect(shareIn(mask, (x, y) => !trunk(x - 4, y) && !disc(450, 210, 64)(x, y))).to.be.below(0.01);
  });

  it('where it is short, takes a part of it only', () => {
    expect(shareIn(kept([110, 200], [122, 206]), trunk)).to.be.below(0.6);
  });
});

describe('a large picture, which is solved only where a boundary runs', () => {
  const [w, h] = [3200, 2000];
  const [big, small] = [disc(1100, 900, 500), disc(2500, 900, 260)];
  const wire = (x: number, y: number): boolean => x >= 1590 && x < 2300 && Math.abs(y - 905) < 2.5;
  const picture = paint(w, h, (x, y) =>
    big(x, y) || small(x, y) || wire(x, y) ? [190, 60, 40] : [90 + (y % 7) * 3, 120, 130],
  );
  const drop = [line(1, 60, [2420, 860], [2560, 940])];

  it('has the true edge to the pixel, across all tiles, and a wire five pixels wide', () => {
    const { mask } = sessionOf(picture).solve(nothing);
    let wrong = 0;
    for (let y = 0; y < h; y++)
      for (let x = 0; x < w; x++) {
        const d = Math.min(
          Math.abs(Math.hypot(x - 1100, y - 900) - 500),
          Math.abs(Math.hypot(x - 2500, y - 900) - 260),
        );
        if (d > 2 && !wire(x, y) && mask.data[y * w + x] !== (big(x, y) || small(x, y) ? 1 : 0)) wrong++;
      }
    expect(wrong).to.equal(0);
    expect(shareIn(mask, wire)).to.be.above(0.97);
  }).timeout(120_000);

  it('changes with a stroke as when it is cut cold, and only where the stroke reaches', () => {
    const warm = sessionOf(picture);
    const before = warm.solve(nothing).mask.data.slice();
    const { mask } = warm.solve({ ...nothing, drop });
    const cold = sessionOf(picture).solve({ ...nothing, drop }).mask;
    expect(Buffer.compare(mask.data, cold.data)).to.equal(0);
    expect(shareIn(mask, small)).to.equal(0);
    const far = (x: number): boolean => x < 1500;
    for (let i = 0; i < w * h; i++)
      if (far(i % w) && mask.data[i] !== before[i]) expect.fail(`changed at ${i % w}, ${Math.floor(i / w)}`);
  }).timeout(120_000);
});

describe('thin parts', () => {
  it('follow a wire, but not the gaps between boards that are as dark as the rim they touch', () => {
    const [cx, cy] = [450, 220];
    const body = disc(cx, cy, 110);
    const rim = (x: number, y: number): boolean => body(x, y) && !disc(cx, cy, 98)(x, y);
    const wire = (x: number, y: number): boolean => Math.abs(x - cx) <= 1 && y > 20 && y < cy;
    const gap = (x: number, y: number): boolean => y > 300 && (x + y) % 36 < 2;
    const boardsOrSky = (x: number, y: number): [number, number, number] =>
      y > 300 ? (gap(x, y) ? [22, 22, 22] : [150, 146, 138]) : [196, 200, 206];
    const picture = paint(900, 600, (x, y) =>
      rim(x, y) || (wire(x, y) && !body(x, y)) ? [24, 22, 20] : body(x, y) ? [220, 150, 70] : boardsOrSky(x, y),
    );
    const { mask } = sessionOf(picture).solve(nothing);
    expect(shareIn(mask, (x, y) => wire(x, y) && y < 100)).to.be.above(0.9);
    expect(shareIn(mask, (x, y) => gap(x, y) && !disc(cx, cy, 150)(x, y))).to.be.below(0.03);
  });
});

describe('strokes', () => {
  it('are law: their pixels end up as the last stroke over them says', () => {
    const session = sessionOf(floats);
    const keep = [line(1, 9, [240, 240], [320, 240]), line(3, 4, [140, 150], [160, 150])];
    const drop = [line(2, 9, [120, 150], [180, 150])];
    const { mask } = session.solve({ ...nothing, keep, drop });
    const on = (x: number, y: number): number => mask.data[y * 640 + x]!;
    expect([on(245, 240), on(280, 245), on(315, 236)]).to.deep.equal([1, 1, 1]);
    expect([on(122, 150), on(130, 156), on(178, 145)]).to.deep.equal([0, 0, 0]);
    expect([on(141, 150), on(150, 152), on(159, 148)]).to.deep.equal([1, 1, 1]);
  });

  it('are local: a Keep stroke takes nothing away, a Drop stroke adds nothing, and other things stay as they were', () => {
    const session = sessionOf(floats);
    const before = session.solve(nothing).mask;
    const kept = session.solve({ ...nothing, keep: [line(1, 6, [552, 320], [568, 320])] }).mask;
    for (let i = 0; i < kept.data.length; i++) {
      if (before.data[i] && !kept.data[i]) expect.fail(`pixel ${i} was taken away`);
      else if (!before.data[i] && kept.data[i])
        expect(Math.hypot((i % 640) - 560, Math.floor(i / 640) - 320)).to.be.below(60);
    }
    expect(shareIn(kept, third)).to.be.above(0.9);
    const dropped = session.solve({ ...nothing, drop: [line(1, 8, [130, 120], [170, 120])] }).mask;
    for (let i = 0; i < dropped.data.length; i++)
      if (!before.data[i] && dropped.data[i]) expect.fail(`pixel ${i} was added`);
    expect(shareIn(dropped, second)).to.equal(shareIn(before, second));
  });

  it('on a part that lies by itself drop all of it, and not the largest part, nor one that a Keep stroke touches', () => {
    const session = sessionOf(floats);
    expect(shareIn(session.solve(nothing).mask, second)).to.be.above(0.95);
    const small = line(2, 5, [370, 130], [384, 134]);
    const dropped = session.solve({ ...nothing, drop: [small] }).mask;
    expect(shareIn(dropped, second)).to.equal(0);
    expect(shareIn(dropped, first)).to.be.above(0.95);
    const touched = session.solve({ ...nothing, keep: [line(1, 4, [390, 160], [395, 160])], drop: [small] }).mask;
    expect(shareIn(touched, second)).to.be.within(0.3, 0.99);
    const inLargest = session.solve({ ...nothing, drop: [line(1, 5, [150, 110], [160, 110])] }).mask;
    expect(shareIn(inLargest, first)).to.be.above(0.3);
  });
});

describe('what a Drop stroke leaves over', () => {
  const [w, h] = [1280, 800];
  const block = (x: number, y: number): boolean => Math.abs(x - 470) < 80 && Math.abs(y - 400) < 80;
  /** Hairs of the block and of the disc, thinner than the coarsest decision can see, and longer than a change of it reaches. */
  const hair = (from: number, to: number, at: number) => (x: number, y: number) =>
    x >= from && x < to && Math.abs(y - at) < 1.5;
  const ofBlock = hair(550, 578, 400);
  const ofDisc = hair(700, 800, 300);
  const body = disc(900, 300, 120);
  const base = makeBytes(w, h);
  for (let i = 0; i < w * h; i++)
    base.data[i] = [block, ofBlock, ofDisc, body].some((inside) => inside(i % w, Math.floor(i / w))) ? 1 : 0;
  const picture = paint(w, h, (x, y) =>
    block(x, y) || ofBlock(x, y) ? [220, 180, 40] : body(x, y) || ofDisc(x, y) ? [180, 30, 30] : [90, 130, 60],
  );
  const drop = [line(1, 30, [430, 390], [510, 410])];

  it('goes with what it hung from, and what hangs from the rest stays', () => {
    const { mask } = sessionOf(picture).solveFrom(base, 'base', { ...nothing, drop });
    expect(shareIn(mask, block)).to.equal(0);
    expect(shareIn(mask, ofBlock)).to.equal(0);
    expect(shareIn(mask, ofDisc)).to.equal(1);
    expect(shareIn(mask, body)).to.equal(1);
  });

  it('stays where a Keep stroke asked for it', () => {
    const keep = [line(0, 2, [562, 400], [576, 400])];
    const { mask } = sessionOf(picture).solveFrom(base, 'base', { ...nothing, keep, drop });
    expect(shareIn(mask, hair(564, 575, 400))).to.equal(1);
  });

  it('is among what changed', () => {
    const session = sessionOf(picture);
    const before = session.solveFrom(base, 'base', nothing).mask.data.slice();
    const { mask, changed } = session.solveFrom(base, 'base', { ...nothing, drop });
    const inside = (x: number, y: number): boolean =>
      x >= changed!.x && x < changed!.x + changed!.width && y >= changed!.y && y < changed!.y + changed!.height;
    expect(mask.data.every((v, i) => v === before[i] || inside(i % w, Math.floor(i / w)))).to.equal(true);
  });
});

describe('what networks see', () => {
  /** A look that is sure of everything inside. */
  const sure =
    (inside: (x: number, y: number) => boolean, width: number, height: number): Look =>
    (picture) => {
      // Maps have a size of their own; a closer look is of no interest here.
      if (picture.width !== width) return [makePlane(32, 32)];
      const map = makePlane(64, 42);
      for (let i = 0; i < map.data.length; i++) {
        const [x, y] = [((i % 64) + 0.5) * (width / 64), (Math.floor(i / 64) + 0.5) * (height / 42)];
        map.data[i] = inside(x, y) ? 1 : 0;
      }
      return [map];
    };

  /** A coat of two colours before a wall. */
  const coat = (x: number, y: number): boolean => Math.abs(x - 300) < 90 && y > 90 && y < 380;
  const picture = paint(640, 420, (x, y) =>
    coat(x, y) ? (y < 200 ? [196, 60, 40] : [136, 138, 130]) : [150 + (x % 5) * 4, 152, 142],
  );

  it('finds what colours and contrast do not tell of: fur before a quay', async () => {
    const scene = photographs.find(({ name }) => name === 'fur hood before the quay')!;
    const { picture: photograph, alpha } = await photographOf(scene, 600);
    const [alone, together] = [blind, await learnedLook()].map(
      (look) => sessionOf(photograph, look).solve(nothing).mask,
    );
    expect(intersectionOverUnion(together!, alpha)).to.be.above(0.85);
    expect(intersectionOverUnion(alone!, alpha)).to.be.below(0.6);
  });

  it('and focus find moss before leaves, as it is and mirrored', async () => {
    const scene = photographs.find(({ name }) => name === 'mossy buoy before leaves')!;
    const taken = await photographOf(scene, 600);
    for (const { picture: photograph, alpha } of [taken, takenOtherwise.mirrored!(taken)]) {
      const { mask } = sessionOf(photograph, await learnedLook()).solve(nothing);
      expect(intersectionOverUnion(mask, alpha)).to.be.above(0.95);
    }
  });

  it('and textures find it without any colour: moss in black and white', async () => {
    const scene = photographs.find(({ name }) => name === 'mossy buoy before leaves')!;
    const { picture: grey, alpha } = takenOtherwise['in black and white']!(await photographOf(scene, 900));
    expect(intersectionOverUnion(sessionOf(grey, await learnedLook()).solve(nothing).mask, alpha)).to.be.above(0.9);
  });

  it('outlasts a Drop stroke beside it, also where a face is as grey as the wall behind it', async () => {
    const scene = photographs.find(({ name }) => name === 'keeper on the quay')!;
    const { picture } = takenOtherwise['in black and white']!(await photographOf(scene, 900));
    const session = sessionOf(picture, await learnedLook());
    const face = disc(423, 210, 40);
    expect(shareIn(session.solve(nothing).mask, face)).to.be.above(0.98);
    // A dark window beside it, which had been taken as well.
    const drop = [{ ...line(1, 6, [347, 194], [346, 212]), withinEdges: true }];
    const { mask } = session.solve({ ...nothing, drop });
    expect(shareIn(mask, disc(346, 203, 5))).to.equal(0);
    expect(shareIn(mask, face)).to.be.above(0.9);
  });

  it('is only evidence: a map that has nothing to do with the picture changes nothing much', () => {
    const wrong = sure((x, y) => (Math.floor(x / 50) + Math.floor(y / 50)) % 2 === 0, 640, 420);
    const { mask } = sessionOf(floats, wrong).solve(nothing);
    expect(shareIn(mask, first)).to.be.above(0.95);
    expect(shareIn(mask, (x, y) => !first(x, y) && !second(x, y))).to.be.below(0.02);
  });

  it('is asked once a picture, however often it is cut', () => {
    let asked = 0;
    const counting: Look = (seen) => {
      if (seen.width === 640) asked++;
      return sure(coat, 640, 420)(seen);
    };
    const shared = new CutPicture(picture, counting);
    for (const answer of ['subject', 'foreground', 'subject'] as const)
      new CutSession(shared).solve({ ...nothing, answer });
    expect(asked).to.equal(1);
  });
});
