import type { Document } from '../../../../core/document/document.ts';
import type { Layer, Timing } from '../../../../core/document/layer.ts';
import { layerSettings } from '../../../../core/document/layer-settings.ts';
import type { Shot } from '../../../../core/document/shot.ts';
import { putInGroup } from '../../../../core/edits/arrange-edits.ts';
import { inOne, type Edit } from '../../../../core/edits/edit.ts';
import { fastenLayer, setBlend, setLayer, setProperty } from '../../../../core/edits/layer-edits.ts';
import { barOf } from '../../../../core/scene/source-pixels.ts';
import { layerValue } from '../../../../core/scene/values.ts';
import { useProject } from '../../../data/project.ts';
import { NumberField } from '../../../parts/number-field.tsx';
import { SecondsField } from '../../../parts/seconds-field.tsx';
import { SmallSelect } from '../../../parts/small-select.tsx';
import { SwitchRow } from '../../../parts/switch-row.tsx';
import { sameValue } from './same-value.ts';
import { SettingField } from './setting-field.tsx';
import { blendOptions } from './blend-options.ts';
import { Section } from './section.tsx';

interface SeveralPart {
  document: Document;
  shot: Shot;
  /** Those that are not locked. */
  layers: Layer[];
  frame: number;
}

/** One change to each of the layers, as one step of undo. */
function useForAll(layers: readonly Layer[]): (change: (layer: Layer) => Edit) => void {
  const { dispatch } = useProject();
  return (change) => dispatch(inOne(layers.map(change)));
}

/** What layers have in common in their look; one value typed here is given to all. */
export function SeveralLook({ shot, layers, frame }: SeveralPart) {
  const forAll = useForAll(layers);
  const field = (property: 'opacity' | 'blur') => {
    const values = layers.map((layer) => Number(layerValue(shot, layer, property, frame).toFixed(4)));
    return (
      <SettingField
        setting={layerSettings[property]}
        value={values[0] ?? 0}
        mixed={sameValue(values) === null}
        onChange={(v) => forAll((layer) => setProperty(shot.id, layer.id, property, frame, v as number))}
        after={null}
      />
    );
  };
  return (
    <Section name="Look">
      {field('opacity')}
      {field('blur')}
      <SmallSelect
        label="Blend mode"
        value={sameValue(layers.map((layer) => layer.blend))}
        options={blendOptions}
        onChange={(mode) => forAll((layer) => setBlend(shot.id, layer.id, mode))}
      />
      {shot.motionBlur && (
        <SwitchRow
          label="Motion blur"
          on={layers.every((layer) => layer.motionBlur)}
          onChange={(motionBlur) =>
            forAll((layer) => setLayer('Change motion blur', shot.id, layer.id, { motionBlur }))
          }
        />
      )}
    </Section>
  );
}

/** When layers are there, and on how many frames they stand. */
export function SeveralTime({ document, shot, layers }: SeveralPart) {
  const forAll = useForAll(layers);
  const { rate } = document.frame;
  const bars = layers.map((layer) => barOf(shot, layer));
  const set = (change: (timing: Timing, bar: { first: number; end: number }) => Partial<Timing>): void =>
    forAll((layer) => {
      const timing = { ...layer.timing, ...change(layer.timing, barOf(shot, layer)) };
      return setLayer('Change timing', shot.id, layer.id, { timing });
    });
  const seconds = (label: string, which: 'first' | 'end', change: (frames: number) => void) => (
    <SecondsField
      label={label}
      frames={bars[0]?.[which] ?? 0}
      mixed={sameValue(bars.map((bar) => bar[which])) === null}
      rate={rate}
      least={0}
      most={shot.length / rate}
      disabled={layers.some((layer) => layer.timing.like !== null)}
      onChange={change}
    />
  );
  return (
    <Section name="Time">
      {seconds('Start', 'first', (first) => set((_, { end }) => ({ bar: { first, end: Math.max(first + 1, end) } })))}
      {seconds('End', 'end', (end) =>
        set((_, { first }) => ({ bar: { first: Math.min(first, Math.max(0, end - 1)), end: Math.max(1, end) } })),
      )}
      <NumberField
        label="Hold frames"
        min={1}
        max={60}
        value={layers[0]?.timing.steps ?? 1}
        mixed={sameValue(layers.map((layer) => layer.timing.steps)) === null}
        onChange={(v) => set(() => ({ steps: Math.round(v) }))}
      />
    </Section>
  );
}

/** What layers are fastened to, and the group they are in. */
export function SeveralTies({ shot, layers, frame }: SeveralPart) {
  const forAll = useForAll(layers);
  const others = shot.layers.filter((layer) => !layers.includes(layer));
  const groups = others.filter((layer) => layer.source.kind === 'group');
  const named = (list: readonly Layer[]) => list.map((layer) => ({ value: layer.id, name: layer.name }));
  return (
    <Section name="Ties">
      <SmallSelect
        label="Fastened to"
        value={sameValue(layers.map((layer) => layer.fastened?.to ?? ''))}
        options={[{ value: '', name: 'nothing' }, ...named(others)]}
        onChange={(to) => forAll((layer) => fastenLayer(shot.id, layer.id, to || null, frame))}
      />
      {groups.length > 0 && (
        <SmallSelect
          label="In group"
          value={sameValue(layers.map((layer) => layer.group ?? ''))}
          options={[{ value: '', name: 'none' }, ...named(groups)]}
          onChange={(group) => forAll((layer) => putInGroup(shot.id, [layer.id], group || null))}
        />
      )}
    </Section>
  );
}
