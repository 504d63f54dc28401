import { expect } from 'chai';
import { emptyDocument } from '../../../core/document/document.ts';
import { sizeOf } from '../../parts/file-size.ts';
import { sizesFor } from './formats.ts';

const of = (width: number, height: number) => emptyDocument('x', { width, height, rate: 30 }, 1, 'shot');

describe('export sizes', () => {
  it('offer the frame itself first, the next larger, then smaller ones of the same proportions', () => {
    expect(sizesFor(of(1920, 1080), 'mp4').map((s) => [s.width, s.height])).to.deep.equal([
      [1920, 1080],
      [3840, 2160],
      [1280, 720],
      [960, 540],
      [640, 360],
    ]);
  });

  it('of a small frame too; GIFs are never enlarged, and stay small', () => {
    expect(sizesFor(of(500, 400), 'webm').map((s) => s.width)).to.deep.equal([500, 640]);
    expect(sizesFor(of(1080, 1920), 'gif').map((s) => [s.width, s.height])).to.deep.equal([
      [360, 640],
      [270, 480],
      [180, 320],
    ]);
    expect(sizesFor(of(200, 100), 'gif')).to.deep.equal([{ edge: 200, width: 200, height: 100 }]);
  });

  it('are even, as video wants them', () => {
    for (const { width, height } of sizesFor(of(1919, 1081), 'mp4'))
      expect([width % 2, height % 2]).to.deep.equal([0, 0]);
  });

  it('file sizes read with three digits and a unit', () => {
    expect([0, 999, 1000, 45_300, 999_499, 999_500, 1_234_000, 45_670_000, 2_300_000_000].map(sizeOf)).to.deep.equal([
      '0 B',
      '999 B',
      '1 kB',
      '45 kB',
      '999 kB',
      '1.00 MB',
      '1.23 MB',
      '45.7 MB',
      '2.30 GB',
    ]);
  });
});
