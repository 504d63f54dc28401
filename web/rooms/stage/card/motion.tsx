import { Spline, Undo } from 'lucide-react';
import {
  followed,
  valueAt,
  type Cycle,
  type Follow,
  type Property,
  type PropertyValue,
} from '../../../../core/motion/property.ts';
import {
  changePace,
  evenSpeed,
  keyFramesOf,
  setCycle,
  setWandering,
  turnIntoKeys,
} from '../../../../core/edits/key-edits.ts';
import { propertyName } from '../../../../core/document/properties.ts';
import { animated, type Animated, type Layer } from '../../../../core/document/layer.ts';
import { layerSettings } from '../../../../core/document/layer-settings.ts';
import { useState } from 'react';
import { useProject } from '../../../data/project.ts';
import { Button } from '../../../parts/button.tsx';
import { NumberField } from '../../../parts/number-field.tsx';
import { plainOptions, SmallSelect } from '../../../parts/small-select.tsx';
import { useStage } from '../stage-state.ts';
import type { LayerPart } from './place.tsx';
import { JitterFields } from './jitter-fields.tsx';
import { shownAs } from './setting-field.tsx';
import { Section } from './section.tsx';

type AnyProperty = Property<PropertyValue>;
const cycleOptions: { value: Cycle | 'once'; name: string }[] = [
  { value: 'once', name: 'plays once' },
  { value: 'repeat', name: 'repeats' },
  { value: 'swing', name: 'swings' },
  { value: 'carry-on', name: 'continues at its speed' },
];
const wandering = ['drift', 'jitter', 'bob', 'follow'] as const;

/** Motion without keyframes, for one property at a time, and what makes a path of keyframes better. */
export function MotionSection(part: LayerPart) {
  const { layer } = part;
  const possible = animated.filter((name) => layer[name] !== null && name !== 'points' && name !== 'colour');
  const [chosen, setChosen] = useState<Animated>('position');
  const property = possible.includes(chosen) ? chosen : 'position';
  const active = animated.filter((name) => doesSomething(layer[name] as AnyProperty | null));
  return (
    <Section name="Motion" note={active.map((name) => propertyName(layer, name)).join(', ') || null}>
      <PathTools {...part} />
      <SmallSelect
        label="Without keyframes"
        value={property}
        options={possible.map((value) => ({
          value,
          name: `${propertyName(layer, value)}${active.includes(value) ? ' ·' : ''}`,
        }))}
        onChange={(value) => setChosen(value)}
      />
      <div className="border-l-2 border-line pl-2">
        <Wandering {...part} property={property} />
      </div>
    </Section>
  );
}

const doesSomething = (property: AnyProperty | null): boolean =>
  !!property && (wandering.some((kind) => property[kind] !== undefined) || ('keys' in property && !!property.cycle));

function PathTools({ shot, layer }: LayerPart) {
  const { dispatch } = useProject();
  const { tool, setTool, smoothing } = useStage();
  const keys = 'keys' in layer.position ? layer.position.keys : [];
  return (
    <>
      <Button
        className={tool === 'path' ? '!border-pine !bg-white !text-pine' : ''}
        icon={<Spline size={14} />}
        aria-pressed={tool === 'path'}
        disabled={layer.locked}
        title="Drag the layer in the view; the way of the hand becomes its path while the shot plays (D)"
        onClick={() => setTool(tool === 'path' ? 'move' : 'path')}
      >
        Draw its path
      </Button>
      <NumberField
        label="Smoothing"
        unit="px"
        min={0}
        max={200}
        value={smoothing}
        onChange={(v) => useStage.setState({ smoothing: v })}
      />
      {keyFramesOf(layer).length > 1 && (
        <div className="flex gap-1">
          <Button className="flex-1 !px-1" onClick={() => dispatch(changePace(shot.id, layer.id, 0.8))}>
            Slower
          </Button>
          <Button className="flex-1 !px-1" onClick={() => dispatch(changePace(shot.id, layer.id, 1.25))}>
            Faster
          </Button>
          <Button
            className="flex-1 !px-1"
            disabled={keys.length < 3}
            title="Keyframes move in time until the way is travelled at one speed"
            onClick={() => dispatch(evenSpeed(shot.id, layer.id))}
          >
            Even
          </Button>
        </div>
      )}
    </>
  );
}

interface WanderingProps extends LayerPart {
  property: Animated;
}

