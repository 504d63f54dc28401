import { expect } from 'chai';
import { intersectionOverUnion } from '../../bench/measures.ts';
import { photographOf } from '../../bench/truth/photograph.ts';
import { photographs } from '../../bench/truth/photographs.ts';
import { learnedLook } from '../../cli/learned.ts';
import { makeBytes, type Bytes, type Rect } from '../pixels/raster.ts';
import { CutPicture } from './cut-picture.ts';
import { fillingBest, foundWithin, reachWithin, type Masks } from './in-box.ts';
import { CutSession } from './subject.ts';

/** 1 in a rectangle. */
function filled(width: number, height: number, { x, y, width: w, height: h }: Rect): Bytes {
  const mask = makeBytes(width, height);
  for (let v = y; v < y + h; v++) mask.data.fill(1, v * width + x, v * width + x + w);
  return mask;
}

const box = { x: 10, y: 10, width: 80, height: 40 };
const inBox = (width: number, height: number): Masks => [filled(100, 60, { x: 12, y: 12, width, height })];

describe('what is found in a box', () => {
  it('reaches as far as it does the way in which it reaches less', () => {
    expect(reachWithin(inBox(40, 40)[0]!, box)).to.equal(0.5);
    expect(reachWithin(inBox(80, 10)[0]!, box)).to.equal(0.25);
    expect(reachWithin(makeBytes(100, 60), box)).to.equal(0);
  });

  it('is the first that fills the box; others are not looked for then, and else must be clearly better', () => {
    const never = (): Masks => expect.fail('looked for');
    expect(fillingBest(box, [() => inBox(64, 32), never])[0]!).to.deep.equal(inBox(64, 32)[0]);
    const [narrow, hardlyWider, wide, widest] = [20, 26, 60, 78].map((width) => inBox(width, 38)) as [
      Masks,
      ...Masks[],
    ];
    expect(fillingBest(box, [() => narrow, () => hardlyWider!, () => null])).to.equal(narrow);
    expect(fillingBest(box, [() => narrow, () => hardlyWider!, () => wide!, never])).to.equal(wide);
    expect(fillingBest(box, [() => narrow, () => null, () => widest!])).to.equal(widest);
    expect(fillingBest(box, [() => [makeBytes(100, 60)], () => narrow])).to.equal(narrow);
  });

  it('of a whole picture is what lies in it, unless that goes on beyond it', () => {
    const whole = filled(300, 200, { x: 100, y: 80, width: 50, height: 40 });
    const area = { x: 90, y: 70, width: 80, height: 70 };
    const found = foundWithin(whole, area, { x: 5, y: 5, width: 60, height: 50 })!;
    expect(found).to.deep.equal(filled(80, 70, { x: 10, y: 10, width: 50, height: 40 }));
    // A row of it beside the box is cut off; half of it is too much.
    const tighter = foundWithin(whole, area, { x: 5, y: 5, width: 60, height: 44 })!;
    expect(tighter).to.deep.equal(filled(80, 70, { x: 10, y: 10, width: 50, height: 39 }));
    expect(foundWithin(whole, area, { x: 5, y: 5, width: 30, height: 50 })).to.equal(null);
  });

  it('is a thing whole though a part of it stands out more, whatever was asked before: moss before leaves', async () => {
    const {
      picture,
      alpha,
      box: drawn,
    } = await photographOf(
      photographs.find(({ name }) => name === 'mossy buoy before leaves')!,
      600,
    );
    const look = await learnedLook();
    const request = { answer: 'subject' as const, keep: [], drop: [], box: drawn };
    const { mask } = new CutSession(new CutPicture(picture, look)).solve(request);
    expect(intersectionOverUnion(mask, alpha)).to.be.greaterThan(0.95);
    const later = new CutSession(new CutPicture(picture, look));
    later.begin();
    later.solve({ ...request, box: null });
    expect(later.solve(request).mask).to.deep.equal(mask);
    // Of a part that is pointed at by a smaller box there is no more than that.
    const part = { x: drawn.x + 0.3 * drawn.width, y: drawn.y + 0.5 * drawn.height, width: 60, height: 50 };
    const within = later.solve({ ...request, box: part }).mask;
    within.data.forEach((v, i) => {
      const [x, y] = [(i % picture.width) + 0.5 - part.x, Math.floor(i / picture.width) + 0.5 - part.y];
      if (v) expect(x >= 0 && y >= 0 && x <= part.width && y <= part.height).to.equal(true);
    });
  });
});
