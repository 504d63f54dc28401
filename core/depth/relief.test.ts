import { expect } from 'chai';
import sharp from 'sharp';
import { readDepthPng, UnreadableDepthMap, writeDepthPng } from '../formats/depth-png.ts';
import { makePlane, type Rgba } from '../pixels/raster.ts';
import { apply, viewOfPlane, type Camera } from './camera.ts';
import { bandsOf, drawnDepth, nearerThan } from './depth-map.ts';
import { enlargedPlane } from '../pixels/resample.ts';
import { traceRelief, type ReliefView } from './relief.ts';

const [width, height] = [120, 80];

function picture(colour: (x: number, y: number) => [number, number, number]): Rgba {
  const data = new Uint8ClampedArray(width * height * 4);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) data.set([...colour(x, y), 255], (y * width + x) * 4);
  return { width, height, data };
}

describe('depth drawn with strokes', () => {
  const inBall = (x: number, y: number): boolean => Math.hypot(x - 60, y - 40) < 22;
  const scene = picture((x, y) => (inBall(x, y) ? [190, 70, 50] : [70, 110 + (x % 7), 130]));

  it('spreads to the edges of what it touches and no further', async () => {
    const map = await drawnDepth(scene, [
      { closeness: 1, radius: 4, points: [[60, 40]] },
      {
        closeness: 0.1,
        radius: 4,
        points: [
          [8, 8],
          [110, 8],
          [110, 72],
          [8, 72],
        ],
      },
    ]);
    const whole = enlargedPlane(map, width, height);
    let wrong = 0;
    for (let y = 0; y < height; y += 3)
      for (let x = 0; x < width; x += 3) {
        if (Math.abs(Math.hypot(x - 60, y - 40) - 22) < 3) continue;
        const wanted = inBall(x, y) ? 1 : 0.1;
        if (Math.abs(whole.data[y * width + x]! - wanted) > 0.12) wrong++;
      }
    expect(wrong).to.be.below(6);
  });

  it('runs evenly between a near and a far stroke where nothing stops it', async () => {
    const map = await drawnDepth(
      picture(() => [90, 100, 110]),
      [
        {
          closeness: 1,
          radius: 2,
          points: [
            [2, 0],
            [2, 79],
          ],
        },
        {
          closeness: 0,
          radius: 2,
          points: [
            [117, 0],
            [117, 79],
          ],
        },
      ],
    );
    // Between two straight anchors the harmonic function is a straight line.
    for (const x of [30, 60, 90]) {
      const at = map.data[40 * map.width + Math.round((x / width) * map.width)]!;
      expect(at).closeTo(1 - (x - 4) / (115.5 - 4), 0.03);
    }
  });

  it('is the middle where nothing was said, and what a stroke says all along it', async () => {
    const plain = picture(() => [90, 100, 110]);
    const unsaid = await drawnDepth(plain, []);
    expect([...unsaid.data].every((v) => Math.abs(v - 0.5) < 0.05)).to.equal(true);
    const corners = [
      [114, 6],
      [6, 74],
    ] as [number, number][];
    const map = await drawnDepth(plain, [
      ...corners.map((point) => ({ closeness: 0, radius: 3, points: [point] })),
      {
        closeness: 1,
        radius: 3,
        points: [
          [16, 10],
          [104, 70],
        ],
      },
    ]);
    const at = (x: number, y: number): number =>
      enlargedPlane(map, width, height).data[Math.round(y) * width + Math.round(x)]!;
    for (const t of [0, 0.2, 0.4, 0.6, 0.8, 1]) expect(at(16 + 88 * t, 10 + 60 * t), String(t)).to.be.above(0.95);
    for (const [x, y] of corners) expect(at(x, y)).to.be.below(0.1);
  });

  it('is cut between the distances it holds', () => {
    const three = makePlane(90, 10);
    for (let i = 0; i < 900; i++) three.data[i] = [0.05, 0.5, 0.92][Math.floor((i % 90) / 30)]! + ((i % 7) - 3) / 200;
    const [near, far] = bandsOf(three, 3) as [number, number];
    expect(near).closeTo((0.905 + 0.515) / 2, 0.02);
    expect(far).closeTo((0.485 + 0.065) / 2, 0.02);
    const map = makePlane(100, 10);
    for (let i = 0; i < 1000; i++) map.data[i] = (i % 100) / 99;
    const bounds = bandsOf(map, 4);
    bounds.forEach((bound, k) => expect(bound).closeTo([0.75, 0.5, 0.25][k]!, 0.02));
    const share = nearerThan(map, bounds[0]!).data.reduce((sum, v) => sum + v / 255, 0) / 1000;
    expect(share).closeTo(0.25, 0.02);
    expect(bandsOf(makePlane(10, 10), 3)).to.deep.equal([]);
  });
});

