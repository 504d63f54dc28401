import { expect } from 'chai';
import { makeBytes, type Bytes, type Rgba } from '../pixels/raster.ts';
import { alignPictures, NothingInCommon } from './align.ts';
import { rebuildBehind } from './behind.ts';
import { exposureBetween, fillFromPhoto, laidOver } from './other-photo.ts';
import { retouch } from './retouch.ts';
import { partedShadow, withoutShadow } from './shadow-layer.ts';
import { shadowAlpha } from './shadow.ts';
import { blotches, covered, disc, meanDifference, paint, planks } from './test-pictures.ts';
import { levellingAngle, onLargerGround, padToRatio, turned, widen } from './widen.ts';

const all = (picture: Rgba): Bytes => makeBytes(picture.width, picture.height, 1);

describe('widen', () => {
  it('adds what a ratio lacks, evenly, and never cuts', () => {
    expect(padToRatio(1000, 1000, 16 / 9)).to.deep.equal({ left: 389, right: 389, top: 0, bottom: 0 });
    expect(padToRatio(1600, 900, 1)).to.deep.equal({ left: 0, right: 0, top: 350, bottom: 350 });
    expect(padToRatio(1920, 1080, 16 / 9)).to.deep.equal({ left: 0, right: 0, top: 0, bottom: 0 });
  });

  it('keeps the picture in its place and continues its pattern outside', async () => {
    const wide = paint(288, 120, (x, y) => (x % 24 < 3 ? [44, 37, 31] : [140 + 9 * Math.sin(x * 0.8 + y), 119, 98]));
    const middle: Rgba = { width: 192, height: 120, data: new Uint8ClampedArray(192 * 120 * 4) };
    for (let y = 0; y < 120; y++)
      middle.data.set(wide.data.subarray((y * 288 + 48) * 4, (y * 288 + 240) * 4), y * 192 * 4);
    const out = await widen({ picture: middle, pad: { left: 48, right: 48, top: 0, bottom: 0 }, seed: 1 });
    expect([out.width, out.height]).to.deep.equal([288, 120]);
    let [dark, inStep] = [0, 0];
    for (let y = 0; y < 120; y++) {
      for (let x = 0; x < 288; x++) {
        const i = (y * 288 + x) * 4;
        expect(out.data[i + 3]).to.equal(255);
        if (x >= 48 && x < 240) expect(out.data[i]).to.equal(wide.data[i]);
        else if (out.data[i]! < 85) {
          dark++;
          if ((x + 3) % 24 < 9) inStep++;
        }
      }
    }
    // Joints of 3 pixels every 24, within 3 pixels of where they belong.
    expect(dark / (120 * 96)).to.be.within(0.08, 0.17);
    expect(inStep / dark).to.be.greaterThan(0.95);
  });

  it('takes transparent parts of a picture as missing', () => {
    const picture = planks(20, 10);
    picture.data[3] = 128;
    const { hole } = onLargerGround(picture, { left: 2, top: 0, right: 0, bottom: 0 });
    expect([...hole.data.slice(0, 4)]).to.deep.equal([1, 1, 1, 0]);
  });

  it('levels along a line drawn over the horizon, or upright along a mast', () => {
    expect(levellingAngle([0, 0], [100, 10])).to.be.closeTo(-5.71, 0.01);
    expect(levellingAngle([100, 10], [0, 0])).to.be.closeTo(-5.71, 0.01);
    expect(levellingAngle([0, 0], [10, 100])).to.be.closeTo(5.71, 0.01);
  });

  it('turns as the analytic picture turns, and leaves empty corners transparent', () => {
    const wave = (x: number, y: number): [number, number, number] => {
      const v = 128 + 60 * Math.sin(x * 0.12) * Math.cos(y * 0.1);
      return [v, v, v];
    };
    const picture = paint(160, 120, wave);
    const out = turned(picture, 7);
    const angle = (-7 * Math.PI) / 180;
    for (const [x, y] of [
      [80, 60],
      [40, 50],
      [120, 90],
    ] as const) {
      const [dx, dy] = [x + 0.5 - 80, y + 0.5 - 60];
      const want = wave(
        80 - 0.5 + Math.cos(angle) * dx - Math.sin(angle) * dy,
        60 - 0.5 + Math.sin(angle) * dx + Math.cos(angle) * dy,
      );
      expect(out.data[(y * 160 + x) * 4]).to.be.closeTo(want[0], 1.5);
    }
    expect(out.data[3]).to.equal(0);
  });
});

