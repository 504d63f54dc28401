import type { ReactNode } from 'react';

interface SmallSelectProps<Value extends string> {
  label: string;
  /** Null where the things it is about have several values. */
  value: Value | null;
  options: readonly { value: Value; name: string }[];
  disabled?: boolean;
  onChange(value: Value): void;
  after?: ReactNode;
}

/** No value has a space alone. */
const mixed = ' ';

/** One of a few values, in a row with its name: a long name is read whole, and the list gives way. */
export function SmallSelect<Value extends string>({
  label,
  value,
  options,
  disabled,
  onChange,
  after,
}: SmallSelectProps<Value>) {
  return (
    <label className="flex h-7 items-center gap-2 text-[13px]">
      <span className="min-w-0 flex-auto truncate text-ink-2">{label}</span>
      <select
        aria-label={label}
        className={`${after ? 'w-23' : 'w-28'} min-w-18 shrink-[1000] rounded-md border border-line bg-white px-1.5 py-0.5 text-[12px]`}
        value={value ?? mixed}
        disabled={disabled}
        onChange={(event) => onChange(event.target.value as Value)}
      >
        {value === null && (
          <option value={mixed} disabled>
            mixed
          </option>
        )}
        {options.map((option) => (
          <option key={option.value} value={option.value}>
            {option.name}
          </option>
        ))}
      </select>
      {after}
    </label>
  );
}

/** Names that are their own values. */
export const plainOptions = <Value extends string>(values: readonly Value[]): { value: Value; name: string }[] =>
  values.map((value) => ({ value, name: value }));
