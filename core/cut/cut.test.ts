import { expect } from 'chai';
import { seededRandom } from '../pixels/random.ts';
import { makeBytes, makePlane, makeRgba, type Bytes, type Rgba } from '../pixels/raster.ts';
import { estimateAlpha } from './alpha.ts';
import { boundaryBand } from './band.ts';
import { blind } from '../learned/subject-networks.ts';
import { solveMatte } from './closed-form-matte.ts';
import { ColourRatio, fitColourModel, logLikelihood } from './colour-model.ts';
import { cleanColours } from './foreground-colours.ts';
import { geodesicDistance } from './geodesic.ts';
import { MaxFlow } from './max-flow.ts';
import { drawStroke } from './strokes.ts';
import { CutPicture } from './cut-picture.ts';
import { CutSession, type SubjectRequest } from './subject.ts';
import { superpixelsOf } from '../pixels/superpixels.ts';

const request = (change: Partial<SubjectRequest> = {}): SubjectRequest => ({
  answer: 'subject',
  keep: [],
  drop: [],
  box: null,
  ...change,
});

type Painter = (x: number, y: number) => [number, number, number];

function paint(width: number, height: number, color: Painter, noise = 0): Rgba {
  const picture = makeRgba(width, height);
  const random = seededRandom(11);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const grain = noise * (random() + random() - 1);
      picture.data.set([...color(x, y).map((v) => v + grain), 255], (y * width + x) * 4);
    }
  }
  return picture;
}

function overlap(mask: Bytes, inside: (x: number, y: number) => boolean): number {
  let both = 0;
  let either = 0;
  for (let i = 0; i < mask.data.length; i++) {
    const a = mask.data[i]! > 0;
    const b = inside(i % mask.width, Math.floor(i / mask.width));
    if (a && b) both++;
    if (a || b) either++;
  }
  return both / either;
}

/** A red float on blue-grey water. */
const inFloat = (x: number, y: number): boolean => Math.hypot(x - 150, y - 100) < 50;
const floatPicture = (): Rgba =>
  paint(320, 210, (x, y) => (inFloat(x, y) ? [190, 60, 40] : [90 + (y % 7) * 3, 120, 130]), 12);

describe('minimum cut', () => {
  /** The cheapest labelling by trying all of them. */
  function bruteForce(n: number, terminals: [number, number][], edges: [number, number, number][]): number {
    let best = Infinity;
    for (let labels = 0; labels < 1 << n; labels++) {
      const inSource = (i: number): boolean => ((labels >> i) & 1) === 1;
      let cost = 0;
      terminals.forEach(([source, sink], i) => (cost += inSource(i) ? sink : source));
      for (const [a, b, w] of edges) if (inSource(a) !== inSource(b)) cost += w;
      best = Math.min(best, cost);
    }
    return best;
  }

  it('costs as little as the best of all labellings, on sixty random graphs', () => {
    const random = seededRandom(2);
    for (let trial = 0; trial < 60; trial++) {
      const n = 9;
      const terminals = Array.from({ length: n }, (): [number, number] => [
        Math.floor(random() * 9),
        Math.floor(random() * 9),
      ]);
      const edges: [number, number, number][] = [];
      for (let a = 0; a < n; a++)
        for (let b = a + 1; b < n; b++) if (random() < 0.4) edges.push([a, b, Math.floor(random() * 6)]);
      const graph = new MaxFlow(n, edges.length);
      terminals.forEach(([source, sink], i) => graph.addTerminal(i, source, sink));
      for (const [a, b, w] of edges) graph.addEdge(a, b, w);
      graph.solve();
      let cost = 0;
      terminals.forEach(([source, sink], i) => (cost += graph.inSource(i) ? sink : source));
      for (const [a, b, w] of edges) if (graph.inSource(a) !== graph.inSource(b)) cost += w;
      expect(cost).to.equal(bruteForce(n, terminals, edges));
    }
  });
});

