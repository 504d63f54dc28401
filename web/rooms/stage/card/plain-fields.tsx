import type { PlainSettings, ValueOf } from '../../../../core/settings/setting.ts';
import { SettingField } from './setting-field.tsx';

type PlainValues<S extends PlainSettings> = { -readonly [K in keyof S]: ValueOf<S[K]> };

interface PlainFieldsProps<S extends PlainSettings> {
  settings: S;
  values: PlainValues<S>;
  /** Frames of a second, where something lasts. */
  rate?: number;
  disabled?: boolean;
  /** Whether fields beside them have marks of keyframes. */
  besideMarks?: boolean;
  onChange(change: Partial<PlainValues<S>>): void;
}

/** A field for each of some settings that have no keys. */
export function PlainFields<S extends PlainSettings>(props: PlainFieldsProps<S>) {
  const { settings, values, rate, disabled, besideMarks, onChange } = props;
  return Object.entries(settings).map(([key, setting]) => (
    <SettingField
      key={key}
      setting={setting}
      value={values[key]}
      rate={rate}
      disabled={disabled}
      onChange={(value) => onChange({ [key]: value } as Partial<PlainValues<S>>)}
      after={besideMarks ? undefined : null}
    />
  ));
}
