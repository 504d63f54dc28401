import type { ReactNode } from 'react';
import type { Setting } from '../../../../core/settings/setting.ts';
import type { Point } from '../../../../core/motion/property.ts';
import { NumberField } from '../../../parts/number-field.tsx';
import { plainOptions, SmallSelect } from '../../../parts/small-select.tsx';
import { SwitchRow } from '../../../parts/switch-row.tsx';
import { ColourField } from './colour-field.tsx';

interface SettingFieldProps {
  setting: Setting;
  value: unknown;
  disabled?: boolean;
  /** Whether the things it is about have several values. */
  mixed?: boolean;
  /** Frames of a second, for what is stored in frames and shown in seconds. */
  rate?: number;
  /** How far from 0 the numbers of a point may be. */
  reach?: number;
  /** The other layers a setting can name. */
  layers?: readonly { id: string; name: string }[];
  /** Changes with the same gesture are one step. */
  onChange(value: unknown, gesture?: string): void;
  /** What stands behind the field, such as the mark of a keyframe; null leaves no room for one. */
  after?: ReactNode;
}

type NumberSetting = Extract<Setting, { kind: 'number' | 'angle' | 'point' }>;

/** How the number of a setting is shown: times a factor, in a unit, with so many digits. */
export function shownAs(setting: NumberSetting, rate = 1): { factor: number; unit: string; digits: number } {
  if (setting.kind !== 'number')
    return { factor: 1, unit: setting.kind === 'angle' ? '°' : 'px', digits: setting.digits ?? 0 };
  const { unit, least, most } = setting;
  const factor = unit === '%' ? 100 : unit === 's' ? 1 / rate : 1;
  const few = most - least <= 12 && factor === 1;
  return { factor, unit: unit === 'frames' ? 'fr' : unit, digits: setting.digits ?? (few ? 1 : 0) };
}

/** The field of any setting but those that are drawn: curves, marks of a brush, and numbers set in the view. */
export function SettingField(props: SettingFieldProps) {
  const { setting, value, layers, disabled = false, mixed, rate, reach = Infinity, onChange, after } = props;
  const { name } = setting;
  const beside = after ?? <span className="size-6" />;
  switch (setting.kind) {
    case 'number': {
      const { factor, unit, digits } = shownAs(setting, rate);
      const { least, most, step } = setting;
      return (
        <NumberField
          label={name}
          unit={unit}
          digits={digits}
          step={step}
          min={least * factor}
          max={most * factor}
          value={(value as number) * factor}
          disabled={disabled}
          mixed={mixed}
          onChange={(v) => onChange(Math.max(least, Math.min(most, v / factor)))}
          after={after === null ? undefined : beside}
        />
      );
    }
    case 'angle':
      return (
        <NumberField
          label={name}
          unit="°"
          digits={setting.digits}
          step={setting.step}
          value={value as number}
          disabled={disabled}
          mixed={mixed}
          onChange={onChange}
          after={after === null ? undefined : beside}
        />
      );
    case 'seed':
      return (
        <NumberField
          label={name}
          min={0}
          max={9999}
          value={value as number}
          disabled={disabled}
          onChange={(v) => onChange(Math.round(v))}
          after={beside}
        />
      );
    case 'colour':
      return (
        <ColourField
          label={name}
          value={value as number[]}
          disabled={disabled}
          onChange={(colour, gesture) => onChange(colour, gesture)}
          after={beside}
        />
      );
    case 'point': {
      const { unit, digits } = shownAs(setting);
      const [x, y] = value as Point;
      return (
        <>
          {setting.axes.map((axis, k) => (
            <NumberField
              key={axis}
              label={axis}
              unit={unit}
              digits={digits}
              min={-reach}
              max={reach}
              value={k === 0 ? x : y}
              disabled={disabled}
              onChange={(v) => onChange(k === 0 ? [v, y] : [x, v])}
              after={k === 0 ? beside : <span className="size-6" />}
            />
          ))}
        </>
      );
    }
    case 'place': {
      const at = value as Point;
      return (
        <>
          {(['X', 'Y'] as const).map((axis, k) => (
            <NumberField
              key={axis}
              label={`${name} ${axis}`}
              unit="%"
              value={at[k]! * 100}
              disabled={disabled}
              onChange={(v) => onChange(at.map((old, n) => (n === k ? v / 100 : old)))}
              after={k === 0 ? beside : <span className="size-6" />}
            />
          ))}
        </>
      );
    }
    case 'choice':
      return (
        <SmallSelect
          label={name}
          value={value as string}
          options={plainOptions(setting.options)}
          disabled={disabled}
          onChange={onChange}
          after={after === null ? undefined : beside}
        />
      );
    case 'switch':
      return <SwitchRow label={name} on={value as boolean} disabled={disabled} onChange={onChange} />;
    case 'layer':
      return (
        <SmallSelect
          label={name}
          value={value as string}
          options={[{ value: '', name: 'nothing' }, ...(layers ?? []).map((l) => ({ value: l.id, name: l.name }))]}
          disabled={disabled}
          onChange={onChange}
          after={beside}
        />
      );
    case 'curve':
    case 'strokes':
    case 'numbers':
      return null;
  }
}
