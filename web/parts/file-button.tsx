import { useRef, type ReactNode } from 'react';
import { notify, sentenceOf } from '../data/notices.ts';
import { Button } from './button.tsx';

interface FileButtonProps {
  /** Name of the hidden field, for screen readers. */
  label: string;
  /** What the button does, where its word is too short to say it. */
  name?: string;
  accept: string;
  icon: ReactNode;
  disabled?: boolean;
  className?: string;
  children: ReactNode;
  onFile(file: File): Promise<void>;
}

/** A button that takes one file; what goes wrong with it is told with its name. */
export function FileButton({ label, name, accept, onFile, ...button }: FileButtonProps) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button {...button} title={name} aria-label={name} onClick={() => input.current!.click()} />
      <input
        ref={input}
        type="file"
        accept={accept}
        className="hidden"
        aria-label={label}
        onChange={(event) => {
          const file = event.target.files?.[0];
          event.target.value = '';
          if (file) onFile(file).catch((error: unknown) => notify('problem', `${file.name}: ${sentenceOf(error)}`));
        }}
      />
    </>
  );
}
