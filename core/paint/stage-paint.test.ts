import { createCanvas, type Canvas } from '@napi-rs/canvas';
import { expect } from 'chai';
import { homographyOf, invertHomography, throughHomography } from '../depth/homography.ts';
import { ellipse, rectangle } from '../path/forms.ts';
import { plainShape } from '../path/shapes.ts';
import type { Content, Draw, SwayNow } from '../scene/draw.ts';
import { lettersOf } from '../text/lettering.ts';
import { loadTestFaces, plainText } from '../text/test-faces.ts';
import { paintFrame } from './painter.ts';
import { contextOf, testStudio } from './test-studio.ts';

const [width, height] = [120, 90];

function picture(w: number, h: number, colourAt: (x: number, y: number) => string): Canvas {
  const canvas = createCanvas(w, h);
  const context = canvas.getContext('2d');
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      context.fillStyle = colourAt(x, y);
      context.fillRect(x, y, 1, 1);
    }
  return canvas;
}

const images = {
  red: picture(60, 40, () => '#c80000'),
  blue: picture(120, 90, () => '#0000c8'),
  board: picture(60, 40, (x, y) => (((x >> 2) + (y >> 2)) % 2 === 0 ? '#ffffff' : '#000000')),
  ramp: picture(
    120,
    90,
    (x) => `rgb(${Math.round((x / 119) * 255)}, ${Math.round((x / 119) * 255)}, ${Math.round((x / 119) * 255)})`,
  ),
};

const draw = (file: keyof typeof images, change: Partial<Draw> = {}): Draw => ({
  layer: file,
  content: { kind: 'image', file, clip: null, corners: null, sways: [], relief: null },
  matrix: [1, 0, 0, 1, 0, 0],
  width: images[file].width,
  height: images[file].height,
  opacity: 1,
  blend: 'normal',
  blur: 0,
  masks: null,
  window: null,
  clips: [],
  finishes: null,
  opaque: true,
  ...change,
});

function paint(draws: Draw[], scale = 1) {
  const canvas = createCanvas(width * scale, height * scale);
  const missing = paintFrame(contextOf(canvas), { width, height, draws }, testStudio(images), {
    scale,
    ground: '#000000',
  });
  expect(missing).to.deep.equal([]);
  const { data } = canvas.getContext('2d').getImageData(0, 0, canvas.width, canvas.height);
  return (x: number, y: number): number[] => [
    ...data.slice((y * canvas.width + x) * 4, (y * canvas.width + x) * 4 + 3),
  ];
}

describe('windows', () => {
  const disc = (change: Partial<Draw> = {}): Draw => ({
    ...draw('blue'),
    layer: 'disc',
    content: {
      kind: 'shape',
      paths: [ellipse({ x: 30, y: 15, width: 60, height: 60 })],
      fill: [0, 0, 200, 1],
      gradient: null,
      stroke: null,
      box: { x: 30, y: 15, width: 60, height: 60 },
    },
    ...change,
  });
  const red = (
    how: 'inside' | 'outside',
    free: { x: number; y: number; dx: number; dy: number; soft: number } | null,
  ) => draw('red', { matrix: [1, 0, 0, 1, 45, 25], window: { matte: [disc()], how, by: 'alpha', free } });

  it('show a layer only inside, or only outside, another one', () => {
    const inside = paint([red('inside', null)]);
    const outside = paint([red('outside', null)]);
    for (let y = 28; y < 62; y += 3)
      for (let x = 48; x < 102; x += 3) {
        const d = Math.hypot(x + 0.5 - 60, y + 0.5 - 45);
        if (Math.abs(d - 30) < 1.2) continue;
        expect(inside(x, y)[0], `in ${x} ${y}`).to.equal(d < 30 ? 200 : 0);
        expect(outside(x, y)[0], `out ${x} ${y}`).to.equal(d < 30 ? 0 : 200);
      }
  });

  it('let part of the layer break out: half in, half out of a ring', () => {
    const at = paint([red('inside', { x: 60, y: 45, dx: 0, dy: -1, soft: 0 })]);
    expect(at(100, 30)[0], 'free above the line').to.equal(200);
    expect(at(100, 60)[0], 'held below it').to.equal(0);
    expect(at(62, 60)[0], 'seen in the window').to.equal(200);
    const soft = paint([red('inside', { x: 60, y: 45, dx: 0, dy: -1, soft: 16 })]);
    const fade = [52, 48, 45, 42, 38].map((y) => soft(100, y)[0]!);
    for (let k = 1; k < fade.length; k++) expect(fade[k]).to.be.greaterThan(fade[k - 1]!);
  });

  it('by brightness show as much as the other is light', () => {
    const at = paint([
      draw('red', {
        matrix: [2, 0, 0, 2.25, 0, 0],
        window: { matte: [draw('ramp')], how: 'inside', by: 'brightness', free: null },
      }),
    ]);
    for (const x of [10, 60, 110]) expect(at(x, 40)[0]).closeTo((200 * x) / 119, 3);
  });
});