describe('retouch', () => {
  const stroke = { radius: 8, points: [[60, 40]] as [number, number][] };

  it('clone copies what lies at the offset, and fades over the soft rim', async () => {
    const picture = blotches(140, 90);
    const out = await retouch(picture, { kind: 'clone', stroke, offset: [30, 10], soft: 0.5 }, null);
    const at = (x: number, y: number): number => (y * 140 + x) * 4;
    expect(out.data[at(60, 40)]).to.equal(picture.data[at(90, 50)]);
    expect(out.data[at(75, 40)]).to.equal(picture.data[at(75, 40)]);
    const [low, high] = [picture.data[at(66, 40)]!, picture.data[at(96, 50)]!].sort((a, b) => a - b) as [
      number,
      number,
    ];
    expect(out.data[at(66, 40)]).to.be.within(low, high);
  });

  it('heal brings the texture over and keeps the light of the place', async () => {
    const light = (x: number): number => 60 + x;
    const texture = (x: number, y: number): number => 12 * Math.sin(x * 1.3) * Math.sin(y * 1.1);
    const truth = paint(140, 90, (x, y) => [light(x) + texture(x, y), light(x) + texture(x, y), light(x)]);
    const spotted = covered(truth, disc(140, 90, 60, 40, 5), [250, 20, 20]);
    const out = await retouch(spotted, { kind: 'heal', stroke, offset: [40, 8], soft: 0 }, null);
    const spot = disc(140, 90, 60, 40, 5);
    // The texture differs by its phase only; cloning without healing would be 40 bytes too light.
    expect(meanDifference(out, truth, spot)).to.be.lessThan(14);
  });

  it('a gone-stroke removes letters and changes nothing elsewhere', async () => {
    const truth = planks(160, 110);
    const letter = makeBytes(160, 110);
    for (let y = 40; y < 66; y++) for (let x = 78; x < 82; x++) letter.data[y * 160 + x] = 1;
    const written = covered(truth, letter, [20, 30, 200]);
    const out = await retouch(
      written,
      {
        kind: 'gone',
        stroke: {
          radius: 6,
          points: [
            [80, 38],
            [80, 68],
          ],
        },
        seed: 1,
      },
      null,
    );
    for (let i = 0; i < letter.data.length; i++) {
      if (letter.data[i]) expect(out.data[i * 4 + 2]).to.be.lessThan(130);
      if (Math.abs((i % 160) - 80) > 12) expect(out.data[i * 4]).to.equal(written.data[i * 4]);
    }
  });

  it('on a piece nothing is taken from outside it and its alpha stays', async () => {
    const piece = covered(planks(160, 110), disc(160, 110, 80, 55, 200), [130, 110, 90]);
    const inside = disc(160, 110, 80, 55, 40);
    const alpha: Bytes = { ...inside, data: inside.data.map((v) => v * 255) };
    for (let i = 0; i < alpha.data.length; i++) {
      piece.data[i * 4 + 3] = alpha.data[i]!;
      if (!alpha.data[i]) piece.data.set([0, 255, 0], i * 4);
    }
    const marked = covered(piece, disc(160, 110, 80, 55, 4), [255, 0, 0]);
    const out = await retouch(marked, { kind: 'gone', stroke: { radius: 6, points: [[80, 55]] }, seed: 1 }, alpha);
    expect([...out.data.slice((55 * 160 + 80) * 4, (55 * 160 + 80) * 4 + 4)]).to.deep.equal([130, 110, 90, 255]);
    expect(out.data[3]).to.equal(0);
  });
});

describe('lifted shadow', () => {
  const [width, height] = [260, 180];
  const ground = planks(width, height);
  const darkness = (x: number, y: number): number =>
    0.55 * Math.max(0, 1 - Math.hypot((x - 130) / 60, (y - 120) / 26)) ** 0.8;
  const shaded: Rgba = { ...ground, data: ground.data.slice() };
  for (let i = 0; i < width * height; i++)
    for (let c = 0; c < 3; c++)
      shaded.data[i * 4 + c] = ground.data[i * 4 + c]! * (1 - darkness(i % width, Math.floor(i / width)));
  const region = [
    {
      radius: 34,
      points: [
        [96, 120],
        [164, 120],
      ] as [number, number][],
    },
  ];

  it('recomposes to the picture within 2/255, and the plate is near the true ground', async () => {
    const { plate, shadows } = await rebuildBehind({ picture: shaded, pieces: [], shadows: [region], seed: 1 });
    const { layer, bounds } = shadows[0]!;
    let worst = 0;
    for (let y = 0; y < bounds.height; y++) {
      for (let x = 0; x < bounds.width; x++) {
        const a = layer.data[(y * bounds.width + x) * 4 + 3]! / 255;
        const i = ((y + bounds.y) * width + x + bounds.x) * 4;
        for (let c = 0; c < 3; c++)
          worst = Math.max(worst, Math.abs(plate.data[i + c]! * (1 - a) - shaded.data[i + c]!));
      }
    }
    expect(worst).to.be.at.most(2);
    const core = disc(width, height, 130, 120, 14);
    expect(meanDifference(shaded, ground, core)).to.be.greaterThan(40);
    expect(meanDifference(plate, ground, core)).to.be.lessThan(9);
  });

  it('is black, soft, and continued under the piece that hid the ground', async () => {
    const under = disc(width, height, 130, 104, 16);
    const whole = makeBytes(width, height);
    for (let i = 0; i < whole.data.length; i++)
      whole.data[i] = Math.hypot((i % width) - 130, Math.floor(i / width) - 120) < 70 ? 1 : 0;
    const alpha = await shadowAlpha(covered(shaded, under, [0, 200, 0]), ground, whole, under);
    const at = (x: number, y: number): number => alpha.data[y * width + x]!;
    expect(at(130, 112)).to.be.within(60, 160);
    const { ground: lit, shadow } = partedShadow(shaded, ground, alpha, makeBytes(width, height));
    const { layer, bounds } = shadow!;
    expect(layer.data[0]! + layer.data[1]! + layer.data[2]!).to.equal(0);
    for (let x = 70; x < 190; x++) expect(Math.abs(at(x, 124) - at(x + 1, 124))).to.be.lessThan(22);
    // A black layer is taken away again to the same ground.
    expect(meanDifference(withoutShadow(shaded, layer, bounds.x, bounds.y), lit, all(shaded))).to.be.below(0.5);
    const none = partedShadow(shaded, ground, makeBytes(width, height), under);
    expect(none.shadow).to.equal(null);
    expect(meanDifference(none.ground, shaded, all(shaded))).to.equal(0);
  });
});

