import { Radio, RadioGroup } from '@headlessui/react';
import type { MouseEvent, ReactNode } from 'react';

interface RadiosProps<Value> {
  label: string;
  chosen: Value | null;
  disabled?: boolean;
  className?: string;
  children: ReactNode;
  onChoose(value: Value): void;
}

/** Choices of which one is chosen: Tab goes to that one, arrows from it to the others. */
export function Radios<Value>({ label, chosen, disabled, className, children, onChoose }: RadiosProps<Value>) {
  return (
    <RadioGroup
      aria-label={label}
      value={chosen}
      disabled={disabled}
      className={className}
      onClick={leaveKeysToRoom}
      onChange={(value: Value | null) => value !== null && onChoose(value)}
    >
      {children}
    </RadioGroup>
  );
}

/** After a press of the pointer arrows move what is chosen in the room, and not the choice. */
function leaveKeysToRoom({ detail, currentTarget }: MouseEvent<HTMLElement>): void {
  const { activeElement } = currentTarget.ownerDocument;
  if (detail > 0 && activeElement instanceof HTMLElement && currentTarget.contains(activeElement)) activeElement.blur();
}

interface RadioButtonProps<Value> {
  value: Value;
  disabled?: boolean;
  label?: string;
  title?: string;
  className: string;
  children?: ReactNode;
}

export function RadioButton<Value>({ label, ...props }: RadioButtonProps<Value>) {
  return <Radio as="button" type="button" aria-label={label} {...props} />;
}
