import { expect } from 'chai';
import { z } from 'zod';
import {
  askedOf,
  plainSchemasOf,
  propertySchemasOf,
  schemaOf,
  storedFrom,
  valuesAt,
  type PlainSettings,
  type Settings,
} from './setting.ts';

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

  it('without keys are stored as they are, within their limits, and without limits as they come', () => {
    const plain = {
      size: { kind: 'number', name: 'Size', unit: 'px', least: 4, most: 100, start: 20 },
      x: { kind: 'number', name: 'X', unit: 'px', least: -Infinity, most: Infinity, start: 0 },
      turn: { kind: 'angle', name: 'Turn', start: 15 },
      side: { kind: 'choice', name: 'Side', options: ['left', 'right'], start: 'left' },
      loops: { kind: 'switch', name: 'Loops', start: true },
    } as const satisfies PlainSettings;
    const schema = z.object(plainSchemasOf(plain));
    const sound = { size: 4, x: -1e7, turn: 7200, side: 'right', loops: false };
    expect(schema.parse(sound)).to.deep.equal(sound);
    for (const wrong of [{ size: 3.9 }, { size: 100.1 }, { x: '0' }, { turn: null }, { side: 'top' }, { loops: 1 }])
      expect(schema.safeParse({ ...sound, ...wrong }).success, JSON.stringify(wrong)).to.equal(false);
  });

  it('with keys are stored as properties of what they hold', () => {
    const keyed = {
      size: { kind: 'number', name: 'Size', unit: '', least: 0, most: 1, start: 0 },
      at: { kind: 'point', name: 'At', axes: ['X', 'Y'], start: [0, 0] },
      corners: { kind: 'numbers', name: 'Corners', count: 3, start: [0, 0, 0] },
      outline: { kind: 'numbers', name: 'Outline', count: null, start: [] },
    } satisfies Settings;
    const schema = z.object(propertySchemasOf(keyed));
    const sound = {
      size: { value: 5 },
      at: { value: [1, 2] },
      corners: { value: [1, 2, 3] },
      outline: { value: [1, 2, 3, 4] },
    };
    expect(schema.parse(sound)).to.deep.equal(sound);
    for (const wrong of [
      { size: { value: [1] } },
      { at: { value: [1, 2, 3] } },
      { corners: { value: [1] } },
      { size: 5 },
    ])
      expect(schema.safeParse({ ...sound, ...wrong }).success, JSON.stringify(wrong)).to.equal(false);
    expect(valuesAt(keyed, sound as never, 0)).to.deep.equal({
      size: 1,
      at: [1, 2],
      corners: [1, 2, 3],
      outline: [1, 2, 3, 4],
    });
  });
});
