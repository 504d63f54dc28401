import { expect } from 'chai';
import { askedOf, schemaOf, storedFrom, valuesAt, type Settings } from './setting.ts';

describe('settings', () => {
  const settings = {
    size: { kind: 'number', name: 'Size', unit: 'px', least: 0, most: 100, start: 20 },
    form: { kind: 'choice', name: 'Form', options: ['dots', 'lines'], start: 'dots' },
    angle: { kind: 'angle', name: 'Angle', start: 15, only: { form: ['lines'] } },
    round: { kind: 'switch', name: 'Goes round', start: true, before: false },
  } satisfies Settings;

  it('what came later than a document leaves the document as it looked; what is new begins as it starts', () => {
    const old = schemaOf(settings).parse({ size: { value: 8 } });
    expect(valuesAt(settings, old as never, 0)).to.deep.equal({ size: 8, form: 'dots', angle: 15, round: false });
    expect(valuesAt(settings, storedFrom(settings), 0).round).to.equal(true);
    expect(valuesAt(settings, schemaOf(settings).parse({ round: true }) as never, 0).round).to.equal(true);
  });

  it('are shown only where they count', () => {
    const shown = (form: string): string[] => askedOf(settings, { form }).map(([key]) => key);
    expect(shown('dots')).to.deep.equal(['size', 'form', 'round']);
    expect(shown('lines')).to.deep.equal(['size', 'form', 'angle', 'round']);
  });

  it('a number beyond its limits counts as the limit, and what is no choice is refused', () => {
    expect(valuesAt(settings, storedFrom(settings, { size: 101 }), 0).size).to.equal(100);
    expect(schemaOf(settings).safeParse({ form: 'stars' }).success).to.equal(false);
  });
});