function Wandering({ document, shot, layer, property }: WanderingProps) {
  const { dispatch } = useProject();
  const { rate } = document.frame;
  const current = layer[property] as AnyProperty;
  const isPoint = typeof valueAt(current, 0) !== 'number';
  const setting = layerSettings[property];
  const { factor: percent, unit } =
    setting.kind === 'numbers' || setting.kind === 'colour' ? { factor: 1, unit: 'px' } : shownAs(setting);
  const set = <K extends (typeof wandering)[number]>(kind: K, value: AnyProperty[K] | null): void =>
    dispatch(setWandering(shot.id, layer.id, property, kind, value));
  const { drift, jitter, bob } = current;
  const numbers = (value: PropertyValue | undefined): number[] =>
    value === undefined ? (isPoint ? [0, 0] : [0]) : typeof value === 'number' ? [value] : value;
  const asValue = (list: number[]): PropertyValue => (isPoint ? list : list[0]!);
  const names = isPoint ? ['X', 'Y'] : [''];
  const anything = doesSomething(current);
  if (property === 'corners') return <p className="text-[12px] text-ink-2">Corners move by keyframes.</p>;
  return (
    <>
      {'keys' in current && current.keys.length > 1 && (
        <SmallSelect<Cycle | 'once'>
          label="Cycle"
          value={current.cycle ?? 'once'}
          options={cycleOptions}
          disabled={layer.locked}
          onChange={(cycle) => dispatch(setCycle(shot.id, layer.id, property, cycle === 'once' ? null : cycle))}
        />
      )}
      {names.map((axis, k) => (
        <NumberField
          key={`drift${axis}`}
          label={`${property === 'rotation' ? 'Spin' : 'Drift'}${axis && ` ${axis}`} per second`}
          unit={unit}
          digits={1}
          value={numbers(drift)[k]! * rate * percent}
          disabled={layer.locked}
          onChange={(v) => {
            const next = numbers(drift).map((old, n) => (n === k ? v / rate / percent : old));
            set('drift', next.every((n) => n === 0) ? null : asValue(next));
          }}
        />
      ))}
      {names.map((axis, k) => (
        <NumberField
          key={`bob${axis}`}
          label={`Bob${axis && ` ${axis}`}`}
          unit={unit}
          digits={1}
          value={numbers(bob?.amount)[k]! * percent}
          disabled={layer.locked}
          onChange={(v) => {
            const amount = numbers(bob?.amount).map((old, n) => (n === k ? v / percent : old));
            const period = bob?.period ?? rate * 2;
            const none = amount.every((n) => n === 0);
            set('bob', none ? null : { amount: asValue(amount), period, phase: bob?.phase ?? 0 });
          }}
        />
      ))}
      {bob && (
        <NumberField
          label="Period"
          unit="s"
          digits={2}
          step={0.1}
          min={1 / rate}
          max={120}
          value={bob.period / rate}
          disabled={layer.locked}
          onChange={(v) => set('bob', { ...bob, period: Math.max(1, v * rate) })}
        />
      )}
      <NumberField
        label="Jitter"
        unit={unit}
        digits={1}
        min={0}
        max={1e5}
        value={(jitter?.amount ?? 0) * percent}
        disabled={layer.locked}
        onChange={(v) =>
          set(
            'jitter',
            v === 0 ? null : { amount: v / percent, period: jitter?.period ?? rate / 3, seed: jitter?.seed ?? 1 },
          )
        }
      />
      {jitter && (
        <JitterFields jitter={jitter} rate={rate} onChange={(part) => set('jitter', { ...jitter, ...part })} />
      )}
      <Follows
        document={document}
        shot={shot}
        layer={layer}
        property={property}
        frame={0}
        onSet={(f) => set('follow', f)}
      />
      {(anything || 'keys' in current) && (
        <Button
          className="mt-1 w-full"
          icon={<Undo size={14} className="-scale-x-100" />}
          disabled={!anything || layer.locked}
          title="The same motion as keyframes, to be changed by hand"
          onClick={() => dispatch(turnIntoKeys(shot.id, layer.id, property))}
        >
          Turn into keyframes
        </Button>
      )}
    </>
  );
}

/** Another layer's property, times a factor, some time later. */
function Follows({ document, shot, layer, property, onSet }: WanderingProps & { onSet(follow: Follow | null): void }) {
  const { follow } = layer[property] as AnyProperty;
  const { rate } = document.frame;
  const others: Layer[] = shot.layers.filter((l) => l.id !== layer.id);
  return (
    <>
      <SmallSelect
        label="Follows"
        value={follow?.layer ?? ''}
        options={[{ value: '', name: 'nothing' }, ...others.map((l) => ({ value: l.id, name: l.name }))]}
        disabled={layer.locked}
        onChange={(to) =>
          onSet(to ? { layer: to, of: follow?.of ?? 'y', factor: follow?.factor ?? 1, delay: 0 } : null)
        }
      />
      {follow && (
        <>
          <SmallSelect
            label="Property"
            value={follow.of}
            options={plainOptions(followed)}
            onChange={(of) => onSet({ ...follow, of })}
          />
          <NumberField
            label="Factor"
            digits={4}
            step={0.1}
            value={follow.factor}
            onChange={(factor) => onSet({ ...follow, factor })}
          />
          <NumberField
            label="Delay"
            unit="s"
            digits={2}
            step={0.05}
            min={0}
            max={60}
            value={follow.delay / rate}
            onChange={(v) => onSet({ ...follow, delay: v * rate })}
          />
        </>
      )}
    </>
  );
}
