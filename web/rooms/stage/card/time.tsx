import { setLayer } from '../../../../core/edits/layer-edits.ts';
import type { Timing } from '../../../../core/document/layer.ts';
import { barOf, clipIndex } from '../../../../core/scene/source-pixels.ts';
import { useProject } from '../../../data/project.ts';
import { NumberField } from '../../../parts/number-field.tsx';
import { plainOptions, SmallSelect } from '../../../parts/small-select.tsx';
import { SwitchRow } from '../../../parts/switch-row.tsx';
import type { LayerPart } from './place.tsx';
import { Section } from './section.tsx';

/** When a layer is there, on how many frames it stands, and how its clip runs. */
export function TimeSection({ document, shot, layer, frame }: LayerPart) {
  const { dispatch } = useProject();
  const { timing, locked, source } = layer;
  const { rate } = document.frame;
  const set = (change: Partial<Timing>): void =>
    dispatch(setLayer('Change timing', shot.id, layer.id, { timing: { ...timing, ...change } }));
  const bar = barOf(shot, layer);
  const pictureId =
    source.kind === 'piece'
      ? document.pieces.find((p) => p.id === source.piece)?.picture
      : 'picture' in source
        ? source.picture
        : null;
  const clip = document.pictures.find((p) => p.id === pictureId)?.clip ?? null;
  /** A frozen frame slips along with the clip that it was taken from. */
  const slipTo = (slip: number): void => {
    const by = Math.round(slip) - Math.round(timing.slip);
    const freeze = timing.freeze === null ? null : Math.max(0, Math.min(clip!.frames - 1, timing.freeze + by));
    set({ slip, freeze });
  };
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
      {clip && (
        <>
          <NumberField
            label="Slip"
            unit="s"
            digits={2}
            step={0.1}
            value={timing.slip / clip.rate}
            disabled={locked}
            onChange={(v) => slipTo(v * clip.rate)}
          />
          <NumberField
            label="Speed"
            unit="%"
            min={-2000}
            max={2000}
            step={10}
            value={timing.speed * 100}
            disabled={locked}
            onChange={(v) => set({ speed: v / 100 })}
          />
          <SmallSelect
            label="When it is over"
            value={timing.ends}
            options={plainOptions(['repeat', 'swing', 'hold'] as const)}
            disabled={locked}
            onChange={(ends) => set({ ends })}
          />
          <SwitchRow
            label="Freeze"
            hint="Shows only the frame of the clip that is seen now"
            on={timing.freeze !== null}
            disabled={locked}
            onChange={(on) =>
              set({ freeze: on ? clipIndex(clip.frames, clip.rate / rate, frame, { ...timing, freeze: null }) : null })
            }
          />
          {timing.freeze !== null && (
            <NumberField
              label="Frozen at frame"
              min={0}
              max={clip.frames - 1}
              value={timing.freeze}
              disabled={locked}
              onChange={(v) => set({ freeze: Math.round(v) })}
            />
          )}
          <SwitchRow
            label="Reversed"
            on={timing.speed < 0}
            disabled={locked}
            onChange={() => set({ speed: -timing.speed })}
          />
        </>
      )}
    </Section>
  );
}
