import { expect } from 'chai';
import { finishSchema } from '../document/finish-list.ts';
import { storedFrom, valuesAt, type Setting } from '../settings/setting.ts';
import { families } from './finish.ts';
import { finishKinds } from './finishes.ts';
import { finished, flat, halved, meanDifference, pixelAt, roundThing } from './test-pictures.ts';

/** As far from its start as a setting may be. */
function farthest(setting: Setting): unknown {
  if (setting.kind === 'number')
    return setting.most - setting.start > setting.start - setting.least ? setting.most : setting.least;
  if (setting.kind === 'choice') return setting.options.at(-1);
  if (setting.kind === 'switch') return !setting.start;
  return undefined;
}

describe('every finish', () => {
  for (const kind of finishKinds) {
    describe(kind.name, () => {
      const starts = valuesAt(kind.settings, storedFrom(kind.settings), 0);
      const behind = flat(100, 100, [40, 90, 130]);

      it('says what it is, and its stored settings are sound', () => {
        expect(kind.id).to.match(/^[a-z][a-z-]*$/);
        expect(kind.purpose).to.match(/^[A-Z].*\.$/);
        expect(families).to.include(kind.family);
        const stored = { id: 'f', kind: kind.id, muted: false, settings: storedFrom(kind.settings) };
        expect(finishSchema.parse(JSON.parse(JSON.stringify(stored)))).to.deep.equal(stored);
        for (const setting of Object.values(kind.settings))
          if (setting.kind === 'number') expect(setting.start).to.be.within(setting.least, setting.most);
      });

      it('does something as it starts, the same every time, and leaves its input alone elsewhere', () => {
        const source = roundThing(60, 20);
        const at = { frame: 7, behind, box: { x: 20, y: 20, width: 60, height: 60 } };
        const once = finished(kind.id, source, {}, at);
        expect(finished(kind.id, source, {}, at).data).to.deep.equal(once.data);
        // A curve that is straight is where one begins to bend it.
        if (kind.id === 'curves') expect(once.data).to.deep.equal(source.data);
        else expect(meanDifference(once, source)).to.be.greaterThan(0.05);
      });

      it('draws no further than it says, at its start and with each setting at its end', () => {
        const cases = [{}, ...Object.entries(kind.settings).map(([key, s]) => ({ [key]: farthest(s) ?? s.start }))];
        for (const values of cases) {
          const now = valuesAt(kind.settings, storedFrom(kind.settings, values), 0);
          const side = 24;
          const told = kind.reach?.(now, { width: side, height: side }) ?? 0;
          const sides = typeof told === 'number' ? { left: told, top: told, right: told, bottom: told } : told;
          const reach = Math.max(...Object.values(sides as unknown as Record<string, number>));
          if (reach > 300) continue;
          const margin = Math.ceil(reach) + 30;
          const source = roundThing(side, margin);
          const box = { x: margin, y: margin, width: side, height: side };
          const made = finished(kind.id, source, values, {
            box,
            behind: flat(source.width, source.height, [9, 99, 200]),
          });
          const beyond = (at: number, before: number, after: number): boolean =>
            at < margin - before - 2 || at >= margin + side + after + 2;
          for (let y = 0; y < made.height; y += 3)
            for (let x = 0; x < made.width; x++)
              if (beyond(x, sides.left, sides.right) || beyond(y, sides.top, sides.bottom))
                if (pixelAt(made, x, y)[3] >= 3) expect.fail(`${JSON.stringify(values)} at ${x}, ${y}`);
        }
      });

      it('looks alike in a coarse preview and a full export', function () {
        const [side, margin] = [120, 40];
        const place = { behind: flat(side + 2 * margin, side + 2 * margin, [40, 90, 130]) };
        const box = { x: margin, y: margin, width: side, height: side };
        const coarse = finished(kind.id, roundThing(side, margin), {}, { ...place, box, scale: 1 });
        const twice = { x: 2 * margin, y: 2 * margin, width: 2 * side, height: 2 * side };
        const behind2 = flat(2 * (side + 2 * margin), 2 * (side + 2 * margin), [40, 90, 130]);
        const full = finished(
          kind.id,
          roundThing(2 * side, 2 * margin, 2),
          {},
          { box: twice, scale: 2, behind: behind2 },
        );
        expect(meanDifference(halved(full), coarse)).to.be.at.most(4);
      });

      it('changes from frame to frame only if it says so, and then loops', () => {
        const source = roundThing(40, 12);
        const at = (frame: number) => finished(kind.id, source, {}, { frame, behind: flat(64, 64, [9, 9, 9]) }).data;
        if (!kind.moves?.(starts)) expect(at(13)).to.deep.equal(at(0));
        else if (kind.id !== 'grain') expect(at(60)).to.deep.equal(at(0));
      });
    });
  }
});
