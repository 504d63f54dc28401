import { expect } from 'chai';
import { seededRandom } from '../../pixels/random.ts';
import type { FinishPixels } from '../finish.ts';
import { inKernel, withoutKernel } from './memory.ts';
import { grownPart, seenPart, whereSeen, type Part } from './seen-part.ts';

/** A clear picture whose colours are not 0, with some pixels that are seen. */
function pictureWith(width: number, height: number, seen: readonly (readonly [number, number])[]): FinishPixels {
  const data = new Uint8ClampedArray(width * height * 4);
  for (let i = 0; i < data.length; i++) data[i] = i % 4 === 3 ? 0 : 200;
  for (const [x, y] of seen) data[(y * width + x) * 4 + 3] = 1;
  return { data, width, height };
}

/** Does it by the kernel and by the plain operations. */
function both(work: () => void): void {
  work();
  withoutKernel(work);
}

describe('the part of a picture that is seen', () => {
  it('is the smallest that holds every pixel that is not clear', () => {
    const random = seededRandom(5);
    for (let run = 0; run < 60; run++) {
      const [width, height] = [1 + Math.floor(random() * 40), 1 + Math.floor(random() * 12)];
      const seen = Array.from({ length: 1 + Math.floor(random() * 4) }, () => {
        return [Math.floor(random() * width), Math.floor(random() * height)] as const;
      });
      const [xs, ys] = [seen.map(([x]) => x), seen.map(([, y]) => y)];
      const truth = {
        left: Math.min(...xs),
        top: Math.min(...ys),
        right: Math.max(...xs) + 1,
        bottom: Math.max(...ys) + 1,
      };
      both(() =>
        inKernel(pictureWith(width, height, seen), null, [(own) => expect(seenPart(own)).to.deep.equal(truth)]),
      );
    }
  });

  it('is none where all is clear, and nothing is worked on', () => {
    both(() =>
      inKernel(pictureWith(9, 5, []), null, [
        (own) => {
          expect(seenPart(own)).to.equal(null);
          whereSeen(
            own,
            (seen) => seen,
            () => expect.fail('worked on'),
          );
        },
      ]),
    );
  });

  it('is worked on in its own pixels, and the rest stays as it was', () => {
    const spread = (seen: Part): Part => grownPart(seen, 1.5);
    both(() => {
      const pixels = pictureWith(30, 20, [
        [10, 8],
        [12, 9],
      ]);
      inKernel(pixels, null, [
        (own) =>
          whereSeen(own, spread, (part, left, top) => {
            expect([part.width, part.height, left, top]).to.deep.equal([7, 6, 8, 6]);
            expect(part.data[((8 - top) * 7 + 10 - left) * 4 + 3]).to.equal(1);
            part.data.fill(77);
          }),
      ]);
      for (let k = 0; k < 600; k++) {
        const [x, y] = [k % 30, Math.floor(k / 30)];
        const inside = x >= 8 && x < 15 && y >= 6 && y < 12;
        expect(pixels.data[4 * k], `${x} ${y}`).to.equal(inside ? 77 : 200);
      }
    });
  });

  it('is worked on in the picture itself where it is nearly all of it', () => {
    both(() => {
      const pixels = pictureWith(10, 10, [
        [0, 0],
        [9, 9],
      ]);
      inKernel(pixels, null, [
        (own) =>
          whereSeen(
            own,
            (seen) => seen,
            (part) => expect(part).to.equal(own),
          ),
      ]);
    });
  });
});
