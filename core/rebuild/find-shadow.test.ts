import { expect } from 'chai';
import { drawStroke } from '../cut/strokes.ts';
import { seededRandom } from '../pixels/random.ts';
import { makeBytes, type Bytes, type Rgba } from '../pixels/raster.ts';
import { findShadow } from './find-shadow.ts';
import { covered, disc, paint, planks } from './test-pictures.ts';

/** The picture with light missing: share by place. */
function shade(ground: Rgba, missing: (x: number, y: number) => number): Rgba {
  const data = ground.data.slice();
  for (let i = 0; i < data.length; i++) {
    if (i % 4 < 3) data[i]! *= 1 - missing((i >> 2) % ground.width, Math.floor((i >> 2) / ground.width));
  }
  return { ...ground, data };
}

const asAlpha = (mask: Bytes): Bytes => ({ ...mask, data: mask.data.map((v) => v * 255) });

describe('the shadow of a piece', () => {
  const [width, height] = [260, 180];
  const ground = planks(width, height);
  const shaded = shade(ground, (x, y) => 0.55 * Math.max(0, 1 - Math.hypot((x - 130) / 60, (y - 120) / 26)) ** 0.8);

  it('is found next to the piece that throws it, and not where there is none', async () => {
    const ball = disc(width, height, 130, 80, 30);
    const alpha = asAlpha(ball);
    const found = await findShadow(covered(shaded, ball, [220, 60, 40]), alpha);
    expect(found).to.not.equal(null);
    const xs = found!.map((s) => s.points[0]![0]);
    const ys = found!.map((s) => s.points[0]![1]);
    // Beside and below the ball, whose middle is at 80.
    expect(Math.min(...ys)).to.be.greaterThan(78);
    expect(xs.reduce((a, b) => a + b, 0) / xs.length).to.be.within(95, 165);
    expect(await findShadow(covered(ground, ball, [220, 60, 40]), alpha)).to.equal(null);
  });

  it('is not looked for where a strip of a picture leaves too little of the ground to compare it with', async () => {
    const [wide, high] = [60, 3000];
    const post = makeBytes(wide, high);
    for (let i = 0; i < post.data.length; i++)
      post.data[i] = Math.hypot(((i % wide) - 30) / 10.5, (Math.floor(i / wide) - 1517) / 829) < 1 ? 1 : 0;
    const strip = covered(planks(wide, high), post, [220, 60, 40]);
    expect(await findShadow(strip, asAlpha(post))).to.equal(null);
  });

  it('is found next to what is small in its picture too, in the pixels of the whole picture', async () => {
    const [wide, high, x, y] = [1000, 700, 640, 420];
    const ball = disc(wide, high, x, y, 22);
    const small = shade(
      planks(wide, high),
      (u, v) => 0.6 * Math.max(0, 1 - Math.hypot((u - x - 12) / 34, (v - y - 22) / 9)),
    );
    const found = await findShadow(covered(small, ball, [220, 60, 40]), asAlpha(ball));
    expect(found).to.not.equal(null);
    for (const { points } of found!)
      for (const [u, v] of points)
        expect([Math.abs(u - x - 12) < 50, Math.abs(v - y - 22) < 25], `${u}, ${v}`).to.deep.equal([true, true]);
  });

  it('is found on a table whose colours wander, before a brighter wall, and not much more than it', async () => {
    const [wide, high, foot] = [700, 480, 400];
    const table = paint(wide, high, (x, y) => {
      if (y < 310) return [186, 170, 142];
      const plank = Math.floor((y - 310) / 36);
      if ((y - 310) % 36 < 3) return [70, 50, 36];
      return [150 + 14 * Math.sin(x * 0.04 + plank * 3), 108 + 10 * Math.sin(x * 0.06 + plank), 70];
    });
    const missing = (x: number, y: number): number =>
      0.55 * Math.min(1, 1.6 * Math.max(0, 1 - Math.hypot((x - 345) / 190, (y - foot) / 28)));
    const pot = disc(wide, high, 290, foot - 125, 130);
    const found = await findShadow(covered(shade(table, missing), pot, [40, 80, 150]), asAlpha(pot));
    const region = makeBytes(wide, high);
    for (const stroke of found!) drawStroke(region, stroke, 1);
    let [shadow, hit, taken, any] = [0, 0, 0, 0];
    for (let i = 0; i < region.data.length; i++) {
      if (pot.data[i]) continue;
      const there = missing(i % wide, Math.floor(i / wide));
      if (there > 0) any++;
      if (there > 0.04) shadow++;
      if (there > 0.04 && region.data[i]) hit++;
      if (region.data[i]) taken++;
    }
    expect(hit / shadow).to.be.greaterThan(0.9);
    expect(taken / any).to.be.lessThan(1.6);
  });
});

describe('looking for the shadow of a small thing on other grounds', () => {
  const [wide, high, x, y, radius] = [700, 480, 330, 240, 18];
  const random = seededRandom(3);
  const grounds: Record<string, Rgba> = {
    tiles: paint(wide, high, (u, v) => (u % 40 < 4 || v % 40 < 4 ? [96, 92, 88] : [188, 176, 150])),
    grass: paint(wide, high, () => {
      const v = 60 + 70 * random();
      return [v * 0.7, v, v * 0.5];
    }),
    'a slow ramp': paint(wide, high, (_, v) => [200 - v * 0.2, 190 - v * 0.22, 170 - v * 0.2]),
  };
  const ball = disc(wide, high, x, y, radius);
  const alpha = asAlpha(ball);
  for (const [name, ground] of Object.entries(grounds))
    it(`finds it on ${name}, and nothing where there is none`, async () => {
      const shaded = shade(ground, (u, v) => {
        const far = Math.hypot((u - x - radius / 2) / (1.5 * radius), (v - y - radius) / (0.42 * radius));
        return v < y ? 0 : 0.5 * Math.max(0, Math.min(1, 1.5 - 1.5 * far));
      });
      expect(await findShadow(covered(shaded, ball, [220, 60, 40]), alpha)).to.not.equal(null);
      expect(await findShadow(covered(ground, ball, [220, 60, 40]), alpha)).to.equal(null);
    });
});
