import { expect } from 'chai';
import { createElement } from 'react';
import { renderToStaticMarkup } from 'react-dom/server';
import { framingSettings } from '../../../../core/document/camera-settings.ts';
import { layerSettings, swaySettings } from '../../../../core/document/layer-settings.ts';
import type { Setting } from '../../../../core/settings/setting.ts';
import { SettingField } from './setting-field.tsx';

interface Shown {
  label: string;
  value: string;
  unit: string;
  limits: string | undefined;
}

/** The number fields a setting is drawn as. */
function fieldsOf(setting: Setting, value: unknown, more: object = {}): Shown[] {
  const html = renderToStaticMarkup(
    createElement(SettingField, { setting, value, onChange: () => undefined, ...more }),
  );
  return html
    .split('<label')
    .slice(1)
    .map((field) => ({
      label: /aria-label="([^"]*)"/.exec(field)![1]!,
      value: / value="([^"]*)"/.exec(field)![1]!,
      unit: /<span class="w-5[^>]*>([^<]*)</.exec(field)![1]!,
      limits: / title="([^"]*)"/.exec(field)?.[1],
    }));
}

describe('the field of a setting', () => {
  it('shows shares as per cent, distances with two digits, and the limits of both', () => {
    expect(fieldsOf(layerSettings.scale, 0.5)).to.deep.equal([
      { label: 'Scale', value: '50', unit: '%', limits: '-2000 to 2000 %' },
    ]);
    expect(fieldsOf(layerSettings.opacity, 0.256)[0]).to.include({ value: '26', limits: '0 to 100 %' });
    expect(fieldsOf(layerSettings.depth, 3.14159)[0]).to.include({ value: '3.14', unit: '', limits: '0.2 to 100' });
    expect(fieldsOf(layerSettings.rotation, 12.345)[0]).to.deep.equal({
      label: 'Rotation',
      value: '12.3',
      unit: '°',
      limits: undefined,
    });
  });

  it('shows a point as two numbers under names of their own, as far as is asked for', () => {
    expect(fieldsOf(layerSettings.pivot, [12.34, -5], { reach: 1000 })).to.deep.equal([
      { label: 'Pivot X', value: '12.3', unit: 'px', limits: '-1000 to 1000 px' },
      { label: 'Pivot Y', value: '-5', unit: 'px', limits: '-1000 to 1000 px' },
    ]);
    expect(fieldsOf(layerSettings.position, [1, 2]).map(({ label }) => label)).to.deep.equal(['X', 'Y']);
  });

  it('shows frames as seconds at the rate of the project', () => {
    const [shown] = fieldsOf(swaySettings.period, 36, { rate: 30 });
    expect(shown).to.include({ label: 'Wave period', value: '1.2', unit: 's' });
    expect(shown!.limits).to.match(/^0\.07 to /);
  });

  it('says nothing where several things differ, and has no limits where there are none', () => {
    expect(fieldsOf(layerSettings.blur, 4, { mixed: true })[0]!.value).to.equal('');
    expect(fieldsOf(framingSettings.x, -1e6)[0]).to.include({ value: '-1000000', limits: undefined });
  });

  it('does not draw what is set in the view', () => {
    expect(fieldsOf(layerSettings.corners, [0, 0, 0, 0, 0, 0, 0, 0])).to.deep.equal([]);
  });
});