describe('colour models', () => {
  it('have the likelihood of the Gaussian they were fitted on', () => {
    const random = seededRandom(8);
    const normal = (): number => Math.sqrt(-2 * Math.log(random() + 1e-12)) * Math.cos(2 * Math.PI * random());
    const n = 20000;
    const colours = Float32Array.from({ length: n * 3 }, (_, i) => [120, 80, 60][i % 3]! + 15 * normal());
    const model = fitColourModel({ colours, weights: new Float32Array(n).fill(1) }, 1);
    const variance = 15 ** 2 + 12;
    const closed = (d: number): number => (-0.5 * (d * d)) / variance;
    const at = (d: number): number => logLikelihood(model, 120 + d, 80, 60);
    expect(at(30) - at(0)).to.be.closeTo(closed(30), 0.15);
    expect(at(-45) - at(0)).to.be.closeTo(closed(45), 0.3);
  });

  it('tell two colours apart, and are bounded where neither knows the colour', () => {
    const of = (...colours: number[]) =>
      fitColourModel({ colours: Float32Array.from(colours), weights: Float32Array.of(1, 1, 1) });
    const red = of(200, 30, 30, 210, 40, 35, 190, 35, 25);
    const blue = of(30, 30, 200, 35, 40, 210, 25, 30, 190);
    const ratio = new ColourRatio(red, blue);
    expect(ratio.at(205, 35, 30)).to.be.greaterThan(5);
    expect(ratio.at(30, 35, 205)).to.be.lessThan(-5);
    expect(Math.abs(ratio.at(0, 255, 0))).to.be.at.most(12);
  });
});

describe('bands, strokes, distances', () => {
  it('a band holds just the pixels within the given steps of the boundary', () => {
    const mask = makeBytes(30, 20);
    for (let y = 0; y < 20; y++) for (let x = 15; x < 30; x++) mask.data[y * 30 + x] = 1;
    const columns = new Set([...boundaryBand(mask, 3)].map((i) => i % 30));
    expect([...columns].sort((a, b) => a - b)).to.deep.equal([12, 13, 14, 15, 16, 17]);
  });

  it('a stroke marks the pixels within its radius of the line, at any scale', () => {
    const mask = makeBytes(60, 40);
    drawStroke(
      mask,
      {
        radius: 5,
        points: [
          [10, 20],
          [50, 20],
        ],
      },
      1,
    );
    expect(mask.data[20 * 60 + 30]).to.equal(1);
    expect(mask.data[15 * 60 + 30]).to.equal(1);
    expect(mask.data[13 * 60 + 30]).to.equal(0);
    const half = makeBytes(30, 20);
    drawStroke(
      half,
      {
        radius: 5,
        points: [
          [10, 20],
          [50, 20],
        ],
      },
      1,
      0.5,
    );
    const area = (m: Bytes): number => m.data.reduce((s, v) => s + v, 0);
    expect(area(half) * 4).to.be.closeTo(area(mask), area(mask) * 0.15);
  });

  it('geodesic distance goes round a wall of another colour instead of through it', () => {
    const picture = paint(40, 40, (x, y) => (x === 20 && y > 4 ? [255, 255, 255] : [10, 10, 10]));
    const seeds = makeBytes(40, 40);
    seeds.data[30 * 40 + 10] = 1;
    const d = geodesicDistance(picture, seeds, 1, 1);
    expect(d.data[30 * 40 + 30]).to.be.within(26, 80);
  });

  it('superpixels follow a strong edge', () => {
    const s = superpixelsOf(
      paint(96, 64, (x) => (x < 50 ? [30, 60, 90] : [220, 190, 150])),
      60,
    );
    const side = new Map<number, Set<boolean>>();
    for (let i = 0; i < s.labels.length; i++) {
      const label = s.labels[i]!;
      if (!side.has(label)) side.set(label, new Set());
      side.get(label)!.add(i % 96 < 50);
    }
    expect([...side.values()].every((sides) => sides.size === 1)).to.equal(true);
  });
});

