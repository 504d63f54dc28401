import { expect } from 'chai';
import { seededRandom } from '../pixels/random.ts';
import { makeBytes, makeRgba, type Bytes, type Rgba } from '../pixels/raster.ts';
import { estimateAlpha } from './alpha.ts';
import { alphaWithLines } from './line-alpha.ts';
import { drawStroke, type Stroke } from './strokes.ts';

/** A plain dark disc, with grain, over water of its own sort of colours further down. */
function discOnWater(width: number, height: number): { picture: Rgba; disc: Bytes } {
  const random = seededRandom(4);
  const [picture, disc] = [makeRgba(width, height), makeBytes(width, height)];
  for (let i = 0; i < width * height; i++) {
    const [x, y] = [(i % width) + 0.5, Math.floor(i / width) + 0.5];
    const share = Math.max(0, Math.min(1, (height * 0.22 - Math.hypot(x - width / 2, y - height / 2)) / 2 + 0.5));
    const water = 112 + 9 * Math.sin((y * 48) / height + 2 * Math.sin((x * 16) / width));
    const own = [34, 30, 44].map((v, c) => share * v + (1 - share) * water * [0.7, 1, 1.1][c]!);
    picture.data.set([...own.map((v) => v + 6 * (random() - 0.5)), 255], i * 4);
    disc.data[i] = share >= 0.5 ? 1 : 0;
  }
  return { picture, disc };
}

/** The mask once strokes are in it: they are law there. */
function withStrokes(mask: Bytes, { keep, drop }: { keep: readonly Stroke[]; drop: readonly Stroke[] }): Bytes {
  const out = { ...mask, data: mask.data.slice() };
  for (const stroke of keep) drawStroke(out, stroke, 1);
  for (const stroke of drop) drawStroke(out, stroke, 0);
  return out;
}

describe('strokes in the alpha of a subject', () => {
  for (const [width, height] of [
    [320, 240],
    [2400, 1600],
  ] as const) {
    const { picture, disc } = discOnWater(width, height);
    const unit = width / 320;
    const at = (x: number, y: number): [number, number] => [x * unit, y * unit];
    const radius = 7 * unit;
    const [across, beside] = [
      { radius, points: [at(158, 100), at(162, 140)] },
      { radius, points: [at(40, 60), at(70, 66)] },
    ];
    const strokes = { keep: [beside], drop: [across] };

    it(`take and drop what they lie on, also where nothing tells it from what is around, at ${width} pixels`, () => {
      const alpha = alphaWithLines(picture, withStrokes(disc, strokes), strokes);
      const core = (stroke: Stroke): number[] => {
        const under = makeBytes(width, height);
        drawStroke(under, { ...stroke, radius: 0.5 * stroke.radius }, 1);
        return [...alpha.data].filter((_, i) => under.data[i]);
      };
      expect(Math.max(...core(across)), 'dropped').to.equal(0);
      expect(Math.min(...core(beside)), 'kept').to.equal(255);
    });

    it(`leave edges that they run along as soft as they are, at ${width} pixels`, () => {
      // A sloppy stroke: its middle within the disc, its rim a pixel beyond the edge.
      const inside = { radius, points: [at(160, 120 + 0.22 * 240 - 7 + 1), at(168, 120 + 0.22 * 240 - 7.6 + 1)] };
      const sloppy = { keep: [inside], drop: [] };
      const mask = withStrokes(disc, sloppy);
      const [ours, plain] = [alphaWithLines(picture, mask, sloppy), estimateAlpha(picture, mask)];
      let most = 0;
      for (let i = 0; i < ours.data.length; i++) most = Math.max(most, Math.abs(ours.data[i]! - plain.data[i]!));
      expect(most).to.be.at.most(25);
    });
  }
});
