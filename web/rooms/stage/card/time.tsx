import { setLayer } from '../../../../core/edits/layer-edits.ts';
import type { Timing } from '../../../../core/document/layer.ts';
import { clipOf } from '../../../../core/scene/clip-of.ts';
import { barOf } from '../../../../core/scene/source-pixels.ts';
import { useProject } from '../../../data/project.ts';
import { NumberField } from '../../../parts/number-field.tsx';
import { SmallSelect } from '../../../parts/small-select.tsx';
import { ClipFields } from './clip-fields.tsx';
import type { LayerPart } from './place.tsx';
import { Section } from './section.tsx';

/** When a layer is there, on how many frames it stands, and how its clip runs. */
export function TimeSection(part: LayerPart) {
  const { document, shot, layer } = part;
  const { dispatch } = useProject();
  const { timing, locked } = layer;
  const { rate } = document.frame;
  const set = (change: Partial<Timing>): void =>
    dispatch(setLayer('Change timing', shot.id, layer.id, { timing: { ...timing, ...change } }));
  const bar = barOf(shot, layer);
  const clip = clipOf(document, layer);
  const seconds = (label: string, value: number, change: (frames: number) => void) => (
    <NumberField
      label={label}
      unit="s"
      digits={2}
      step={0.1}
      min={0}
      max={shot.length / rate}
      value={value / rate}
      disabled={locked || timing.like !== null}
      onChange={(v) => change(Math.round(v * rate))}
    />
  );
  return (
    <Section name="Time" note={timing.bar || timing.like || timing.steps > 1 ? 'set' : null}>
      {seconds('Start', bar.first, (first) => set({ bar: { first, end: Math.max(first + 1, bar.end) } }))}
      {seconds('End', bar.end, (end) => set({ bar: { first: Math.min(bar.first, end - 1), end: Math.max(1, end) } }))}
      <SmallSelect
        label="Timing from"
        value={timing.like ?? ''}
        options={[
          { value: '', name: 'its own' },
          ...shot.layers.filter((l) => l.id !== layer.id).map((l) => ({ value: l.id, name: l.name })),
        ]}
        disabled={locked}
        onChange={(like) => set({ like: like || null })}
      />
      <NumberField
        label="Hold frames"
        min={1}
        max={60}
        value={timing.steps}
        disabled={locked}
        onChange={(v) => set({ steps: Math.round(v) })}
      />
      {clip && <ClipFields {...part} clip={clip} />}
    </Section>
  );
}
