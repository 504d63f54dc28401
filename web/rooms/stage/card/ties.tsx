import { fastenLayer, setFastening, setLayer } from '../../../../core/edits/layer-edits.ts';
import { canBeJoined, joinLayer, type JoinHow } from '../../../../core/edits/join-edits.ts';
import { putInGroup } from '../../../../core/edits/arrange-edits.ts';
import { fastenToPoint } from '../../../../core/edits/track-edits.ts';
import { tracksOf } from '../../../../core/scene/points-of-clip.ts';
import { setPen } from '../../../../core/edits/arrival-edits.ts';
import { joinKinds, type Fastening, type LayerWindow, type Pen } from '../../../../core/document/layer.ts';
import { boxOf } from '../../../../core/scene/source-pixels.ts';
import { useProject } from '../../../data/project.ts';
import { NumberField } from '../../../parts/number-field.tsx';
import { SecondsField } from '../../../parts/seconds-field.tsx';
import { plainOptions, SmallSelect } from '../../../parts/small-select.tsx';
import { SwitchRow } from '../../../parts/switch-row.tsx';
import type { LayerPart } from './place.tsx';
import { Section } from './section.tsx';

/** What a layer has to do with other layers: what it is fastened to, which group it is in, through what it is seen. */
export function TiesSection(part: LayerPart) {
  const { shot, layer } = part;
  const other = (id: string | undefined): string | undefined => shot.layers.find((l) => l.id === id)?.name;
  const note = [other(layer.fastened?.to), other(layer.pen?.to), other(layer.window?.to)].filter(Boolean).join(', ');
  return (
    <Section name="Ties" note={note || null}>
      <FastenedTo {...part} />
      <FollowsWriting {...part} />
      <InGroup {...part} />
      <SeenThrough {...part} />
      {layer.source.kind === 'shape' && <JoinedTo {...part} />}
    </Section>
  );
}

function othersOf({ shot, layer }: LayerPart, nothing: string) {
  const others = shot.layers.filter((l) => l.id !== layer.id).map((l) => ({ value: l.id, name: l.name }));
  return [{ value: '', name: nothing }, ...others];
}

/** Followed points of clips in the shot. */
function pointsOf({ document, shot, layer }: LayerPart) {
  return shot.layers
    .filter((other) => other.id !== layer.id)
    .flatMap((other) =>
      tracksOf(document, other).map(({ id, name }) => ({ value: `${other.id} ${id}`, name: `${other.name}: ${name}` })),
    );
}

function FastenedTo(part: LayerPart) {
  const { shot, layer, frame } = part;
  const { dispatch } = useProject();
  const { fastened, locked } = layer;
  const change = (next: Partial<Fastening>): void => dispatch(setFastening(shot.id, layer.id, next));
  const percent = (label: string, value: number, set: (share: number) => void, least: number, max: number) => (
    <NumberField
      label={label}
      unit="%"
      min={least}
      max={max}
      step={5}
      value={value * 100}
      disabled={locked}
      onChange={(v) => set(v / 100)}
    />
  );
  return (
    <>
      <SmallSelect
        label="Fastened to"
        value={fastened ? [fastened.to, fastened.point].filter(Boolean).join(' ') : ''}
        options={[...othersOf(part, 'nothing'), ...pointsOf(part)]}
        disabled={locked}
        onChange={(value) => {
          const [to, point] = value.split(' ');
          dispatch(
            to && point
              ? fastenToPoint(shot.id, layer.id, to, point, null, frame)
              : fastenLayer(shot.id, layer.id, to || null, frame),
          );
        }}
      />
      {fastened && (
        <div className="border-l-2 border-line pl-2">
          {percent('Sideways', fastened.follow[0], (v) => change({ follow: [v, fastened.follow[1]] }), -400, 400)}
          {percent('Up and down', fastened.follow[1], (v) => change({ follow: [fastened.follow[0], v] }), -400, 400)}
          {percent('Turns with it', fastened.turn, (turn) => change({ turn }), -1000, 1000)}
          {percent('Grows with it', fastened.grow, (grow) => change({ grow }), -1000, 1000)}
          {percent('Fades rising', fastened.fade, (fade) => change({ fade }), 0, 1000)}
          {percent('Shrinks rising', fastened.shrink, (shrink) => change({ shrink }), 0, 1000)}
          <SwitchRow
            label="Keeps touching it"
            hint="Stays at its place on the other layer although it hangs at another distance"
            on={fastened.touching}
            disabled={locked}
            onChange={(touching) => change({ touching })}
          />
        </div>
      )}
    </>
  );
}

/** Which layer a shape is one with, and what it is seen as. */
function JoinedTo({ shot, layer, frame }: LayerPart) {
  const { dispatch } = useProject();
  const { joined, locked } = layer;
  const others = shot.layers.filter((l) => l.id !== layer.id && canBeJoined(l) && l.group === layer.group);
  const join = (to: string | null, how: JoinHow): void => dispatch(joinLayer(shot.id, layer.id, to, how, frame));
  return (
    <>
      <SmallSelect
        label="Joined to"
        value={joined?.to ?? ''}
        options={[{ value: '', name: 'nothing' }, ...others.map((l) => ({ value: l.id, name: l.name }))]}
        disabled={locked}
        onChange={(to) => join(to || null, joined?.how ?? 'its colours')}
      />
      {joined && (
        <div className="border-l-2 border-line pl-2">
          <SmallSelect
            label="As"
            value={joined.how}
            options={plainOptions(joinKinds)}
            disabled={locked}
            onChange={(how) => join(joined.to, how)}
          />
        </div>
      )}
    </>
  );
}