describe('masks', () => {
  const masked = (shapes: Parameters<typeof mask>[0][]) =>
    draw('blue', { masks: { shapes: shapes.map(mask), matrix: [1, 0, 0, 1, 0, 0] } });
  const mask = (change: Partial<typeof plainShape> & { box: [number, number, number, number] }, k = 0) => {
    const { box, ...rest } = change;
    const [x, y, w, h] = box;
    return { ...plainShape, ...rest, id: `m${k}`, path: rectangle({ x, y, width: w, height: h }) };
  };

  it('are joined in their order, each added, taken away or kept within', () => {
    const at = paint([
      masked([
        { box: [10, 10, 60, 60] },
        { box: [20, 20, 20, 20], how: 'take' as never },
        { box: [0, 0, 50, 90], how: 'within' as never },
      ]),
    ]);
    expect([at(15, 15)[2], at(30, 30)[2], at(60, 40)[2], at(5, 5)[2], at(45, 60)[2]]).to.deep.equal([
      200, 0, 0, 0, 200,
    ]);
  });

  it('fade over their feather and grow beyond their outline', () => {
    const at = paint([masked([{ box: [30, 20, 60, 50], feather: 12 as never }])]);
    const edge = [22, 27, 30, 33, 38].map((x) => at(x, 45)[2]!);
    for (let k = 1; k < edge.length; k++) expect(edge[k]).to.be.greaterThan(edge[k - 1]!);
    expect(edge[2]).closeTo(100, 14);
    const grown = paint([masked([{ box: [30, 20, 60, 50], grow: 5 as never }])]);
    expect([grown(26, 45)[2], grown(23, 45)[2]]).to.deep.equal([200, 0]);
  });
});

describe('blur', () => {
  it('spreads by its standard deviation and leaves the frame covered to its border', () => {
    const at = paint([
      draw('blue', { blur: 0 }),
      draw('red', { matrix: [2, 0, 0, 2.25, 60, 0], blur: 6, opaque: false }),
    ]);
    // Beside a straight edge a Gaussian is its own integral: half there, 84 % one deviation inside.
    expect(at(60, 45)[0]).closeTo(100, 8);
    expect(at(66, 45)[0]).closeTo(168, 8);
    expect(at(54, 45)[0]).closeTo(32, 8);
    const whole = paint([draw('red', { matrix: [4, 0, 0, 4, -60, -30], blur: 9, opaque: false })]);
    expect(whole(0, 0)[0]).closeTo(200, 3);
    expect(whole(119, 89)[0]).closeTo(200, 3);
  });
});

describe('corners', () => {
  it('are pinned by the projective map through them, as single pixels looked up by brute force', () => {
    const corners = [8, 4, -6, 10, 20, 18, -4, 6];
    const content = { kind: 'image' as const, file: 'board', clip: null, corners, sways: [], relief: null };
    const at = paint([draw('board', { content, matrix: [1, 0, 0, 1, 20, 15], opaque: false })]);
    const square = [0, 0, 60, 0, 60, 40, 0, 40];
    const back = invertHomography(
      homographyOf(
        square,
        square.map((v, k) => v + corners[k]!),
      )!,
    )!;
    let wrong = 0;
    let looked = 0;
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const [u, v] = throughHomography(back, x + 0.5 - 20, y + 0.5 - 15)!;
        // Only well inside a square of the board is its colour certain.
        const [fu, fv] = [((u % 4) + 4) % 4, ((v % 4) + 4) % 4];
        if (u < 1 || v < 1 || u > 59 || v > 39 || Math.min(fu, fv, 4 - fu, 4 - fv) < 1.1) continue;
        looked++;
        const white = ((u >> 2) + (v >> 2)) % 2 === 0;
        if (Math.abs(at(x, y)[0]! - (white ? 255 : 0)) > 90) wrong++;
      }
    expect(looked).to.be.greaterThan(200);
    expect(wrong).to.equal(0);
  });
});

