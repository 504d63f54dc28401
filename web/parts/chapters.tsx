import type { ReactNode } from 'react';

interface ChaptersProps<Id extends string> {
  chapters: readonly { id: Id; name: string; hint: string }[];
  open: Id;
  onOpen(id: Id): void;
  /** Whether hints are left out, once the user knows their way. */
  compact?: boolean;
  children: ReactNode;
}

/** Ways to do something, under one another; the open one shows its few controls in place. */
export function Chapters<Id extends string>({ chapters, open, onOpen, compact = false, children }: ChaptersProps<Id>) {
  return (
    <div className={`flex flex-col ${compact ? 'gap-1' : 'gap-1.5'}`}>
      {chapters.map(({ id, name, hint }) => (
        <section key={id} className={`rounded-md border ${open === id ? 'border-pine bg-white/70' : 'border-line'}`}>
          <button
            type="button"
            aria-expanded={open === id}
            onClick={() => onOpen(id)}
            title={hint}
            className={`w-full px-2.5 text-left hover:bg-paper-2 ${compact ? 'py-1' : 'py-1.5'}`}
          >
            <span className={`block text-[13px] font-medium ${open === id ? 'text-pine' : ''}`}>{name}</span>
            {open !== id && !compact && <span className="block text-[12px] text-ink-2">{hint}</span>}
          </button>
          {open === id && <div className="flex flex-col gap-2 px-2.5 pb-2.5">{children}</div>}
        </section>
      ))}
    </div>
  );
}