describe('find subject', () => {
  it('takes the one thing that stands out, and nothing else', () => {
    const { mask } = new CutSession(new CutPicture(floatPicture(), blind)).solve(request());
    expect(overlap(mask, inFloat)).to.be.greaterThan(0.97);
  });

  it('gives the same mask for the same request', () => {
    const a = new CutSession(new CutPicture(floatPicture(), blind)).solve(request());
    const b = new CutSession(new CutPicture(floatPicture(), blind)).solve(request());
    expect(Buffer.from(a.mask.data).equals(Buffer.from(b.mask.data))).to.equal(true);
  });

  it('whole foreground takes the ground and what stands on it, subject only does not', () => {
    // A boardwalk below, a post on it, sky above.
    const near = (x: number, y: number): boolean => y > 150 || (Math.abs(x - 180) < 16 && y > 60);
    const picture = paint(
      360,
      240,
      (x, y) => (near(x, y) ? [96 + ((x * 7 + y * 3) % 23), 72, 50 + (y % 5) * 3] : [150, 180, 205 - y / 8]),
      10,
    );
    const { mask } = new CutSession(new CutPicture(picture, blind)).solve(request({ answer: 'foreground' }));
    expect(overlap(mask, near)).to.be.greaterThan(0.95);
  });

  it('keeps a wire three pixels wide that the coarse level cannot see', () => {
    const wire = (x: number, y: number): boolean => Math.abs(x - 600) <= 1 && y > 100 && y < 420;
    const body = (x: number, y: number): boolean => Math.hypot(x - 600, y - 520) < 120;
    const picture = paint(1200, 800, (x, y) => (wire(x, y) || body(x, y) ? [30, 34, 36] : [205, 170, 140]), 8);
    const { mask } = new CutSession(new CutPicture(picture, blind)).solve(request());
    let found = 0;
    for (let y = 120; y < 400; y++) found += mask.data[y * 1200 + 600]!;
    expect(found / 280).to.be.greaterThan(0.95);
  });

  it('leaves the gaps of a wheel open', () => {
    const rim = (x: number, y: number): boolean => Math.abs(Math.hypot(x - 160, y - 110) - 70) < 12;
    const picture = paint(320, 220, (x, y) => (rim(x, y) ? [180, 50, 36] : [120 + (x % 9) * 4, 108, 90]), 8);
    const { mask } = new CutSession(new CutPicture(picture, blind)).solve(request());
    expect(overlap(mask, rim)).to.be.greaterThan(0.9);
  });

  it('takes only what lies in a box', () => {
    const left = (x: number, y: number): boolean => Math.hypot(x - 90, y - 100) < 40;
    const right = (x: number, y: number): boolean => Math.hypot(x - 230, y - 100) < 40;
    const picture = paint(320, 200, (x, y) => (left(x, y) || right(x, y) ? [200, 80, 40] : [80, 110, 120]), 10);
    const { mask } = new CutSession(new CutPicture(picture, blind)).solve(
      request({ box: { x: 180, y: 50, width: 100, height: 100 } }),
    );
    expect(overlap(mask, right)).to.be.greaterThan(0.95);
  });

  it('a Keep stroke adds the thing it is painted on, a Drop stroke takes it away, a reset gives the first answer back', () => {
    const second = (x: number, y: number): boolean => Math.abs(x - 270) < 22 && Math.abs(y - 160) < 20;
    const picture = paint(
      320,
      210,
      (x, y) => (inFloat(x, y) ? [190, 60, 40] : second(x, y) ? [120, 140, 118] : [90, 120, 130]),
      6,
    );
    const session = new CutSession(new CutPicture(picture, blind));
    const first = session.solve(request());
    expect(first.mask.data[160 * 320 + 270]).to.equal(0);
    const keep = [
      {
        radius: 6,
        points: [
          [258, 160],
          [282, 160],
        ] as [number, number][],
      },
    ];
    const kept = session.solve(request({ keep }));
    expect(kept.mask.data[160 * 320 + 270]).to.equal(1);
    expect(kept.changed).to.not.equal(null);
    const drop = [
      {
        radius: 8,
        points: [
          [130, 100],
          [170, 100],
        ] as [number, number][],
      },
    ];
    const dropped = session.solve(request({ keep, drop }));
    expect(dropped.mask.data[100 * 320 + 150]).to.equal(0);
    const again = session.solve(request());
    expect(again.mask.data[100 * 320 + 150]).to.equal(1);
  });

  it('says that nothing changed when a request is repeated', () => {
    const session = new CutSession(new CutPicture(floatPicture(), blind));
    session.solve(request());
    expect(session.solve(request()).changed).to.equal(null);
  });
});

