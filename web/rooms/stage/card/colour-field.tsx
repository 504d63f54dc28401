import { Pipette } from 'lucide-react';
import { useRef, useState, type ReactNode } from 'react';
import { IconButton } from '../../../parts/button.tsx';
import { useStage } from '../stage-state.ts';

interface ColourFieldProps {
  label: string;
  /** Red, green, blue 0..255 and alpha 0..1. */
  value: readonly number[];
  disabled?: boolean;
  /** `gesture` is the same for all changes of one choice. */
  onChange(value: number[], gesture: string): void;
  after?: ReactNode;
}

const twoDigits = (v: number): string => Math.round(v).toString(16).padStart(2, '0');
export const hexOf = (colour: readonly number[]): string => `#${colour.slice(0, 3).map(twoDigits).join('')}`;

/** A colour, chosen with the browser's own picker, with its opacity beside it. */
export function ColourField({ label, value, disabled, onChange, after }: ColourFieldProps) {
  const gesture = useRef('');
  const [typed, setTyped] = useState<string | null>(null);
  const alpha = value[3] ?? 1;
  return (
    <label className="flex h-7 items-center gap-2 text-[13px]">
      <span className="min-w-0 flex-1 truncate text-ink-2">{label}</span>
      <input
        aria-label={`${label} opacity`}
        className="w-10 rounded-md border border-line bg-white px-1 py-0.5 text-right font-mono text-[12px]"
        inputMode="numeric"
        disabled={disabled}
        value={typed ?? String(Math.round(alpha * 100))}
        onFocus={() => (gesture.current = String(Date.now()))}
        // Taken as it is typed: pressing another layer leaves nothing behind.
        onChange={(event) => {
          setTyped(event.target.value);
          const share = Number(event.target.value) / 100;
          if (event.target.value.trim() !== '' && share >= 0 && share <= 1)
            onChange([...value.slice(0, 3), share], gesture.current);
        }}
        onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
        onBlur={() => setTyped(null)}
      />
      <input
        type="color"
        aria-label={label}
        className="h-6 w-9 rounded-md border border-line bg-white p-0.5"
        value={hexOf(value)}
        disabled={disabled}
        onFocus={() => (gesture.current = String(Date.now()))}
        onChange={(event) => {
          const hex = event.target.value;
          const part = (k: number): number => parseInt(hex.slice(1 + 2 * k, 3 + 2 * k), 16);
          onChange([part(0), part(1), part(2), alpha], gesture.current);
        }}
      />
      <IconButton
        label={`Take ${label} from the view`}
        className="!size-6"
        disabled={disabled}
        onClick={() => useStage.setState({ pick: (rgb) => onChange([...rgb, alpha], `pick ${Date.now()}`) })}
      >
        <Pipette size={13} />
      </IconButton>
      {after}
    </label>
  );
}
