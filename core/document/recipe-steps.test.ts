import { expect } from 'chai';
import { CutPicture } from '../cut/cut-picture.ts';
import { CutSession } from '../cut/subject.ts';
import { blind } from '../learned/subject-networks.ts';
import { covered, disc, planks } from '../rebuild/test-pictures.ts';
import { withStroke } from './recipe-steps.ts';
import type { SubjectRecipe } from './recipe.ts';

const [width, height] = [260, 180];
const boxed: SubjectRecipe = {
  kind: 'subject',
  answer: 'subject',
  keep: [],
  drop: [],
  box: { x: 30, y: 30, width: 80, height: 90 },
};
const stroke = (...points: [number, number][]) => ({ radius: 6, points });

describe('a stroke beside the box of a subject', () => {
  it('widens the box to hold it where it keeps, up to the borders of the picture, and not where it drops', () => {
    const size = { width, height };
    const wide = withStroke(boxed, 'keep', stroke([200, 60], [210.5, 64]), size);
    // What goes on beyond the stroke is looked at too, on the side where it leaves the box.
    expect(wide.box).to.deep.equal({ x: 30, y: 30, width: 218, height: 90 });
    expect(withStroke(boxed, 'keep', stroke([3, 178]), size).box).to.deep.equal({
      x: 0,
      y: 30,
      width: 110,
      height: 150,
    });
    expect(withStroke(boxed, 'keep', stroke([60, 60]), size).box).to.deep.equal(boxed.box);
    expect(withStroke(boxed, 'drop', stroke([200, 60]), size).box).to.deep.equal(boxed.box);
    expect(withStroke({ ...boxed, box: null }, 'keep', stroke([200, 60]), size).box).to.equal(null);
  });

  it('takes what it keeps: the second of two floats, with the first', () => {
    const [one, two] = [disc(width, height, 70, 75, 26), disc(width, height, 190, 90, 24)];
    const picture = covered(covered(planks(width, height), one, [220, 60, 40]), two, [40, 90, 200]);
    const session = new CutSession(new CutPicture(picture, blind));
    const share = (recipe: SubjectRecipe, of: { data: Uint8Array }): number => {
      const { mask } = session.solve(recipe);
      let [taken, all] = [0, 0];
      for (let i = 0; i < mask.data.length; i++) {
        all += of.data[i]!;
        taken += of.data[i]! & mask.data[i]!;
      }
      return taken / all;
    };
    expect(share(boxed, one)).to.be.above(0.8);
    expect(share(boxed, two)).to.equal(0);
    const both = withStroke(boxed, 'keep', stroke([182, 88], [198, 92]), { width, height });
    expect(share(both, two)).to.be.above(0.95);
    expect(share(both, one)).to.be.above(0.8);
  });
});
