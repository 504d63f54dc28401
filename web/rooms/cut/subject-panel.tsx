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
      <div className="flex gap-1.5 *:first:grow">
        <Button
          icon={<SquareDashed size={14} />}
          aria-pressed={tool === 'box'}
          className={tool === 'box' ? 'border-pine bg-white text-pine' : ''}
          disabled={!session.pixels}
          title="Drag a box around it (B)"
          onClick={() => setTool(tool === 'box' ? null : 'box')}
        >
          Box around it
        </Button>
        {recipe?.box && (
          <IconButton label="Remove the box" onClick={() => changeSubject({ ...recipe, box: null }, 'Remove box')}>
            <Trash2 size={14} />
          </IconButton>
        )}
      </div>
      <div className="flex gap-1.5 *:first:grow">
        <Button
          icon={<LocateFixed size={14} />}
          aria-pressed={tool === 'point'}
          className={tool === 'point' ? 'border-pine bg-white text-pine' : ''}
          disabled={!session.pixels}
          title="Press on the thing that is meant, of several (I)"
          onClick={() => setTool(tool === 'point' ? null : 'point')}
        >
          Point at it
        </Button>
        {recipe?.at && (
          <IconButton
            label="Find what stands out instead"
            onClick={() => changeSubject(withoutPlace(recipe), 'Find subject')}
          >
            <Trash2 size={14} />
          </IconButton>
        )}
      </div>
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
