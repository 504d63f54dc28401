import { Circle, Pentagon, PenTool, Spline, Square, SquareRoundCorner, Workflow } from 'lucide-react';
import type { ReactNode } from 'react';
import { Button, IconButton } from '../../../parts/button.tsx';
import { ChoiceBar } from '../../../parts/choices.tsx';
import { NumberField } from '../../../parts/number-field.tsx';
import { Slider } from '../../../parts/slider.tsx';
import type { CutPanelProps, OutlineTool } from '../cut-tools.ts';
import { ShapeList } from './shape-list.tsx';

const modes = [
  { id: 'cling', name: 'Clinging' },
  { id: 'straight', name: 'Straight' },
] as const;

/** An outline drawn around something, clinging to its edge. */
export function OutlineControls(props: CutPanelProps) {
  const { session, tool, setTool, outline, setOutline } = props;
  return (
    <>
      <Button
        look={tool === 'outline' ? 'plain' : 'primary'}
        icon={<Spline size={15} />}
        aria-pressed={tool === 'outline'}
        className={tool === 'outline' ? 'border-pine text-pine' : ''}
        disabled={!session.pixels}
        title="Draw an outline (O)"
        onClick={() => setTool(tool === 'outline' ? null : 'outline')}
      >
        Draw an outline
      </Button>
      <ChoiceBar
        label="Between clicks"
        choices={modes}
        chosen={outline.mode}
        hint="between clicks"
        onChoose={(mode) => setOutline({ mode })}
      />
      {outline.mode === 'cling' && (
        <Slider
          label="Cling"
          name="How far it clings to edges"
          min={0}
          max={100}
          value={Math.round(outline.strength * 100)}
          shown={`${Math.round(outline.strength * 100)} %`}
          onChange={(v) => setOutline({ strength: v / 100 })}
        />
      )}
      <ShapeList {...props} />
    </>
  );
}

const tools: { id: OutlineTool; name: string; shortcut?: string; icon: ReactNode }[] = [
  { id: 'pen', name: 'Path', shortcut: 'P', icon: <PenTool size={16} /> },
  { id: 'ellipse', name: 'Ellipse', icon: <Circle size={16} /> },
  { id: 'rectangle', name: 'Rectangle', icon: <Square size={16} /> },
  { id: 'rounded', name: 'Rounded rectangle', icon: <SquareRoundCorner size={16} /> },
  { id: 'polygon', name: 'Polygon', icon: <Pentagon size={16} /> },
];

/** Paths point by point, and simple forms; all of them can be changed afterwards. */
export function ShapeControls(props: CutPanelProps) {
  const { session, tool, setTool, outline, setOutline, shapes } = props;
  return (
    <>
      <div className="flex items-center gap-1" role="group" aria-label="New shape">
        {tools.map(({ id, name, shortcut, icon }) => (
          <IconButton
            key={id}
            label={name}
            shortcut={shortcut}
            pressed={tool === id}
            disabled={!session.pixels}
            onClick={() => setTool(tool === id ? null : id)}
          >
            {icon}
          </IconButton>
        ))}
        <IconButton
          label="Change points"
          shortcut="A"
          className="ml-auto"
          pressed={tool === 'points'}
          disabled={shapes.length === 0}
          onClick={() => setTool(tool === 'points' ? null : 'points')}
        >
          <Workflow size={16} />
        </IconButton>
      </div>
      {tool === 'polygon' && (
        <NumberField
          label="Corners"
          value={outline.sides}
          min={3}
          max={24}
          onChange={(v) => setOutline({ sides: Math.round(v) })}
        />
      )}
      <ShapeList {...props} />
    </>
  );
}