describe('depth maps as files', () => {
  it('are 16-bit grey PNGs, as another program reads them, and come back as they were', async () => {
    const map = makePlane(31, 17);
    for (let i = 0; i < map.data.length; i++) map.data[i] = i / (map.data.length - 1);
    const bytes = writeDepthPng(map);
    const facts = await sharp(bytes).metadata();
    expect([facts.format, facts.depth, facts.channels]).to.deep.equal(['png', 'ushort', 1]);
    const raw = await sharp(bytes).toColourspace('grey16').raw({ depth: 'ushort' }).toBuffer();
    expect(raw.readUInt16LE(2 * 100)).to.equal(Math.round((100 / 526) * 65_535));
    const back = readDepthPng(bytes);
    for (let i = 0; i < map.data.length; i++) expect(back.data[i]).closeTo(map.data[i]!, 1 / 65_535);
  });

  it('of other programs may be 8-bit or coloured; other files are refused', async () => {
    const grey = Buffer.from([0, 64, 128, 255]);
    const png = await sharp(grey, { raw: { width: 2, height: 2, channels: 1 } })
      .png()
      .toBuffer();
    expect([...readDepthPng(png).data].map((v) => Math.round(v * 255))).to.deep.equal([0, 64, 128, 255]);
    expect(() => readDepthPng(Buffer.from('no picture'))).to.throw(UnreadableDepthMap);
  });
});

describe('relief', () => {
  const whole = { x: 0, y: 0, width, height };
  const seenThrough = (map: ReturnType<typeof makePlane>, camera: Camera, near: number, far: number) => {
    // Pixels of the picture are rest pixels, its middle in the centre.
    const toPicture = [1, 0, 0, 1, width / 2, height / 2] as const;
    const view: ReliefView = { camera, near, far, toPicture, scale: 1, x: width / 2, y: height / 2 };
    const out: [number, number][] = [];
    traceRelief(map, { width, height }, view, whole, (u, v, at) => (out[at] = [u, v]));
    return (x: number, y: number): [number, number] => out[y * width + x]!;
  };
  const cameras: Camera[] = [
    { x: 30, y: -12, z: 0 },
    { x: 0, y: 0, z: 0.9 },
    { x: 20, y: 10, z: 0.5, zoom: 1.3, roll: 20 },
    { x: 40, y: 0, z: 0.4, planes: { depth: 3, parallax: 1.6, hold: 0.7 } },
  ];

  it('of an even map is the plane at that distance, for any camera', () => {
    for (const camera of cameras) {
      for (const closeness of [0, 0.35, 1]) {
        const map = makePlane(40, 30);
        map.data.fill(closeness);
        const at = seenThrough(map, camera, 2, 8);
        const q = 1 / 8 + closeness * (1 / 2 - 1 / 8);
        const plane = viewOfPlane(camera, 1 / q)!;
        for (const [x, y] of [
          [10, 10],
          [60, 40],
          [101, 66],
        ] as const) {
          const [u, v] = at(x, y);
          const [sx, sy] = apply(plane, [u - width / 2, v - height / 2]);
          expect(sx + width / 2, `${JSON.stringify(camera)} ${closeness}`).closeTo(x + 0.5, 0.05);
          expect(sy + height / 2).closeTo(y + 0.5, 0.05);
        }
      }
    }
  });

  it('at rest changes nothing', () => {
    const map = makePlane(60, 40);
    for (let i = 0; i < map.data.length; i++) map.data[i] = ((i * 7) % 60) / 60;
    const at = seenThrough(map, { x: 0, y: 0, z: 0 }, 2, 9);
    for (const [x, y] of [
      [5, 5],
      [70, 33],
    ] as const)
      expect(at(x, y)).to.deep.equal([x + 0.5, y + 0.5]);
  });

  it('lets what is near hide what is far, as painting far before near finds it', () => {
    const map = makePlane(width, height);
    for (let y = 0; y < height; y++) for (let x = 40; x < 70; x++) map.data[y * width + x] = 1;
    const camera = { x: 60, y: 0, z: 0 };
    const at = seenThrough(map, camera, 2, 8);
    // By the planes alone: near moves 30 to the left, far 7.5.
    for (let x = 12; x < 110; x++) {
      const nearSource = x + 0.5 + 30;
      const isNear = nearSource > 41 && nearSource < 69;
      if (Math.min(Math.abs(nearSource - 40), Math.abs(nearSource - 70)) < 2) continue;
      const wanted = isNear ? nearSource : x + 0.5 + 7.5;
      const [u] = at(x, 40);
      // What was hidden behind the near strip is not in the picture: there the relief stretches.
      const uncovered = !isNear && wanted > 39 && wanted < 71;
      if (!uncovered) expect(u, `at ${x}`).closeTo(wanted, 0.6);
    }
  });
});
