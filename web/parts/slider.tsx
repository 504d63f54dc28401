interface SliderProps {
  /** What is shown beside it. */
  label: string;
  /** Full name for screen readers and the tooltip, where the label is short. */
  name?: string;
  value: number;
  min?: number;
  max: number;
  /** The value in words. */
  shown: string;
  shortcut?: string;
  onChange(value: number): void;
}

/** A value by eye, with its number beside it. */
export function Slider({ label, name = label, value, min = 1, max, shown, shortcut, onChange }: SliderProps) {
  return (
    <label className="flex items-center gap-2 text-[12px] text-ink-2">
      {label}
      <input
        type="range"
        min={min}
        max={max}
        value={value}
        aria-label={name}
        title={shortcut ? `${name} (${shortcut})` : name}
        className="min-w-0 flex-1"
        onChange={(event) => onChange(Number(event.target.value))}
      />
      <span className="min-w-7 text-right font-mono">{shown}</span>
    </label>
  );
}

/** Largest brush, CSS pixels. */
const widest = 160;

export function BrushSize({
  name,
  radius,
  onChange,
}: {
  name: string;
  radius: number;
  onChange(radius: number): void;
}) {
  return (
    <Slider
      label="Size"
      name={name}
      shortcut="[ and ]"
      min={2}
      max={widest}
      value={radius}
      shown={String(radius)}
      onChange={onChange}
    />
  );
}

/** The brush a step thinner or thicker for `[` and `]`; null for other keys. */
export function steppedRadius(key: string, radius: number): number | null {
  if (key === '[') return Math.max(2, Math.round(radius * 0.85) - 1);
  return key === ']' ? Math.min(widest, Math.round(radius * 1.18) + 1) : null;
}
