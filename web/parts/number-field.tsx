import { useRef, useState, type KeyboardEvent, type ReactNode } from 'react';
import { useTakenOnPress } from './taken-on-press.ts';

interface NumberFieldProps {
  label: string;
  value: number;
  onChange(value: number): void;
  unit?: string;
  step?: number;
  min?: number;
  max?: number;
  digits?: number;
  disabled?: boolean;
  /** Whether the things it is about have several values; typing gives all of them one. */
  mixed?: boolean;
  after?: ReactNode;
}

/** A number to type; arrow keys step, with Shift ten times as far. Taken on Enter, or when the field is left. */
export function NumberField({
  label,
  value,
  onChange,
  unit,
  step = 1,
  min = -Infinity,
  max = Infinity,
  digits = 0,
  disabled,
  mixed,
  after,
}: NumberFieldProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const shown = typed ?? (mixed ? '' : String(Number(value.toFixed(digits))));
  const take = (text: string): void => {
    // Where nothing stands nothing is meant: several values stay several.
    if (text.trim() !== '') give(Number(text.replace(',', '.')));
    setTyped(null);
  };
  const give = (number: number): void => {
    setTyped(null);
    if (Number.isFinite(number)) onChange(Math.max(min, Math.min(max, Number(number.toFixed(digits + 2)))));
  };
  const field = useRef<HTMLInputElement>(null);
  useTakenOnPress(field, typed !== null, () => take(shown));
  const keyDown = (event: KeyboardEvent<HTMLInputElement>): void => {
    if (event.key === 'Enter') take(shown);
    else if (event.key === 'Escape') {
      // What was typed is taken back first; then the field is left.
      if (typed === null) event.currentTarget.blur();
      setTyped(null);
    } else if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
      event.preventDefault();
      give(value + (event.key === 'ArrowUp' ? 1 : -1) * step * (event.shiftKey ? 10 : 1));
    } else return;
    event.stopPropagation();
  };
  return (
    <label className="flex h-7 items-center gap-2 text-[13px]">
      <span className="min-w-0 flex-1 truncate text-ink-2">{label}</span>
      <span className="flex items-center rounded-md border border-line bg-white focus-within:border-pine">
        <input
          ref={field}
          className="w-16 bg-transparent px-1.5 py-0.5 text-right font-mono text-[12px] outline-none disabled:text-ink-2/60"
          aria-label={label}
          title={limitsOf(min, max, unit)}
          inputMode="decimal"
          value={shown}
          placeholder={mixed ? 'mixed' : undefined}
          disabled={disabled}
          onChange={(event) => setTyped(event.target.value)}
          onBlur={() => typed !== null && take(typed)}
          onKeyDown={keyDown}
        />
        <span className="w-5 pr-1 font-mono text-[11px] text-ink-2">{unit}</span>
      </span>
      {after}
    </label>
  );
}

/** What may be typed, for the tooltip; nothing where there is no limit. */
function limitsOf(min: number, max: number, unit = ''): string | undefined {
  const end = (value: number): string => `${Number(value.toFixed(2))}${unit && ` ${unit}`}`;
  if (Number.isFinite(min) && Number.isFinite(max)) return `${Number(min.toFixed(2))} to ${end(max)}`;
  if (Number.isFinite(min)) return `At least ${end(min)}`;
  return Number.isFinite(max) ? `At most ${end(max)}` : undefined;
}
