import type { TextAlong } from '../../../../core/document/words.ts';
import { NumberField } from '../../../parts/number-field.tsx';
import { SmallSelect } from '../../../parts/small-select.tsx';
import { SwitchRow } from '../../../parts/switch-row.tsx';
import type { WordsPart } from '../card/text.tsx';

type Form = TextAlong['form'] | 'straight';

/** What the words run along: straight, an arc, a circle, a wave, or the outline of a shape. */
export function AlongFields({ shot, layer, text, set }: WordsPart) {
  const { along } = text;
  const shapes = shot.layers.filter((l) => l.source.kind === 'shape' && l.id !== layer.id);
  const change = (next: TextAlong | null): void => set({ along: next });
  const starts: Record<Form, () => TextAlong | null> = {
    straight: () => null,
    arc: () => ({ form: 'arc', bend: 90 }),
    circle: () => ({ form: 'circle', radius: Math.round(text.box.width / Math.PI), start: 0, inside: false }),
    wave: () => ({ form: 'wave', height: text.size, length: Math.round(text.box.width / 1.5), shift: 0 }),
    layer: () => ({ form: 'layer', layer: shapes[0]!.id, start: 0, inside: false }),
  };
  const field = (label: string, value: number, unit: string, give: (v: number) => TextAlong, limits = {}) => (
    <NumberField
      label={label}
      unit={unit}
      value={value}
      disabled={layer.locked}
      onChange={(v) => change(give(v))}
      {...limits}
    />
  );
  return (
    <>
      <SmallSelect<Form>
        label="Along"
        value={along?.form ?? 'straight'}
        options={[
          { value: 'straight', name: 'a straight line' },
          { value: 'arc', name: 'an arc' },
          { value: 'circle', name: 'a circle' },
          { value: 'wave', name: 'a wave' },
          ...(shapes.length > 0 ? [{ value: 'layer' as const, name: 'a shape' }] : []),
        ]}
        disabled={layer.locked}
        onChange={(form) => change(starts[form]())}
      />
      <div className="border-l-2 border-line pl-2 empty:hidden">
        {along?.form === 'arc' &&
          field('Bend', along.bend, '°', (bend) => ({ ...along, bend }), { min: -720, max: 720 })}
        {along?.form === 'circle' && (
          <>
            {field('Radius', along.radius, 'px', (radius) => ({ ...along, radius }), { min: 4, max: 20_000 })}
            {field('Start', along.start, '°', (start) => ({ ...along, start }))}
          </>
        )}
        {along?.form === 'wave' && (
          <>
            {field('Wave height', along.height, 'px', (height) => ({ ...along, height }), { min: -5000, max: 5000 })}
            {field('Wave length', along.length, 'px', (length) => ({ ...along, length }), { min: 10, max: 20_000 })}
            {field('Shift', along.shift * 100, '%', (v) => ({ ...along, shift: v / 100 }))}
          </>
        )}
        {along?.form === 'layer' && (
          <>
            <SmallSelect
              label="Shape"
              value={along.layer}
              options={shapes.map((l) => ({ value: l.id, name: l.name }))}
              disabled={layer.locked}
              onChange={(id) => change({ ...along, layer: id })}
            />
            {field('Start', along.start * 100, '%', (v) => ({ ...along, start: v / 100 }))}
          </>
        )}
        {(along?.form === 'circle' || along?.form === 'layer') && (
          <SwitchRow
            label="Inside"
            on={along.inside}
            disabled={layer.locked}
            onChange={(inside) => change({ ...along, inside })}
          />
        )}
      </div>
    </>
  );
}
