import type { ReactNode } from 'react';
import type { Setting } from '../../../../core/settings/setting.ts';
import type { Point } from '../../../../core/motion/property.ts';
import { NumberField } from '../../../parts/number-field.tsx';
import { plainOptions, SmallSelect } from '../../../parts/small-select.tsx';
import { SwitchRow } from '../../../parts/switch-row.tsx';
import { ColourField } from '../card/colour-field.tsx';

interface SettingFieldProps {
  setting: Setting;
  value: unknown;
  disabled?: boolean;
  /** The other layers a setting can name. */
  layers?: readonly { id: string; name: string }[];
  /** Changes with the same gesture are one step. */
  onChange(value: unknown, gesture?: string): void;
  /** What stands behind the field, such as the mark of a keyframe. */
  after?: ReactNode;
}

/** The field of any setting but those that are drawn: curves and marks of a brush. */
export function SettingField({ setting, value, layers, disabled = false, onChange, after }: SettingFieldProps) {
  const { name } = setting;
  const beside = after ?? <span className="size-6" />;
  switch (setting.kind) {
    case 'number': {
      const factor = setting.unit === '%' ? 100 : 1;
      const { unit, least, most } = setting;
      const short = unit === 'frames' ? 'fr' : unit;
      const digits = most - least <= 12 && factor === 1 ? 1 : 0;
      return (
        <NumberField
          label={name}
          unit={short}
          digits={digits}
          min={least * factor}
          max={most * factor}
          value={(value as number) * factor}
          disabled={disabled}
          onChange={(v) => onChange(v / factor)}
          after={beside}
        />
      );
    }
    case 'angle':
      return (
        <NumberField
          label={name}
          unit="°"
          value={value as number}
          disabled={disabled}
          onChange={onChange}
          after={beside}
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
          after={beside}
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
      return null;
  }
}
