import { createCanvas, type Canvas } from '@napi-rs/canvas';
import { expect } from 'chai';
import type { Draw, EvaluatedFrame } from '../scene/draw.ts';
import { paintFrame } from './painter.ts';
import { contextOf, testStudio } from './test-studio.ts';

function plain(width: number, height: number, colour: string): Canvas {
  const canvas = createCanvas(width, height);
  const context = canvas.getContext('2d');
  context.fillStyle = colour;
  context.fillRect(0, 0, width, height);
  return canvas;
}

const draw = (file: string, change: Partial<Draw> = {}): Draw => ({
  layer: file,
  content: { kind: 'image', file, clip: null, corners: null, sways: [], relief: null },
  matrix: [1, 0, 0, 1, 0, 0],
  width: 40,
  height: 30,
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

function paint(frame: EvaluatedFrame, images: Record<string, Canvas>, scale = 1, ground: string | null = '#000000') {
  const canvas = createCanvas(Math.round(frame.width * scale), Math.round(frame.height * scale));
  const missing = paintFrame(contextOf(canvas), frame, testStudio(images), { scale, ground });
  const { data } = canvas.getContext('2d').getImageData(0, 0, canvas.width, canvas.height);
  const at = (x: number, y: number): number[] => [
    ...data.slice((y * canvas.width + x) * 4, (y * canvas.width + x) * 4 + 4),
  ];
  return { missing, at, data };
}

describe('painter', () => {
  const images = { red: plain(40, 30, '#c80000'), blue: plain(40, 30, '#0000c8') };

  it('paints in the order of the draws, each where its matrix says', () => {
    const frame = { width: 100, height: 80, draws: [draw('red'), draw('blue', { matrix: [1, 0, 0, 1, 20, 10] })] };
    const { at } = paint(frame, images);
    expect(at(5, 5)).to.deep.equal([200, 0, 0, 255]);
    expect(at(30, 20)).to.deep.equal([0, 0, 200, 255]);
    expect(at(90, 70)).to.deep.equal([0, 0, 0, 255]);
  });

  it('mixes by opacity as source-over does', () => {
    const { at } = paint({ width: 40, height: 30, draws: [draw('red'), draw('blue', { opacity: 0.25 })] }, images);
    const [r, , b] = at(20, 15);
    expect(r).to.be.closeTo(150, 1);
    expect(b).to.be.closeTo(50, 1);
  });

  it('blends as W3C Compositing and Blending defines, with opacity after the blend', () => {
    const [below, above] = [
      [180, 90, 40],
      [60, 200, 120],
    ] as const;
    const hex = (c: readonly number[]): string => `#${c.map((v) => v.toString(16).padStart(2, '0')).join('')}`;
    const both = { below: plain(40, 30, hex(below)), above: plain(40, 30, hex(above)) };
    const formulas: Partial<Record<Draw['blend'], (b: number, s: number) => number>> = {
      normal: (_b, s) => s,
      multiply: (b, s) => b * s,
      screen: (b, s) => b + s - b * s,
      darken: Math.min,
      lighten: Math.max,
      difference: (b, s) => Math.abs(b - s),
      exclusion: (b, s) => b + s - 2 * b * s,
      'hard-light': (b, s) => (s <= 0.5 ? 2 * b * s : 1 - 2 * (1 - b) * (1 - s)),
      overlay: (b, s) => (b <= 0.5 ? 2 * b * s : 1 - 2 * (1 - b) * (1 - s)),
    };
    for (const [blend, formula] of Object.entries(formulas)) {
      for (const opacity of [1, 0.4]) {
        const draws = [draw('below'), draw('above', { blend: blend as Draw['blend'], opacity })];
        const got = paint({ width: 40, height: 30, draws }, both).at(20, 15);
        below.forEach((b, c) => {
          const blended = formula(b / 255, above[c]! / 255) * 255;
          expect(got[c], `${blend} at ${opacity}`).closeTo(b + (blended - b) * opacity, 1.6);
        });
      }
    }
    const sum = paint(
      { width: 40, height: 30, draws: [draw('below'), draw('above', { blend: 'plus-lighter' })] },
      both,
    );
    expect(sum.at(20, 15).slice(0, 3)).to.deep.equal([240, 255, 160]);
  });

  it('is the same picture at another size', () => {
    const frame = { width: 100, height: 80, draws: [draw('red', { matrix: [1.5, 0, 0, 1.5, 10, 12] })] };
    const { at } = paint(frame, images, 2);
    expect(at(24, 28)).to.deep.equal([200, 0, 0, 255]);
    expect(at(16, 20)).to.deep.equal([0, 0, 0, 255]);
    expect(at(136, 110)).to.deep.equal([200, 0, 0, 255]);
  });

  it('turns about the point the matrix keeps', () => {
    const { at } = paint({ width: 100, height: 80, draws: [draw('red', { matrix: [0, 1, -1, 0, 60, 20] })] }, images);
    expect(at(45, 40)).to.deep.equal([200, 0, 0, 255]);
    expect(at(80, 40)).to.deep.equal([0, 0, 0, 255]);
  });

  it('can leave the ground clear, and tells which files are not there yet', () => {
    const { at, missing } = paint({ width: 60, height: 40, draws: [draw('red'), draw('green')] }, images, 1, null);
    expect(at(55, 35)).to.deep.equal([0, 0, 0, 0]);
    expect(missing).to.deep.equal(['green']);
  });

  it('paints the same pixels twice', () => {
    const frame = {
      width: 100,
      height: 80,
      draws: [draw('red', { matrix: [1.1, 0.2, -0.2, 1.1, 13.3, 4.7], opacity: 0.7 })],
    };
    expect(Buffer.from(paint(frame, images).data).equals(Buffer.from(paint(frame, images).data))).to.equal(true);
  });
});
