import type { Layer, Shot } from '../../../core/scene/document.ts';
import { fastenLayer, setFastening } from '../../../core/scene/layer-edits.ts';
import { useProject } from '../../data/project.ts';
import { NumberField } from '../../parts/number-field.tsx';

/** What a layer is fastened to, and how it follows. */
export function Fastening({ shot, layer, frame }: { shot: Shot; layer: Layer; frame: number }) {
  const { dispatch } = useProject();
  const { fastened } = layer;
  const change = (part: Partial<NonNullable<Layer['fastened']>>): void =>
    dispatch(setFastening(shot.id, layer.id, part));
  const percent = (label: string, value: number, set: (share: number) => void, least: number, max: number) => (
    <NumberField
      label={label}
      unit="%"
      min={least}
      max={max}
      step={5}
      value={value * 100}
      disabled={layer.locked}
      onChange={(v) => set(v / 100)}
      after={<span className="size-6" />}
    />
  );
  return (
    <>
      <label className="mt-3 flex h-7 items-center gap-2 text-[13px]">
        <span className="flex-1 font-semibold text-pine">Fastened to</span>
        <select
          aria-label="Fastened to"
          className="w-28 rounded-md border border-line bg-white px-1.5 py-0.5 text-[12px]"
          value={fastened?.to ?? ''}
          disabled={layer.locked}
          onChange={(event) => dispatch(fastenLayer(shot.id, layer.id, event.target.value || null, frame))}
        >
          <option value="">nothing</option>
          {shot.layers
            .filter((l) => l.id !== layer.id)
            .map((l) => (
              <option key={l.id} value={l.id}>
                {l.name}
              </option>
            ))}
        </select>
      </label>
      {fastened && (
        <>
          {percent('Sideways', fastened.follow[0], (v) => change({ follow: [v, fastened.follow[1]] }), -400, 400)}
          {percent('Up and down', fastened.follow[1], (v) => change({ follow: [fastened.follow[0], v] }), -400, 400)}
          {percent('Fades rising', fastened.fade, (fade) => change({ fade }), 0, 1000)}
          {percent('Shrinks rising', fastened.shrink, (shrink) => change({ shrink }), 0, 1000)}
        </>
      )}
    </>
  );
}