describe('a second photo as the plate', () => {
  const scene = blotches(700, 500, 3);
  const at = { a: 1.06 * Math.cos(0.05), b: 1.06 * Math.sin(0.05), tx: 20, ty: -12 };
  const picture: Rgba = { width: 420, height: 300, data: new Uint8ClampedArray(420 * 300 * 4) };
  for (let y = 0; y < 300; y++)
    picture.data.set(scene.data.subarray(((y + 90) * 700 + 120) * 4, ((y + 90) * 700 + 540) * 4), y * 420 * 4);
  // The other photo shows the scene through the known similarity, darker and flatter.
  const inverse = { s: at.a ** 2 + at.b ** 2 };
  const other = laidOver({ width: 440, height: 320 }, scene, {
    a: at.a / inverse.s,
    b: -at.b / inverse.s,
    tx: 120 - (at.a * at.tx + at.b * at.ty) / inverse.s,
    ty: 90 - (at.a * at.ty - at.b * at.tx) / inverse.s,
  });
  for (let i = 0; i < other.data.length; i++) if (i % 4 !== 3) other.data[i] = other.data[i]! * 0.8 + 6;
  const hole = disc(420, 300, 210, 150, 60);
  const subject = covered(picture, hole, [230, 120, 20]);

  it('is laid over the picture to a fifth of a pixel, whatever stands in front', async () => {
    const found = await alignPictures(subject, other, hole);
    for (const [x, y] of [
      [10, 10],
      [410, 20],
      [30, 290],
      [400, 280],
    ] as const) {
      expect(found.a * x - found.b * y + found.tx).to.be.closeTo(at.a * x - at.b * y + at.tx, 0.2);
      expect(found.b * x + found.a * y + found.ty).to.be.closeTo(at.b * x + at.a * y + at.ty, 0.2);
    }
  });

  it('shows the true ground in the hole, in the exposure of the picture', async () => {
    const [red] = exposureBetween(picture, laidOver(picture, other, at), hole);
    expect(red!.gain).to.be.closeTo(1.25, 0.02);
    const out = await fillFromPhoto({ picture: subject, hole, other, seed: 1 });
    expect(meanDifference(out, picture, hole)).to.be.lessThan(3);
  });

  it('shows it under a lifted shadow too, and tells how dark the shadow is', async () => {
    // A shadow on the right of the subject that takes up to 60 per cent of the light.
    const dark = (x: number, y: number): number => 0.6 * Math.max(0, 1 - Math.hypot((x - 300) / 60, (y - 190) / 24));
    const shaded: Rgba = { ...subject, data: subject.data.slice() };
    for (let i = 0; i < 420 * 300; i++)
      if (!hole.data[i]) for (let c = 0; c < 3; c++) shaded.data[i * 4 + c]! *= 1 - dark(i % 420, Math.floor(i / 420));
    const shadows = [[{ radius: 34, points: [[268, 190] as const, [332, 190] as const] }]];
    const pieces = [{ alpha: { ...hole, data: hole.data.map((v) => v * 255) }, x: 0, y: 0 }];
    const made = await rebuildBehind({ picture: shaded, pieces, shadows, seed: 1, photo: other });
    const under: Bytes = {
      ...hole,
      data: hole.data.map((_, i) => (dark(i % 420, Math.floor(i / 420)) > 0.05 ? 1 : 0)),
    };
    expect(meanDifference(made.plate, picture, under)).to.be.lessThan(3);
    const { layer, bounds } = made.shadows[0]!;
    for (const [x, y] of [
      [300, 190],
      [320, 186],
      [290, 200],
    ] as const) {
      const alpha = layer.data[((y - bounds.y) * bounds.width + x - bounds.x) * 4 + 3]! / 255;
      expect(alpha, `${x}, ${y}`).to.be.closeTo(dark(x, y), 0.08);
    }
  });

  it('refuses a photo of another place', async () => {
    const error = await alignPictures(subject, blotches(440, 320, 77), hole).catch((e: unknown) => e);
    expect(error).to.be.instanceOf(NothingInCommon);
  });
});
