import type { MouseEvent } from 'react';
import { ShortenedName } from '../../../parts/shortened-name.tsx';

export const labelWidth = 150;
export const rowHeight = 24;

/** Where frames lie on the track. */
export interface Track {
  across(frame: number): number;
  frameAt(clientX: number): number;
  /** The same, but caught by what is heard close by: a beat, or where something starts. */
  caughtAt(clientX: number): number;
  width: number;
}

/** A row with its name at the left and its track at the right. */
export function TrackRow({
  name,
  chosen,
  onName,
  children,
}: {
  name: string;
  chosen?: boolean;
  onName?: (event: MouseEvent) => void;
  children: React.ReactNode;
}) {
  const look = `flex w-full items-center truncate px-3 text-left text-[12px] ${chosen ? 'text-pine' : 'text-ink-2'}`;
  return (
    <div className="flex shrink-0 border-b border-line" style={{ height: rowHeight }}>
      <div className="flex shrink-0 border-r border-line" style={{ width: labelWidth }}>
        {onName ? (
          <button type="button" className={look} onClick={onName}>
            <ShortenedName name={name} />
          </button>
        ) : (
          <span className={look}>
            <ShortenedName name={name} />
          </span>
        )}
      </div>
      <div className="relative min-w-0 flex-1 overflow-x-clip">{children}</div>
    </div>
  );
}
