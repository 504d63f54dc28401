import { expect } from 'chai';
import sharp from 'sharp';
import { clipTypeOf, soundTypeOf, typeByHead } from './type-by-head.ts';

const head = (...parts: (string | number[])[]): Buffer =>
  Buffer.concat(parts.map((part) => (typeof part === 'string' ? Buffer.from(part, 'latin1') : Buffer.from(part))));

describe('the type of a file by its first bytes', () => {
  it('is that of pictures as an encoder writes them', async () => {
    const picture = sharp({ create: { width: 8, height: 8, channels: 3, background: '#c84a26' } });
    for (const format of ['jpeg', 'png', 'gif', 'tiff', 'webp', 'avif'] as const) {
      const bytes = await picture.clone().toFormat(format).toBuffer();
      expect(typeByHead(bytes.subarray(0, 32)), format).to.equal(`image/${format}`);
    }
  });

  it('is that of sounds, clips, fonts and archives by their specifications', () => {
    const known: [Buffer, string][] = [
      [head('RIFF', [0, 0, 0, 0], 'WAVEfmt '), 'audio/wav'],
      [head('fLaC', [0, 0, 0, 34]), 'audio/flac'],
      [head('OggS', [0, 2]), 'audio/ogg'],
      [head('ID3', [4, 0]), 'audio/mpeg'],
      [head([0, 0, 0, 24], 'ftypisom'), 'video/mp4'],
      [head([0, 0, 0, 20], 'ftypqt  '), 'video/quicktime'],
      [head([0x1a, 0x45, 0xdf, 0xa3]), 'video/webm'],
      [head('PK', [3, 4]), 'application/zip'],
      [head([0, 1, 0, 0]), 'font/sfnt'],
      [head('OTTO'), 'font/sfnt'],
      [head('ttcf'), 'font/sfnt'],
      [head('<svg xmlns='), 'text/plain'],
    ];
    for (const [bytes, type] of known) expect(typeByHead(bytes), type).to.equal(type);
  });

  it('is MPEG sound only where eleven bits are set and the layer is one there is', () => {
    for (const second of [0xfb, 0xfa, 0xf3, 0xe2]) expect(typeByHead(head([0xff, second]))).to.equal('audio/mpeg');
    // AAC in its own frames has the layer that MPEG sound reserves; ten set bits are no frame at all.
    for (const second of [0xf1, 0xf9, 0xdb, 0x1b]) expect(typeByHead(head([0xff, second]))).to.equal(null);
    expect(typeByHead(head([0xfe, 0xfb]))).to.equal(null);
  });

  it('is none where there is nothing, too little, or something else', () => {
    for (const bytes of [head(), head([0xff]), head('RIFF'), head('RIFF', [0, 0, 0, 0], 'AVI '), head('%PDF-1.7')])
      expect(typeByHead(bytes)).to.equal(null);
  });

  it('tells what can be a clip, and what can be heard', () => {
    expect(clipTypeOf(head('GIF89a'))).to.equal('image/gif');
    expect(clipTypeOf(head([0xff, 0xd8, 0xff, 0xe0]))).to.equal(null);
    expect(clipTypeOf(head())).to.equal(null);
    expect(soundTypeOf(head('fLaC'))).to.equal('audio/flac');
    expect(soundTypeOf(head([0, 0, 0, 24], 'ftypM4A '))).to.equal('audio/mp4');
    expect(soundTypeOf(head([0x1a, 0x45, 0xdf, 0xa3]))).to.equal('audio/webm');
    expect(soundTypeOf(head('GIF89a'))).to.equal(null);
    expect(soundTypeOf(head())).to.equal(null);
  });
});
