import { useRef, useState } from 'react';
import { longestName } from '../../core/document/schema-parts.ts';
import { useTakenOnPress } from './taken-on-press.ts';

interface NameFieldProps {
  label: string;
  value: string;
  onChange(value: string): void;
  className?: string;
  autoFocus?: boolean;
  /** Called when the field is left. */
  onDone?(): void;
}

/** A name that can be clicked and typed over; taken on Enter or when left, given back on Escape. */
export function NameField({ label, value, onChange, className = '', autoFocus, onDone }: NameFieldProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const give = (): void => {
    if (typed !== null && typed.trim() && typed !== value) onChange(typed.trim());
    setTyped(null);
    onDone?.();
  };
  const field = useRef<HTMLInputElement>(null);
  useTakenOnPress(field, typed !== null, give);
  return (
    <input
      ref={field}
      aria-label={label}
      autoFocus={autoFocus}
      title={label}
      className={`min-w-0 truncate rounded-md border border-transparent bg-transparent px-1.5 py-0.5 hover:border-line focus:border-pine focus:bg-white ${className}`}
      value={typed ?? value}
      maxLength={longestName}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={give}
      onKeyDown={(event) => {
        if (event.key === 'Enter') event.currentTarget.blur();
        if (event.key === 'Escape') {
          setTyped(null);
          onDone?.();
        }
      }}
    />
  );
}
