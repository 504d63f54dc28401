import { expect } from 'chai';
import type { Rgba } from '../pixels/raster.ts';
import { rebuild } from './fill.ts';
import { disc, paint } from './test-pictures.ts';

describe('what is shown while a background is rebuilt', () => {
  // Four plain fields, which meet off the middle of the picture, under a hole that lies across all of them.
  const [width, height] = [210, 150];
  const [across, down] = [120, 60];
  const field = (x: number, y: number): [number, number, number] => [x < across ? 200 : 40, y < down ? 30 : 180, 90];
  const picture = paint(width, height, field);
  const hole = disc(width, height, across, down, 34);
  const shown: Rgba[] = [];
  let out: Rgba;
  before(async () => {
    out = await rebuild({ picture, hole, seed: 3 }, undefined, (preview) => shown.push(preview));
  });

  it('is the picture around the hole, whole and opaque', () => {
    expect(shown.length).to.be.at.least(2);
    for (const preview of [...shown, out])
      for (let i = 0; i < hole.data.length; i++) {
        if (!hole.data[i])
          expect([...preview.data.subarray(i * 4, i * 4 + 3)]).to.deep.equal([
            ...field(i % width, Math.floor(i / width)),
          ]);
        expect(preview.data[i * 4 + 3]).to.equal(255);
      }
  });

  it('has in the hole what goes on from its own side, however coarse the level is', () => {
    for (const [k, preview] of shown.entries())
      for (let i = 0; i < hole.data.length; i++) {
        const [x, y] = [i % width, Math.floor(i / width)];
        // Where two fields meet, levels of a quarter and less are soft.
        if (!hole.data[i] || Math.abs(x - across) < 14 || Math.abs(y - down) < 14) continue;
        const [r, g] = field(x, y);
        expect(preview.data[i * 4], `red at ${x}, ${y} of preview ${k}`).to.be.closeTo(r, 40);
        expect(preview.data[i * 4 + 1], `green at ${x}, ${y} of preview ${k}`).to.be.closeTo(g, 40);
      }
  });
});
