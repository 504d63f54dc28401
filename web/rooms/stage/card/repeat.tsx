import { CopyPlus, Ungroup, X } from 'lucide-react';
import { mostApart, newRepeat, setRepeat, takeRepeatApart } from '../../../../core/edits/repeat-edits.ts';
import { seenBox } from '../../../../core/scene/seen-box.ts';
import { repeatForms, type Repeat } from '../../../../core/document/layer.ts';
import { useProject } from '../../../data/project.ts';
import { Button, IconButton } from '../../../parts/button.tsx';
import { NumberField } from '../../../parts/number-field.tsx';
import { SmallSelect } from '../../../parts/small-select.tsx';
import { SwitchRow } from '../../../parts/switch-row.tsx';
import type { LayerPart } from './place.tsx';
import { Section } from './section.tsx';

/** Copies of the layer in a row, a grid, a ring or along a shape, each a step further. */
export function RepeatSection({ document, shot, layer, frame }: LayerPart) {
  const { dispatch } = useProject();
  const { repeat, locked } = layer;
  const set = (next: Repeat | null): void => dispatch(setRepeat(shot.id, layer.id, next));
  if (!repeat) {
    const box = seenBox(document, shot, layer, frame);
    return (
      <Section name="Repeat">
        <Button
          icon={<CopyPlus size={14} />}
          disabled={locked}
          onClick={() => set(newRepeat(box ? box.right - box.left : 100))}
        >
          Repeat this layer
        </Button>
      </Section>
    );
  }
  const { form, count, rows } = repeat;
  const shapes = shot.layers.filter((l) => l.source.kind === 'shape' && l.id !== layer.id);
  const number = (
    label: string,
    value: number,
    give: (v: number) => Partial<Repeat>,
    more: { unit?: string; min?: number; max?: number; digits?: number } = {},
  ) => (
    <NumberField
      label={label}
      value={value}
      disabled={locked}
      onChange={(v) => set({ ...repeat, ...give(v) })}
      {...more}
    />
  );
  const total = form === 'grid' ? count * rows : count;
  return (
    <Section name="Repeat" note={`${total} times`}>
      <div className="flex items-center gap-1">
        <div className="min-w-0 flex-1">
          <SmallSelect
            label="Form"
            value={form}
            options={repeatForms.map((value) => ({ value, name: value === 'path' ? 'along a shape' : value }))}
            disabled={locked}
            onChange={(next) => set({ ...repeat, form: next })}
          />
        </div>
        <IconButton label="Remove repeat" className="!size-6" disabled={locked} onClick={() => set(null)}>
          <X size={13} />
        </IconButton>
      </div>
      {number(form === 'grid' ? 'Columns' : 'Copies', count, (v) => ({ count: Math.round(v) }), { min: 1, max: 500 })}
      {form === 'grid' && number('Rows', rows, (v) => ({ rows: Math.round(v) }), { min: 1, max: 500 })}
      {form === 'path' && (
        <SmallSelect
          label="Shape"
          value={repeat.path ?? ''}
          options={[
            { value: '', name: shapes.length > 0 ? 'choose one' : 'there is none' },
            ...shapes.map((l) => ({ value: l.id, name: l.name })),
          ]}
          disabled={locked}
          onChange={(path) => set({ ...repeat, path: path || null })}
        />
      )}
      {form === 'ring' || (form === 'path' && repeat.path) ? (
        <>
          {form === 'ring' &&
            number('Ring radius', repeat.radius, (radius) => ({ radius }), { unit: 'px', min: 0, max: 20_000 })}
          <SwitchRow
            label="Upright"
            hint="Copies stand upright instead of turning along"
            on={repeat.upright}
            disabled={locked}
            onChange={(upright) => set({ ...repeat, upright })}
          />
        </>
      ) : (
        <>
          {number('Step X', repeat.step[0], (v) => ({ step: [v, repeat.step[1]] }), { unit: 'px', digits: 1 })}
          {number('Step Y', repeat.step[1], (v) => ({ step: [repeat.step[0], v] }), { unit: 'px', digits: 1 })}
        </>
      )}
      {number('Turn each', repeat.turn, (turn) => ({ turn }), { unit: '°', min: -3600, max: 3600, digits: 1 })}
      {number('Size each', repeat.scale * 100, (v) => ({ scale: v / 100 }), { unit: '%', min: 5, max: 400, digits: 1 })}
      {number('Opacity each', repeat.opacity * 100, (v) => ({ opacity: v / 100 }), { unit: '%', min: 0, max: 100 })}
      {number('Hue each', repeat.hue, (hue) => ({ hue }), { unit: '°', min: -3600, max: 3600, digits: 1 })}
      {number('Delay each', repeat.delay, (v) => ({ delay: Math.round(v) }), { unit: 'fr', min: -1000, max: 1000 })}
      <SwitchRow
        label="Mirror every other"
        on={repeat.mirrored}
        disabled={locked}
        onChange={(mirrored) => set({ ...repeat, mirrored })}
      />
      <Button
        icon={<Ungroup size={14} />}
        disabled={locked || total > mostApart}
        title={
          total > mostApart ? `At most ${mostApart} copies become layers` : 'Every copy becomes a layer of its own'
        }
        onClick={() => dispatch(takeRepeatApart(shot.id, layer.id))}
      >
        Take apart into layers
      </Button>
    </Section>
  );
}
