import { useEffect, useEffectEvent, useRef, useState, type ReactNode } from 'react';
import { filesOfDrop } from './files-of-drop.ts';

interface DropAreaProps {
  onFiles(files: File[]): void;
  hint: string;
  className?: string;
  children(choose: () => void): ReactNode;
}

/** Takes pictures that are dropped anywhere on it, pasted, or chosen in a dialog. */
export function DropArea({ onFiles, hint, className = '', children }: DropAreaProps) {
  const [over, setOver] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const onPaste = useEffectEvent((event: ClipboardEvent) => {
    const files = [...(event.clipboardData?.files ?? [])];
    if (files.length > 0) onFiles(files);
  });
  useEffect(() => {
    const listener = (event: ClipboardEvent): void => onPaste(event);
    window.addEventListener('paste', listener);
    return () => window.removeEventListener('paste', listener);
  }, []);
  return (
    <div
      className={`relative ${className}`}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={(event) => {
        if (!event.currentTarget.contains(event.relatedTarget as Node | null)) setOver(false);
      }}
      onDrop={(event) => {
        event.preventDefault();
        setOver(false);
        void filesOfDrop(event.dataTransfer).then((files) => files.length > 0 && onFiles(files));
      }}
    >
      <input
        ref={input}
        type="file"
        accept="image/jpeg,image/png,image/webp,image/avif,image/gif,image/tiff,video/mp4,video/webm,video/quicktime,application/zip,image/openraster,.ora"
        multiple
        className="hidden"
        aria-label="Choose pictures"
        onChange={(event) => {
          onFiles([...(event.target.files ?? [])]);
          event.target.value = '';
        }}
      />
      {children(() => input.current?.click())}
      {over && (
        <div className="pointer-events-none absolute inset-3 z-20 flex items-center justify-center rounded-xl border-2 border-dashed border-pine bg-paper/85 text-lg font-medium text-pine">
          {hint}
        </div>
      )}
    </div>
  );
}
