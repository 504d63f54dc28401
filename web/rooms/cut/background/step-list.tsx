import { Trash2 } from 'lucide-react';
import { stepNames, type PlateStep } from '../../../../core/document/plate.ts';
import { IconButton } from '../../../parts/button.tsx';

interface StepListProps {
  steps: readonly PlateStep[];
  open: string | null;
  busy: boolean;
  onOpen(id: string): void;
  onRemove(id: string): void;
}

const detailOf = (step: PlateStep): string => {
  if (step.kind === 'widen') {
    const { left, top, right, bottom } = step.pad;
    return [left && `${left} left`, top && `${top} above`, right && `${right} right`, bottom && `${bottom} below`]
      .filter(Boolean)
      .join(', ');
  }
  if (step.kind === 'retouch') return `${step.touches.length} ${step.touches.length === 1 ? 'mark' : 'marks'}`;
  const takes = Math.max(1, step.takes.length);
  const index = step.takes.findIndex((t) => t.seed === step.seed);
  return takes > 1 && index >= 0 ? `take ${index + 1} of ${takes}` : '';
};

/** The steps from the picture to its background, in the order they are carried out. */
export function StepList({ steps, open, busy, onOpen, onRemove }: StepListProps) {
  if (steps.length === 0)
    return <p className="px-3 text-[12px] text-ink-2">As it came. What you do here is kept as steps.</p>;
  return (
    <ol className="flex flex-col gap-1 px-3" aria-label="Steps">
      {steps.map((step, k) => (
        <li
          key={step.id}
          className={`flex items-center rounded-md border ${step.id === open ? 'border-pine bg-white' : 'border-line'}`}
        >
          <button
            type="button"
            aria-pressed={step.id === open}
            className="min-w-0 flex-1 px-2 py-1 text-left"
            onClick={() => onOpen(step.id)}
          >
            <span className="block truncate text-[13px]">
              <span className="font-mono text-[11px] text-ink-2">{k + 1}</span> {stepNames[step.kind]}
            </span>
            {detailOf(step) && <span className="block truncate text-[12px] text-ink-2">{detailOf(step)}</span>}
          </button>
          {step.kind !== 'behind' && (
            <IconButton label={`Delete step ${k + 1}`} disabled={busy} onClick={() => onRemove(step.id)}>
              <Trash2 size={14} className="text-brick" />
            </IconButton>
          )}
        </li>
      ))}
    </ol>
  );
}
