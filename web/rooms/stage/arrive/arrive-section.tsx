import { LogIn, LogOut, X } from 'lucide-react';
import { useState } from 'react';
import { arrivalKind } from '../../../../core/arrive/arrivals.ts';
import { orders } from '../../../../core/arrive/course.ts';
import type { LeaveSetting } from '../../../../core/document/arrival-setting.ts';
import {
  changeArrival,
  setArrival,
  setArrivalValues,
  setLeaving,
  unitsFor,
} from '../../../../core/edits/arrival-edits.ts';
import { askedOf, valuesAt } from '../../../../core/settings/setting.ts';
import { useProject } from '../../../data/project.ts';
import { Button, IconButton } from '../../../parts/button.tsx';
import { NumberField } from '../../../parts/number-field.tsx';
import { SecondsField } from '../../../parts/seconds-field.tsx';
import { plainOptions, SmallSelect } from '../../../parts/small-select.tsx';
import { SwitchRow } from '../../../parts/switch-row.tsx';
import { EasingChoice } from '../card/easing-choice.tsx';
import type { LayerPart } from '../card/place.tsx';
import { Section } from '../card/section.tsx';
import { SettingField } from '../card/setting-field.tsx';
import { ArrivalSheet } from './arrival-sheet.tsx';

type Side = 'arrive' | 'leave';

/** How a layer, or its letters, come and go. */
export function ArriveSection(part: LayerPart) {
  const { layer } = part;
  const { arrive, leave } = layer;
  const nameOf = (kind: string | undefined): string | undefined => (kind ? arrivalKind(kind)?.name : undefined);
  const note = [nameOf(arrive?.kind), leave && (leave.mirrors ? 'and back' : nameOf(leave.kind))].filter(Boolean);
  return (
    <Section name="Arrive & Leave" note={note.join(', ') || null}>
      <Way {...part} side="arrive" />
      <Way {...part} side="leave" />
    </Section>
  );
}

function Way({ side, ...part }: LayerPart & { side: Side }) {
  const { document, shot, layer } = part;
  const { dispatch } = useProject();
  const [choosing, setChoosing] = useState(false);
  const setting = layer[side];
  const leaving = side === 'leave';
  const kind = setting && arrivalKind(setting.kind);
  const mirrors = leaving && !!layer.leave?.mirrors;
  const choose = (id: string | null): void =>
    dispatch(leaving ? setLeaving(shot.id, [layer.id], id) : setArrival(shot.id, [layer.id], id));
  return (
    <div className="mb-1" role="group" aria-label={leaving ? 'Leave' : 'Arrive'}>
      <div className="flex gap-1">
        <Button
          className="flex-1"
          icon={leaving ? <LogOut size={14} /> : <LogIn size={14} />}
          disabled={layer.locked}
          onClick={() => setChoosing(true)}
        >
          {kind && !mirrors
            ? `${leaving ? 'Leaves' : 'Arrives'}: ${kind.name}`
            : leaving
              ? 'Choose how it leaves'
              : 'Choose how it arrives'}
        </Button>
        {setting && (
          <IconButton
            label={leaving ? 'Remove leaving' : 'Remove arrival'}
            disabled={layer.locked}
            onClick={() => choose(null)}
          >
            <X size={14} />
          </IconButton>
        )}
      </div>
      {leaving && layer.arrive && (
        <SwitchRow
          label="Leaves as it arrived"
          hint="Goes back the way it came, with the same settings"
          on={mirrors}
          disabled={layer.locked}
          onChange={(on) => choose(on ? 'mirrors' : null)}
        />
      )}
      {setting && (
        <div className="border-l-2 border-line pl-2">
          <LengthField {...part} side={side} />
          {!mirrors && <WayFields {...part} side={side} />}
        </div>
      )}
      {choosing && (
        <ArrivalSheet
          document={document}
          shot={shot}
          layers={[layer]}
          leaving={leaving}
          onClose={() => setChoosing(false)}
          onChoose={(id) => {
            setChoosing(false);
            choose(id);
          }}
        />
      )}
    </div>
  );
}

function LengthField({ document, shot, layer, side }: LayerPart & { side: Side }) {
  const { dispatch } = useProject();
  const { rate } = document.frame;
  return (
    <SecondsField
      label="Duration"
      frames={layer[side]!.length}
      rate={rate}
      disabled={layer.locked}
      onChange={(frames) => dispatch(changeArrival(shot.id, layer.id, side, { length: frames }))}
    />
  );
}

function WayFields({ shot, layer, side }: LayerPart & { side: Side }) {
  const { dispatch } = useProject();
  const setting = layer[side]!;
  const kind = arrivalKind(setting.kind);
  if (!kind) return null;
  const { locked, source } = layer;
  const change = (next: Partial<LeaveSetting>): void => dispatch(changeArrival(shot.id, layer.id, side, next));
  const values = valuesAt(kind.settings, setting.settings, 0) as Record<string, unknown>;
  const units = unitsFor(source.kind === 'text');
  const apart = setting.by !== 'whole';
  return (
    <>
      {units.length > 1 && !kind.writes && (
        <SmallSelect
          label="By"
          value={setting.by}
          options={plainOptions(units)}
          disabled={locked}
          onChange={(by) => change({ by })}
        />
      )}
      {apart && (
        <>
          <SmallSelect
            label="Order"
            value={setting.order}
            options={plainOptions(orders)}
            disabled={locked}
            onChange={(order) => change({ order })}
          />
          <NumberField
            label="Overlap"
            unit="%"
            min={0}
            max={100}
            step={5}
            value={setting.overlap * 100}
            disabled={locked}
            onChange={(v) => change({ overlap: v / 100 })}
          />
        </>
      )}
      {!kind.ownCourse && <EasingChoice value={setting.easing} onChange={(easing) => change({ easing })} />}
      {askedOf(kind.settings, values).map(([key, one]) => (
        <SettingField
          key={key}
          setting={one}
          value={values[key]}
          disabled={locked}
          onChange={(value, gesture) => dispatch(setArrivalValues(shot.id, layer.id, side, { [key]: value }), gesture)}
        />
      ))}
      {(apart || kind.id === 'gather' || kind.id === 'flicker-on') && (
        <NumberField
          label="Seed"
          min={0}
          max={99999}
          value={setting.seed}
          disabled={locked}
          onChange={(v) => change({ seed: Math.round(v) })}
          after={<span className="size-6" />}
        />
      )}
    </>
  );
}
