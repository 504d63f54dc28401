import { ChevronRight } from 'lucide-react';
import type { ReactNode } from 'react';
import { useStage } from '../stage-state.ts';

interface SectionProps {
  name: string;
  /** A short word on what is set in it, seen while it is closed. */
  note?: string | null;
  children: ReactNode;
}

/** A part of the card that can be folded away; which ones are open stays so from layer to layer. */
export function Section({ name, note, children }: SectionProps) {
  const open = useStage((state) => state.sections.includes(name));
  const toggle = useStage((state) => state.toggleSection);
  return (
    <section className="border-t border-line py-1.5 first:border-t-0">
      <button
        type="button"
        aria-expanded={open}
        onClick={() => toggle(name)}
        className="flex h-7 w-full items-center gap-1 rounded-md text-left text-[13px] font-semibold text-pine hover:bg-paper-2"
      >
        <ChevronRight size={14} className={open ? 'rotate-90' : ''} />
        {name}
        {!open && note && <span className="ml-auto truncate pr-1 text-[12px] font-normal text-ink-2">{note}</span>}
      </button>
      {open && <div className="flex flex-col gap-0.5 pt-0.5">{children}</div>}
    </section>
  );
}
