import type { ReactNode } from 'react';
import { LocateFixed, Minus, Plus, Sparkle, SquareDashed, Trash2 } from 'lucide-react';
import type { SubjectRecipe } from '../../../core/document/recipe.ts';
import { Button, IconButton } from '../../parts/button.tsx';
import { ChoiceCards } from '../../parts/choices.tsx';
import { BrushSize } from '../../parts/slider.tsx';
import { SwitchRow } from '../../parts/switch-row.tsx';
import { FigureControls } from './figure-controls.tsx';
import { MaskIn } from './piece-files.tsx';
import { emptyRecipe, type CutPanelProps, type CutTool } from './cut-tools.ts';

const answers: { id: SubjectRecipe['answer']; name: string; hint: string }[] = [
  { id: 'subject', name: 'Subject only', hint: 'The thing that stands out' },
  { id: 'foreground', name: 'Whole foreground', hint: 'Everything near, with its ground' },
];

const withoutPlace = ({ kind, answer, keep, drop, box }: SubjectRecipe): SubjectRecipe => ({
  kind,
  answer,
  keep,
  drop,
  box,
});

/** The one-press answer, a box around it, and the strokes that correct it. */
export function SubjectControls(props: CutPanelProps) {
  const { piece, session, tool, setTool, radius, setRadius, beginSubject, changeSubject, step } = props;
  const recipe = props.subject;
  const figure = props.recipe?.kind === 'figure' ? props.recipe : null;
  const strokes = recipe ? recipe.keep.length + recipe.drop.length : 0;
  const find = (answer: SubjectRecipe['answer']): void => {
    if (recipe?.answer !== answer) beginSubject({ ...(recipe ?? emptyRecipe), answer }, 'Find subject');
  };
  return (
    <>
      {!piece && (
        <Button
          look="primary"
          icon={<Sparkle size={15} />}
          title="Find subject (F)"
          disabled={!session.pixels}
          onClick={() => find('subject')}
        >
          Find subject
        </Button>
      )}
      {!piece && <p className="text-[12px] text-ink-2">Or press on the thing in the picture.</p>}
      <ChoiceCards
        label="Answer"
        choices={answers}
        chosen={recipe?.answer ?? null}
        disabled={!session.pixels}
        onChoose={find}
      />
      <PlaceTool
        {...props}
        kind="box"
        icon={<SquareDashed size={14} />}
        title="Drag a box around it (B)"
        remove="Remove the box"
        onRemove={recipe?.box ? () => changeSubject({ ...recipe, box: null }, 'Remove box') : null}
      >
        Box around it
      </PlaceTool>
      <PlaceTool
        {...props}
        kind="point"
        icon={<LocateFixed size={14} />}
        title="Press on the thing that is meant, of several (I)"
        remove="Find what stands out instead"
        onRemove={recipe?.at ? () => changeSubject(withoutPlace(recipe), 'Find subject') : null}
      >
        Point at it
      </PlaceTool>
      {!props.moving && <MaskIn {...props} />}
      <div className="grid grid-cols-2 gap-1.5">
        <StrokeButton kind="keep" tool={tool} setTool={setTool} disabled={!recipe} />
        <StrokeButton kind="drop" tool={tool} setTool={setTool} disabled={!recipe} />
      </div>
      <BrushSize name="Stroke size" radius={radius} onChange={setRadius} />
      <SwitchRow
        label="Stay within edges"
        hint="A broad stroke marks only what its middle runs along"
        on={props.withinEdges}
        disabled={!recipe || props.followLines}
        onChange={props.setWithinEdges}
      />
      <SwitchRow
        label="Follow thin lines"
        hint="Click from place to place along a wire, a stem or a whisker (T)"
        on={props.followLines}
        disabled={!recipe}
        onChange={props.setFollowLines}
      />
      {recipe && strokes > 0 && (
        <div className="flex items-center justify-between text-[12px] text-ink-2">
          <span>
            {recipe.keep.length} keep, {recipe.drop.length} drop
          </span>
          <IconButton
            label="Remove all strokes"
            onClick={() => changeSubject({ ...recipe, keep: [], drop: [] }, 'Remove strokes')}
          >
            <Trash2 size={14} />
          </IconButton>
        </div>
      )}
      {piece && step && figure && (
        <FigureControls
          piece={piece.id}
          step={step.id}
          recipe={figure}
          frame={session.clipFrame}
          showFrame={session.showClipFrame}
          change={props.change}
        />
      )}
    </>
  );
}

interface PlaceToolProps extends Pick<CutPanelProps, 'tool' | 'setTool' | 'session'> {
  kind: 'box' | 'point';
  icon: ReactNode;
  title: string;
  /** What takes back what was shown; there only where something was. */
  remove: string;
  onRemove: (() => void) | null;
  children: string;
}

/** A tool that shows where in the picture the thing is. */
function PlaceTool({ kind, icon, title, remove, onRemove, children, tool, setTool, session }: PlaceToolProps) {
  const pressed = tool === kind;
  return (
    <div className="flex gap-1.5 *:first:grow">
      <Button
        icon={icon}
        aria-pressed={pressed}
        className={pressed ? 'border-pine bg-white text-pine' : ''}
        disabled={!session.pixels}
        title={title}
        onClick={() => setTool(pressed ? null : kind)}
      >
        {children}
      </Button>
      {onRemove && (
        <IconButton label={remove} onClick={onRemove}>
          <Trash2 size={14} />
        </IconButton>
      )}
    </div>
  );
}

function StrokeButton({
  kind,
  tool,
  setTool,
  disabled,
}: {
  kind: 'keep' | 'drop';
  tool: CutTool;
  setTool(tool: CutTool): void;
  disabled: boolean;
}) {
  const pressed = tool === kind;
  const Icon = kind === 'keep' ? Plus : Minus;
  return (
    <button
      type="button"
      aria-pressed={pressed}
      disabled={disabled}
      title={kind === 'keep' ? 'Keep strokes (K)' : 'Drop strokes (D)'}
      onClick={() => setTool(pressed ? null : kind)}
      className={`flex h-9 items-center justify-center gap-1.5 rounded-md text-[13px] font-medium disabled:opacity-45 ${
        kind === 'keep'
          ? 'border-2 border-solid border-pine text-pine'
          : 'border-2 border-dashed border-brick text-brick'
      } ${pressed ? 'bg-paper-2' : 'bg-white hover:bg-paper-2'}`}
    >
      <Icon size={14} />
      {kind === 'keep' ? 'Keep' : 'Drop'}
    </button>
  );
}
