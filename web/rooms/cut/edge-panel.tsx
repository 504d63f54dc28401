import { Blend, Eraser, PaintbrushVertical, Trash2, Feather } from 'lucide-react';
import type { ReactNode } from 'react';
import { wideAndSoft, type EdgeCare } from '../../../core/cut/edge-care.ts';
import { setCare } from '../../../core/edits/project-edits.ts';
import { useProject } from '../../data/project.ts';
import { Button, IconButton } from '../../parts/button.tsx';
import { NumberField } from '../../parts/number-field.tsx';
import { BrushSize } from '../../parts/slider.tsx';
import { isEdgeBrush, type CutPanelProps, type EdgeBrush } from './cut-tools.ts';
import { PieceCheck } from './piece-check.tsx';

const brushes: { id: EdgeBrush; name: string; shortcut: string; icon: ReactNode }[] = [
  { id: 'restore', name: 'Restore', shortcut: 'R', icon: <PaintbrushVertical size={14} /> },
  { id: 'wipe', name: 'Wipe away', shortcut: 'X', icon: <Eraser size={14} /> },
  { id: 'soften', name: 'Soften', shortcut: 'E', icon: <Blend size={14} /> },
  { id: 'refine', name: 'Hair', shortcut: 'H', icon: <Feather size={14} /> },
];

const values: {
  key: keyof EdgeCare;
  label: string;
  name: string;
  min: number;
  max: number;
  unit: string;
  scale: number;
}[] = [
  { key: 'grow', label: 'Grow or shrink', name: 'Grow or shrink', min: -60, max: 60, unit: 'px', scale: 1 },
  { key: 'soften', label: 'Soften', name: 'Soften edge', min: 0, max: 200, unit: 'px', scale: 1 },
  { key: 'smooth', label: 'Smooth', name: 'Smooth edge', min: 0, max: 40, unit: 'px', scale: 1 },
  { key: 'clean', label: 'Remove tint', name: 'Remove background tint', min: 0, max: 100, unit: '%', scale: 100 },
];

/** Edge care for the whole edge, and brushes for parts of it. */
export function EdgeControls(props: CutPanelProps) {
  const { piece, session, tool, setTool, radius, setRadius } = props;
  const { dispatch } = useProject();
  if (!piece) return null;
  const { care, marks } = piece;
  const give = (name: string, next: EdgeCare): void => dispatch(setCare(name, piece.id, { care: next }));
  return (
    <section className="flex flex-col gap-1.5" aria-label="Edge">
      <h3 className="text-[13px] font-semibold">Edge</h3>
      {values.map(({ key, label, name, min, max, unit, scale }) => (
        <NumberField
          key={key}
          label={label}
          unit={unit}
          min={min}
          max={max}
          value={care[key] * scale}
          onChange={(v) => give(name, { ...care, [key]: Math.round(v) / scale })}
        />
      ))}
      <Button
        disabled={!session.pixels}
        title="For shadows and glows: cut beyond the edge and faded"
        onClick={() =>
          give('Wide and soft', wideAndSoft(care, session.pixels!.picture.width, session.pixels!.picture.height))
        }
      >
        Wide and soft
      </Button>
      <div className="grid grid-cols-2 gap-1.5">
        {brushes.map(({ id, name, shortcut, icon }) => (
          <button
            key={id}
            type="button"
            aria-pressed={tool === id}
            title={`${name} (${shortcut})`}
            onClick={() => setTool(tool === id ? null : id)}
            className={`flex h-8 items-center justify-center gap-1.5 rounded-md border text-[13px] whitespace-nowrap ${tool === id ? 'border-pine bg-pine text-white' : 'border-line bg-white hover:bg-paper-2'}`}
          >
            {icon}
            {name}
          </button>
        ))}
      </div>
      {isEdgeBrush(tool) && <BrushSize name="Brush size" radius={radius} onChange={setRadius} />}
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
