import { expect } from 'chai';
import type { Rgba } from '../pixels/raster.ts';
import { rebuild } from './fill.ts';
import { covered, disc, paint } from './test-pictures.ts';

describe('what is shown while a background is rebuilt', () => {
  // Four plain fields, which meet off the middle of the picture, under a hole that lies across all of them.
  const [width, height] = [720, 480];
  const [across, down] = [500, 300];
  const field = (x: number, y: number): [number, number, number] => [x < across ? 200 : 40, y < down ? 30 : 180, 90];
  const hole = disc(width, height, across, down, 34);
  // What stood there is of another colour: nothing of it may be shown.
  const picture = covered(paint(width, height, field), hole, [255, 0, 255]);
  const shown: Rgba[] = [];
  let out: Rgba;
  before(async () => {
    out = await rebuild({ picture, hole, seed: 3 }, undefined, (preview) => shown.push(preview));
  });

  /** The largest difference, in bytes, between what is shown and the fields, over the pixels that are looked at. */
  const worst = (preview: Rgba, looked: (i: number) => boolean): number => {
    let most = 0;
    for (let i = 0; i < hole.data.length; i++) {
      if (!looked(i)) continue;
      const wanted = [...field(i % width, Math.floor(i / width)), 255];
      for (let c = 0; c < 4; c++) most = Math.max(most, Math.abs(preview.data[i * 4 + c]! - wanted[c]!));
    }
    return most;
  };

  it('is the picture around the hole, whole and opaque', () => {
    expect(shown.length).to.be.at.least(2);
    for (const preview of [...shown, out]) expect(worst(preview, (i) => !hole.data[i])).to.equal(0);
  });

  it('has in the hole what goes on from its own side, however coarse the level is', () => {
    // Where two fields meet, levels of a quarter and less are soft.
    const within = (i: number): boolean =>
      !!hole.data[i] && Math.abs((i % width) - across) >= 14 && Math.abs(Math.floor(i / width) - down) >= 14;
    for (const [k, preview] of shown.entries()) expect(worst(preview, within), `preview ${k}`).to.be.below(40);
  });
});
