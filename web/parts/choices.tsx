import { RadioButton, Radios } from './radios.tsx';

interface Choice<Id extends string> {
  id: Id;
  name: string;
}

interface ChoiceProps<Id extends string, C extends Choice<Id>> {
  label: string;
  choices: readonly C[];
  chosen: Id | null;
  disabled?: boolean;
  onChoose(id: Id): void;
}

/** A few short choices side by side in one bar. */
export function ChoiceBar<Id extends string>({
  label,
  choices,
  chosen,
  disabled,
  hint,
  onChoose,
}: ChoiceProps<Id, Choice<Id>> & { hint: string }) {
  return (
    <Radios
      label={label}
      chosen={chosen}
      disabled={disabled}
      onChoose={onChoose}
      className="flex rounded-md border border-line bg-white p-0.5"
    >
      {choices.map(({ id, name }) => (
        <RadioButton
          key={id}
          value={id}
          title={`${name} (${hint})`}
          className={`rounded px-2 py-1 text-[12px] whitespace-nowrap data-disabled:text-ink-2/50 ${chosen === id && !disabled ? 'bg-pine text-white' : 'hover:bg-paper-2'}`}
        >
          {name}
        </RadioButton>
      ))}
    </Radios>
  );
}

/**
 * Choices under one another, each with a sentence of its own and, where there is one, a short mark at its right. Where there are
 * many, only that of the chosen one is shown; the others have it as a hint.
 */
export function ChoiceCards<Id extends string>({
  label,
  choices,
  chosen,
  disabled,
  many = false,
  onChoose,
}: ChoiceProps<Id, Choice<Id> & { hint: string; mark?: string }> & { many?: boolean }) {
  return (
    <Radios
      label={label}
      chosen={chosen}
      disabled={disabled}
      onChoose={onChoose}
      className={`flex flex-col ${many ? 'gap-1' : 'gap-1.5'}`}
    >
      {choices.map(({ id, name, hint, mark }) => (
        <RadioButton
          key={id}
          value={id}
          title={many && chosen !== id ? hint : undefined}
          className={`rounded-md border px-2.5 py-1 text-left ${chosen === id ? 'border-pine bg-white' : 'border-line hover:bg-paper-2'}`}
        >
          <span className="flex items-baseline justify-between">
            <span className={`text-[13px] font-medium ${chosen === id ? 'text-pine' : ''}`}>{name}</span>
            {mark && <span className="font-mono text-[11px] text-ink-2">{mark}</span>}
          </span>
          <span className={many && chosen !== id ? 'sr-only' : 'block text-[12px] text-ink-2'}>{hint}</span>
        </RadioButton>
      ))}
    </Radios>
  );
}