describe('a swaying picture', () => {
  const sway: SwayNow = {
    region: { form: 'rectangle', x: 0, y: 0, width: 60, height: 40 },
    whole: true,
    soft: 0,
    direction: 90,
    size: 50,
    strength: 9,
    pinned: 'left',
    shade: 0,
    turn: 0.3,
  };
  const swaying = (turn: number, scale = 1) =>
    paint(
      [
        draw('red', {
          content: { kind: 'image', file: 'red', clip: null, corners: null, sways: [{ ...sway, turn }], relief: null },
          matrix: [1, 0, 0, 1, 30, 25],
          opaque: false,
        }),
      ],
      scale,
    );

  it('keeps its pinned side and waves out of its own box elsewhere', () => {
    const at = swaying(0.3);
    expect(at(30, 45)[0]).closeTo(200, 2);
    let outside = 0;
    for (let x = 30; x < 90; x++) for (const y of [18, 20, 22, 67, 69]) if (at(x, y)[0]! > 100) outside++;
    expect(outside).to.be.greaterThan(10);
  });

  it('is the same a whole period later and another half a period later', () => {
    const [now, later, half] = [swaying(0.3), swaying(1.3), swaying(0.8)];
    let differs = 0;
    for (let y = 0; y < height; y += 2)
      for (let x = 0; x < width; x += 2) {
        expect(later(x, y)).to.deep.equal(now(x, y));
        if (Math.abs(half(x, y)[0]! - now(x, y)[0]!) > 100) differs++;
      }
    expect(differs).to.be.greaterThan(30);
  });

  it('is the same picture at another size', () => {
    const [small, large] = [swaying(0.3), swaying(0.3, 2)];
    let wrong = 0;
    for (let y = 1; y < height - 1; y++)
      for (let x = 1; x < width - 1; x++) {
        const mean = [0, 1, 2, 3].reduce((sum, k) => sum + large(x * 2 + (k & 1), y * 2 + (k >> 1))[0]!, 0) / 4;
        if (Math.abs(mean - small(x, y)[0]!) > 110) wrong++;
      }
    expect(wrong).to.be.below(12);
  });
});

describe('groups, shapes and text', () => {
  it('a group is mixed as one picture: what overlaps in it does not shine through', () => {
    const members = [draw('red', { matrix: [1, 0, 0, 1, 10, 10] }), draw('red', { matrix: [1, 0, 0, 1, 30, 20] })];
    const group: Draw = { ...draw('blue'), content: { kind: 'together', draws: members }, opacity: 0.5, opaque: false };
    const at = paint([group]);
    expect([at(15, 15)[0], at(50, 40)[0], at(85, 55)[0]].map((v) => Math.round(v! / 10))).to.deep.equal([10, 10, 10]);
  });

  it('a shape is filled with its colour or gradient, and stroked', () => {
    const shape = (change: object): Draw => ({
      ...draw('blue'),
      content: {
        kind: 'shape',
        paths: [rectangle({ x: 20, y: 20, width: 80, height: 40 })],
        fill: [10, 200, 30, 1],
        gradient: null,
        stroke: { width: 6, colour: [240, 240, 0, 1] },
        box: { x: 20, y: 20, width: 80, height: 40 },
        ...change,
      },
    });
    const plain = paint([shape({})]);
    expect([plain(60, 40), plain(20, 40), plain(15, 40)]).to.deep.equal([
      [10, 200, 30],
      [240, 240, 0],
      [0, 0, 0],
    ]);
    const stops = [
      { at: 0, colour: [0, 0, 0, 1] },
      { at: 1, colour: [200, 0, 0, 1] },
    ];
    const faded = paint([shape({ gradient: { kind: 'linear', angle: 0, stops }, stroke: null })]);
    for (const x of [30, 60, 90]) expect(faded(x, 40)[0]).closeTo(((x + 0.5 - 20) / 80) * 200, 3);
  });

  it('text fills its outlines, and leaves the holes of letters open', async () => {
    await loadTestFaces('condensed');
    const text = { ...plainText, text: 'O', size: 70, stroke: null, along: null, x: 0, first: 0, end: 1 };
    const { width: wide, height: tall } = lettersOf(text)!;
    const content: Content = { kind: 'text', text, colour: [255, 255, 255, 1], arrivals: [], bubble: null };
    const at = paint([{ ...draw('blue'), content }]);
    // Going across the letter: outside, stroke, hole, stroke, outside.
    let changes = 0;
    for (let x = 1; x < width; x++)
      if (at(x, Math.round(tall / 2))[0]! > 128 !== at(x - 1, Math.round(tall / 2))[0]! > 128) changes++;
    expect(changes).to.equal(4);
    expect(at(Math.round(wide / 2), Math.round(tall / 2))[0]).to.equal(0);
  });
});
