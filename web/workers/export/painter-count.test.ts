import { expect } from 'chai';
import type { Document } from '../../../core/document/document.ts';
import { painterCount } from './painter-count.ts';

const picture = (width: number, height: number, clip: object | null = null): Document['pictures'][number] =>
  ({ id: `${width}${clip ? ' clip' : ''}`, width, height, clip }) as Document['pictures'][number];
const pieces: Document['pieces'] = [];
const hd = { width: 1920, height: 1080, frames: 180 };

describe('how many workers paint an export', () => {
  it('is as many as there are cores, four at most', () => {
    const pictures = [picture(2400, 1600)];
    expect([1, 2, 3, 16].map((cores) => painterCount({ pictures, pieces }, hd, cores))).to.deep.equal([1, 2, 3, 4]);
  });

  it('is one for a still and for a few frames', () => {
    expect(painterCount({ pictures: [], pieces }, { ...hd, frames: 11 }, 8)).to.equal(1);
    expect(painterCount({ pictures: [], pieces }, { ...hd, frames: 12 }, 8)).to.equal(4);
  });

  it('is one where a clip is to be decoded, frame after frame, unless a piece is cut out of it in each', () => {
    const clip = picture(640, 360, { frames: 90 });
    const of = (more: object) => [{ picture: clip.id, ...more }] as Document['pieces'];
    const pictures = [picture(640, 360), clip];
    expect(painterCount({ pictures, pieces }, hd, 8)).to.equal(1);
    expect(painterCount({ pictures, pieces: of({ cutout: null }) }, hd, 8), 'not lifted yet').to.equal(1);
    const cut = { cutout: { file: 'a' } };
    expect(painterCount({ pictures, pieces: of(cut) }, hd, 8), 'each keeps frames of the clip').to.equal(3);
    const other = { ...clip, id: 'other' };
    expect(painterCount({ pictures: [...pictures, other], pieces: of(cut) }, hd, 8), 'of one of two').to.equal(1);
  });

  it('is fewer where each has much to hold', () => {
    // 35 megapixels and what is made of them are 350 MB for each painter.
    const large = picture(7000, 5000);
    expect(painterCount({ pictures: [large], pieces }, hd, 8)).to.equal(3);
    expect(painterCount({ pictures: [large, large, large, large], pieces }, hd, 8)).to.equal(1);
  });
});