describe('alpha', () => {
  /** A soft vertical edge of known width between two plain colours. */
  const trueAlpha = (x: number): number => Math.max(0, Math.min(1, (x - 92) / 16));
  const front = [200, 90, 40] as const;
  const back = [60, 110, 140] as const;
  const picture = paint(
    200,
    120,
    (x) => [0, 1, 2].map((c) => front[c]! * trueAlpha(x) + back[c]! * (1 - trueAlpha(x))) as [number, number, number],
    2,
  );
  const mask = makeBytes(200, 120);
  for (let i = 0; i < mask.data.length; i++) mask.data[i] = trueAlpha(i % 200) > 0.5 ? 1 : 0;

  it('follows a soft edge that is wider than the band it starts with', () => {
    const alpha = estimateAlpha(picture, mask);
    let error = 0;
    let hard = 0;
    for (let x = 84; x < 116; x++) {
      error += Math.abs(alpha.data[60 * 200 + x]! / 255 - trueAlpha(x));
      hard += Math.abs(mask.data[60 * 200 + x]! - trueAlpha(x));
    }
    expect(error).to.be.lessThan(hard * 0.4);
  });

  it('is the mask itself away from the edge, and untouched outside the asked rectangle', () => {
    const previous = makeBytes(200, 120, 7);
    const alpha = estimateAlpha(picture, mask, { x: 80, y: 30, width: 40, height: 60 }, previous);
    expect(alpha.data[10 * 200 + 100]).to.equal(7);
    expect(alpha.data[60 * 200 + 82]).to.equal(0);
    expect(alpha.data[60 * 200 + 118]).to.equal(255);
  });

  it('closed form alone solves a two-colour line exactly', () => {
    const unknown = makeBytes(200, 120);
    for (let i = 0; i < unknown.data.length; i++) unknown.data[i] = Math.abs((i % 200) - 100) < 14 ? 1 : 0;
    const clean = paint(
      200,
      120,
      (x) =>
        [0, 1, 2].map((c) => Math.round(front[c]! * trueAlpha(x) + back[c]! * (1 - trueAlpha(x)))) as [
          number,
          number,
          number,
        ],
    );
    const solved = solveMatte({
      picture: clean,
      mask,
      unknown,
      guess: makePlane(200, 120),
      certainty: makePlane(200, 120),
      fallback: null,
    });
    for (let x = 90; x < 112; x++) expect(solved.data[60 * 200 + x]! / 255).to.be.closeTo(trueAlpha(x), 0.05);
  });

  it('cleaned colours are the foreground alone, so a new ground shows no fringe', () => {
    const alpha = makeBytes(200, 120);
    for (let i = 0; i < alpha.data.length; i++) alpha.data[i] = Math.round(trueAlpha(i % 200) * 255);
    const piece = cleanColours(picture, alpha);
    for (let x = 96; x < 108; x++) {
      for (let c = 0; c < 3; c++) expect(piece.data[(60 * 200 + x) * 4 + c]).to.be.closeTo(front[c]!, 9);
    }
  });

  it('fully opaque pixels keep their bytes', () => {
    const piece = cleanColours(picture, makeBytes(200, 120, 255));
    expect(Buffer.from(piece.data).equals(Buffer.from(picture.data))).to.equal(true);
  });
});
