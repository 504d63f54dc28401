import { NumberField } from './number-field.tsx';

interface SecondsFieldProps {
  label: string;
  /** Frames, and how many of them a second has. */
  frames: number;
  rate: number;
  onChange(frames: number): void;
  /** Frames it has at least; seconds it has at most. */
  least?: number;
  most?: number;
  step?: number;
  disabled?: boolean;
  mixed?: boolean;
}

/** A time that is kept in whole frames and typed in seconds. */
export function SecondsField({
  label,
  frames,
  rate,
  onChange,
  least = 1,
  most = 120,
  step = 0.1,
  disabled,
  mixed,
}: SecondsFieldProps) {
  return (
    <NumberField
      label={label}
      unit="s"
      digits={2}
      step={step}
      min={least / rate}
      max={most}
      value={frames / rate}
      disabled={disabled}
      mixed={mixed}
      onChange={(seconds) => onChange(Math.max(least, Math.round(seconds * rate)))}
    />
  );
}
