import type { ReactNode } from 'react';
import { useStage, type Tool } from '../stage-state.ts';

interface ToolRowProps {
  label: string;
  tool: Tool;
  /** What the button says. */
  name: string;
  disabled: boolean;
  after: ReactNode;
}

/** A way to work in the view, taken up and put down again. */
export function ToolRow({ label, tool, name, disabled, after }: ToolRowProps) {
  const { tool: held, setTool } = useStage();
  const chosen = held === tool;
  return (
    <div className="flex h-8 items-center gap-1 text-[13px] text-ink-2">
      <span className="flex-1">{label}</span>
      <button
        type="button"
        aria-pressed={chosen}
        disabled={disabled}
        onClick={() => setTool(chosen ? 'move' : tool)}
        className={`h-7 rounded-md border px-2 text-[12px] ${chosen ? 'border-pine bg-white text-pine' : 'border-line hover:bg-paper-2'}`}
      >
        {name}
      </button>
      {after}
    </div>
  );
}