/** The pen of words that are written or wiped on: its pivot is where the writing has got to. */
function FollowsWriting({ document, shot, layer }: LayerPart) {
  const { dispatch } = useProject();
  const { pen, locked } = layer;
  const { rate } = document.frame;
  const written = shot.layers.filter(
    (l) => l.id !== layer.id && (l.id === pen?.to || l.arrive?.kind === 'write' || l.arrive?.kind === 'unroll'),
  );
  if (written.length === 0) return null;
  const set = (next: Pen | null): void => dispatch(setPen(shot.id, layer.id, next));
  return (
    <>
      <SmallSelect
        label="Follows the writing of"
        value={pen?.to ?? ''}
        options={[{ value: '', name: 'nothing' }, ...written.map((l) => ({ value: l.id, name: l.name }))]}
        disabled={locked}
        onChange={(to) =>
          set(to ? { approach: Math.round(rate * 0.6), from: 60, away: 60, lift: 30, ...pen, to } : null)
        }
      />
      {pen && (
        <div className="border-l-2 border-line pl-2">
          <SecondsField
            label="Comes and goes in"
            frames={pen.approach}
            rate={rate}
            least={0}
            most={60}
            disabled={locked}
            onChange={(frames) => set({ ...pen, approach: frames })}
          />
          <NumberField
            label="Comes from"
            unit="°"
            value={pen.from}
            disabled={locked}
            onChange={(from) => set({ ...pen, from })}
          />
          <NumberField
            label="Leaves to"
            unit="°"
            value={pen.away}
            disabled={locked}
            onChange={(away) => set({ ...pen, away })}
          />
          <NumberField
            label="Lift between words"
            unit="px"
            min={0}
            max={2000}
            value={pen.lift}
            disabled={locked}
            onChange={(lift) => set({ ...pen, lift })}
          />
        </div>
      )}
    </>
  );
}

function InGroup({ shot, layer }: LayerPart) {
  const { dispatch } = useProject();
  const groups = shot.layers.filter((l) => l.source.kind === 'group' && l.id !== layer.id);
  if (groups.length === 0 || layer.source.kind === 'group') return null;
  return (
    <SmallSelect
      label="In group"
      value={layer.group ?? ''}
      options={[{ value: '', name: 'none' }, ...groups.map((g) => ({ value: g.id, name: g.name }))]}
      disabled={layer.locked}
      onChange={(group) => dispatch(putInGroup(shot.id, [layer.id], group || null))}
    />
  );
}

/** A layer that is seen only inside, or outside, another one; half of it may break out of its window. */
function SeenThrough(part: LayerPart) {
  const { document, shot, layer, frame } = part;
  const { dispatch } = useProject();
  const { window, locked } = layer;
  const set = (next: LayerWindow | null): void =>
    dispatch(setLayer('Change window', shot.id, layer.id, { window: next }));
  const middle = (to: string): [number, number] => {
    const other = shot.layers.find((l) => l.id === to)!;
    const box = boxOf(document, other, frame);
    return box ? [box.x + box.width / 2, box.y + box.height / 2] : [0, 0];
  };
  return (
    <>
      <SmallSelect
        label="Window"
        value={window?.to ?? ''}
        options={othersOf(part, 'none')}
        disabled={locked}
        onChange={(to) => set(to ? { to, how: 'inside', by: 'alpha', free: null } : null)}
      />
      {window && (
        <div className="border-l-2 border-line pl-2">
          <SmallSelect
            label="Visible"
            value={window.how}
            options={plainOptions(['inside', 'outside'] as const)}
            disabled={locked}
            onChange={(how) => set({ ...window, how })}
          />
          <SmallSelect
            label="Uses its"
            value={window.by}
            options={plainOptions(['alpha', 'brightness'] as const)}
            disabled={locked}
            onChange={(by) => set({ ...window, by })}
          />
          <SwitchRow
            label="Partly breaks out"
            hint="Beyond a line the layer is seen whole: half in, half out"
            on={window.free !== null}
            disabled={locked}
            onChange={(on) => set({ ...window, free: on ? { at: middle(window.to), angle: -90, soft: 0 } : null })}
          />
          {window.free && (
            <>
              <NumberField
                label="Free direction"
                unit="°"
                value={window.free.angle}
                disabled={locked}
                onChange={(angle) => set({ ...window, free: { ...window.free!, angle } })}
              />
              <NumberField
                label="Softness"
                unit="px"
                min={0}
                max={2000}
                value={window.free.soft}
                disabled={locked}
                onChange={(soft) => set({ ...window, free: { ...window.free!, soft } })}
              />
            </>
          )}
        </div>
      )}
    </>
  );
}
