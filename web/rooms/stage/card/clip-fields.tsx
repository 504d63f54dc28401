import { Pause, Undo2 } from 'lucide-react';
import { useState } from 'react';
import type { Picture } from '../../../../core/document/document.ts';
import type { Timing } from '../../../../core/document/layer.ts';
import {
  clipSpeedAt,
  holdClip,
  keyClipTime,
  runClipBack,
  runSteadily,
  setClipSpeed,
} from '../../../../core/edits/clip-time-edits.ts';
import { setLayer, setProperty } from '../../../../core/edits/layer-edits.ts';
import { clipMoment } from '../../../../core/scene/clip-time.ts';
import { layerValue } from '../../../../core/scene/values.ts';
import { useProject } from '../../../data/project.ts';
import { Button } from '../../../parts/button.tsx';
import { NumberField } from '../../../parts/number-field.tsx';
import { SecondsField } from '../../../parts/seconds-field.tsx';
import { plainOptions, SmallSelect } from '../../../parts/small-select.tsx';
import { SwitchRow } from '../../../parts/switch-row.tsx';
import type { LayerPart } from './place.tsx';
import { KeyToggle } from './property-field.tsx';

interface ClipPart extends LayerPart {
  clip: NonNullable<Picture['clip']>;
}

/** How the clip on a layer runs: at one speed, or by keyframes of its time, held and run back within. */
export function ClipFields(part: ClipPart) {
  const { shot, layer, clip } = part;
  const { timing, locked, clipTime } = layer;
  const { dispatch } = useProject();
  const set = (change: Partial<Timing>): void =>
    dispatch(setLayer('Change timing', shot.id, layer.id, { timing: { ...timing, ...change } }));
  return (
    <>
      {clipTime ? <ByKeyframes {...part} /> : <AtOneSpeed {...part} set={set} />}
      <SmallSelect
        label="When it is over"
        value={timing.ends}
        options={plainOptions(['repeat', 'swing', 'hold'] as const)}
        disabled={locked}
        onChange={(ends) => set({ ends })}
      />
      {timing.ends === 'repeat' && (
        <NumberField
          label="Seam crossfade"
          unit="s"
          digits={2}
          step={0.1}
          min={0}
          max={clip.frames / clip.rate / 2}
          value={timing.crossfade / clip.rate}
          disabled={locked}
          onChange={(v) => set({ crossfade: Math.round(v * clip.rate) })}
        />
      )}
      <SmallSelect
        label="Between frames"
        value={timing.between}
        options={plainOptions(['nearest', 'blend'] as const)}
        disabled={locked}
        onChange={(between) => set({ between })}
      />
      <HoldAndBack {...part} />
    </>
  );
}

function AtOneSpeed({ document, shot, layer, frame, clip, set }: ClipPart & { set(change: Partial<Timing>): void }) {
  const { timing, locked } = layer;
  const { dispatch } = useProject();
  /** A frozen frame slips along with the clip that it was taken from. */
  const slipTo = (slip: number): void => {
    const by = Math.round(slip) - Math.round(timing.slip);
    const freeze = timing.freeze === null ? null : Math.max(0, Math.min(clip.frames - 1, timing.freeze + by));
    set({ slip, freeze });
  };
  const seen = (): number =>
    clipMoment(clip, document.frame.rate, frame, { ...layer, timing: { ...timing, freeze: null } }).index;
  return (
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
      <SwitchRow
        label="Reversed"
        on={timing.speed < 0}
        disabled={locked}
        onChange={() => set({ speed: -timing.speed })}
      />
      <SwitchRow
        label="Freeze"
        hint="Shows only the frame of the clip that is seen now"
        on={timing.freeze !== null}
        disabled={locked}
        onChange={(on) => set({ freeze: on ? seen() : null })}
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
        label="Time by keyframes"
        hint="Keyframes say which second of the clip is shown when: ease them for a speed ramp"
        on={false}
        disabled={locked}
        onChange={() => dispatch(keyClipTime(shot.id, layer.id))}
      />
    </>
  );
}

function ByKeyframes({ document, shot, layer, frame }: ClipPart) {
  const { dispatch } = useProject();
  const speed = clipSpeedAt(layer, document.frame.rate, frame + 0.5);
  return (
    <>
      <NumberField
        label="Clip time"
        unit="s"
        digits={2}
        step={0.1}
        value={layerValue(shot, layer, 'clipTime', frame)}
        disabled={layer.locked}
        onChange={(v) => dispatch(setProperty(shot.id, layer.id, 'clipTime', frame, v))}
        after={<KeyToggle shot={shot} layer={layer} property="clipTime" frame={frame} />}
      />
      <NumberField
        label={speed < -1e-6 ? 'Speed from here, backwards' : 'Speed from here'}
        unit="%"
        min={1}
        max={2000}
        step={10}
        value={Math.abs(Math.round(speed * 1000) / 10)}
        disabled={layer.locked}
        onChange={(v) => dispatch(setClipSpeed(shot.id, layer.id, frame, v / 100))}
      />
      <SwitchRow
        label="Time by keyframes"
        hint="Off: it runs by its slip and its speed again"
        on
        disabled={layer.locked}
        onChange={() => dispatch(runSteadily(shot.id, layer.id))}
      />
    </>
  );
}

/** What is done with a clip at the playhead, in one press each. */
function HoldAndBack({ document, shot, layer, frame }: ClipPart) {
  const { dispatch } = useProject();
  const { rate } = document.frame;
  const [hold, setHold] = useState<number | null>(null);
  const frames = hold ?? Math.round(rate);
  return (
    <>
      <SecondsField
        label="Hold for"
        frames={frames}
        rate={rate}
        least={1}
        most={shot.length}
        disabled={layer.locked}
        onChange={setHold}
      />
      <div className="flex gap-1">
        <Button
          className="flex-1 !px-1"
          icon={<Pause size={14} />}
          disabled={layer.locked}
          title="At the playhead the clip stands still for so long, and then goes on"
          onClick={() => dispatch(holdClip(shot.id, layer.id, frame, frames))}
        >
          Hold here
        </Button>
        <Button
          className="flex-1 !px-1"
          icon={<Undo2 size={14} />}
          disabled={layer.locked || frame === 0}
          title="From the playhead on the clip runs back the way it came"
          onClick={() => dispatch(runClipBack(shot.id, layer.id, frame))}
        >
          Run back
        </Button>
      </div>
    </>
  );
}
