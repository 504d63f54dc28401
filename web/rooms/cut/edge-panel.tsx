import { Eraser, PaintbrushVertical, Trash2 } from 'lucide-react';
import { setCare } from '../../../core/scene/project-edits.ts';
import { useProject } from '../../data/project.ts';
import { IconButton } from '../../parts/button.tsx';
import { NumberField } from '../../parts/number-field.tsx';
import { BrushSize } from '../../parts/slider.tsx';
import type { CutPanelProps } from './cut-tools.ts';
import { PieceCheck } from './piece-check.tsx';

/** Edge care: grow or shrink, soften, and brushes on alpha itself for the last pixels. */
export function EdgeControls(props: CutPanelProps) {
  const { piece, tool, setTool, radius, setRadius } = props;
  const { dispatch } = useProject();
  if (!piece) return null;
  const { care, marks } = piece;
  const brush = (kind: 'restore' | 'wipe', label: string, shortcut: string) => (
    <button
      type="button"
      aria-pressed={tool === kind}
      title={`${label} (${shortcut})`}
      onClick={() => setTool(tool === kind ? null : kind)}
      className={`flex h-8 items-center justify-center gap-1.5 rounded-md border text-[13px] whitespace-nowrap ${tool === kind ? 'border-pine bg-pine text-white' : 'border-line bg-white hover:bg-paper-2'}`}
    >
      {kind === 'restore' ? <PaintbrushVertical size={14} /> : <Eraser size={14} />}
      {label}
    </button>
  );
  return (
    <section className="flex flex-col gap-1.5" aria-label="Edge">
      <h3 className="text-[13px] font-semibold">Edge</h3>
      <NumberField
        label="Grow or shrink"
        unit="px"
        min={-60}
        max={60}
        value={care.grow}
        onChange={(grow) =>
          dispatch(setCare('Grow or shrink', piece.id, { care: { ...care, grow: Math.round(grow) } }))
        }
      />
      <NumberField
        label="Soften"
        unit="px"
        min={0}
        max={200}
        value={care.soften}
        onChange={(soften) => dispatch(setCare('Soften edge', piece.id, { care: { ...care, soften } }))}
      />
      <div className="grid grid-cols-2 gap-1.5">
        {brush('restore', 'Restore', 'R')}
        {brush('wipe', 'Wipe away', 'X')}
      </div>
      {(tool === 'restore' || tool === 'wipe') && <BrushSize name="Brush size" radius={radius} onChange={setRadius} />}
      {marks.length > 0 && (
        <div className="flex items-center justify-between text-[12px] text-ink-2">
          <span>
            {marks.length} {marks.length === 1 ? 'brush stroke' : 'brush strokes'}
          </span>
          <IconButton
            label="Remove all brush strokes"
            onClick={() => dispatch(setCare('Remove brush strokes', piece.id, { marks: [] }))}
          >
            <Trash2 size={14} />
          </IconButton>
        </div>
      )}
      <PieceCheck key={piece.id} {...props} piece={piece} />
    </section>
  );
}
