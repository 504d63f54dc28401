import { Switch } from '@headlessui/react';

interface SwitchRowProps {
  label: string;
  on: boolean;
  disabled?: boolean;
  hint?: string;
  onChange(on: boolean): void;
}

/** Something that is or is not, in a row with its name. */
export function SwitchRow({ label, on, disabled, hint, onChange }: SwitchRowProps) {
  return (
    <div className="flex h-7 items-center gap-2 text-[13px]" title={hint}>
      <span className="min-w-0 flex-1 truncate text-ink-2">{label}</span>
      <Switch
        aria-label={label}
        checked={on}
        disabled={disabled}
        onChange={onChange}
        className="group flex h-5 w-9 items-center rounded-full border border-line bg-paper-2 p-0.5 data-checked:border-pine data-checked:bg-pine"
      >
        <span className="size-3.5 rounded-full bg-ink-2 transition-transform group-data-checked:translate-x-4 group-data-checked:bg-white motion-reduce:transition-none" />
      </Switch>
    </div>
  );
}
