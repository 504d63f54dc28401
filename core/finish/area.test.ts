import { expect } from 'chai';
import { askedOf, storedFrom } from '../settings/setting.ts';
import { areaSettings, areaShare } from './area.ts';
import { finishKind, finishKinds } from './finishes.ts';
import { finished, flat, pixelAt } from './test-pictures.ts';

const all = Object.fromEntries(Object.entries(areaSettings).map(([key, one]) => [key, one.start]));
const shares = (values: Record<string, unknown>) =>
  areaShare({ ...all, ...values } as Parameters<typeof areaShare>[0], { x: 100, y: 50, width: 200, height: 100 });

describe('the area of a finish', () => {
  it('one side rises through one half at its centre, towards its direction, over its softness', () => {
    const share = shares({ area: 'one side', areaDirection: 0, areaSoftness: 0.5 });
    // Half the box is 100 wide: the rise goes from 25 left of the middle to 25 right of it.
    for (const [x, wanted] of [
      [174, 0],
      [187.5, 0.15625],
      [200, 0.5],
      [212.5, 0.84375],
      [226, 1],
    ] as const)
      for (const y of [50, 140]) expect(share(x, y), `${x}`).closeTo(wanted, 1e-9);
    const up = shares({ area: 'one side', areaDirection: -90, areaSoftness: 0.2 });
    expect([up(120, 60), up(280, 140)]).to.deep.equal([1, 0]);
  });

  it('round is an ellipse as the box has it, around is the rest', () => {
    const [round, around] = ['round', 'around'].map((area) => shares({ area, areaSize: 0.5, areaSoftness: 0.01 }));
    const ring = (x: number, y: number): number => ((x - 200) / 50) ** 2 + ((y - 100) / 25) ** 2;
    for (let x = 103; x < 300; x += 7)
      for (let y = 53; y < 150; y += 7) {
        // Not where it rises.
        if (Math.abs(ring(x, y) - 1) < 0.05) continue;
        expect(round!(x, y), `${x}, ${y}`).to.equal(ring(x, y) < 1 ? 1 : 0);
        expect(round!(x, y) + around!(x, y)).to.equal(1);
      }
  });

  it('changes only what lies in it, half where it is half there', () => {
    const source = flat(80, 40, [100, 60, 20]);
    const values = { area: 'one side', areaDirection: 0, areaSoftness: 0.25, areaCentre: [0.25, 0.5] };
    const made = finished('invert', source, values);
    expect(pixelAt(made, 5, 20)).to.deep.equal([100, 60, 20, 255]);
    expect(pixelAt(made, 60, 20)).to.deep.equal([155, 195, 235, 255]);
    const [r] = pixelAt(made, 20, 20);
    // The middle of pixel 20 is half a pixel beyond the centre, on a rise of ten pixels.
    const share = 0.55 ** 2 * (3 - 2 * 0.55);
    expect(r).closeTo(100 + 55 * share, 1);
  });

  it('colours count by their alpha: a shadow that fades out over clear ground keeps its colour', () => {
    const source = flat(60, 20, [0, 0, 0, 0]);
    for (let y = 0; y < 20; y++) for (let x = 0; x < 20; x++) source.data.set([200, 40, 40, 255], (y * 60 + x) * 4);
    const values = { softness: 0, distance: 20, angle: 0, colour: [0, 0, 255, 1], area: 'one side' };
    const made = finished('drop-shadow', source, {
      ...values,
      areaDirection: 0,
      areaSoftness: 1.5,
      areaCentre: [0.5, 0.5],
    });
    const [r, g, b, a] = pixelAt(made, 30, 10);
    expect([r, g, b]).to.deep.equal([0, 0, 255]);
    expect(a).closeTo(255 * 0.5, 8);
  });

  it('belongs to every finish, works everywhere at first, and asks only for what counts', () => {
    for (const kind of finishKinds) expect(storedFrom(kind.settings)).to.include({ area: 'everywhere' });
    const { settings } = finishKind('invert')!;
    const asked = (area: string): string[] =>
      askedOf(settings, { area }).flatMap(([key]) => (key.startsWith('area') ? [key] : []));
    expect(asked('everywhere')).to.deep.equal(['area']);
    expect(asked('one side')).to.deep.equal(['area', 'areaCentre', 'areaDirection', 'areaSoftness']);
    expect(asked('round')).to.deep.equal(['area', 'areaCentre', 'areaSize', 'areaSoftness']);
  });
});
