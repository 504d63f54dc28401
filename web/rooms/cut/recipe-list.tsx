import { ChevronDown, ChevronUp, Eye, EyeOff, RefreshCw, Trash2 } from 'lucide-react';
import type { Piece } from '../../../core/document/document.ts';
import type { SingleRecipe } from '../../../core/document/recipe.ts';
import type { How } from '../../../core/path/shapes.ts';
import {
  inverted,
  isInverted,
  stepsOf,
  withoutStep,
  withStep,
  withStepMoved,
} from '../../../core/document/recipe-steps.ts';
import { Button, IconButton } from '../../parts/button.tsx';
import { wayNames } from './cut-tools.ts';
import type { OpenRecipe } from './use-recipe.ts';

const hows: { id: How; name: string }[] = [
  { id: 'add', name: 'Add' },
  { id: 'take', name: 'Take away' },
  { id: 'within', name: 'Keep within' },
];

/** The ways a piece is found by, in order; each can be opened, muted, moved and deleted. */
export function RecipeList({ open, others }: { open: OpenRecipe; others: readonly Piece[] }) {
  const { whole, step, adding, setAdding, openStep, begin, replace } = open;
  if (!whole) return null;
  const steps = stepsOf(whole);
  const several = steps.length > 1;
  return (
    <section className="flex flex-col gap-1" aria-label="Steps">
      <div className="flex items-center justify-between">
        <h3 className="text-[13px] font-semibold">Steps</h3>
        <label className="flex items-center gap-1.5 text-[12px] text-ink-2">
          <input
            type="checkbox"
            checked={isInverted(whole)}
            onChange={() => replace(inverted(whole), isInverted(whole) ? 'Turn back' : 'Invert')}
          />
          Invert
        </label>
      </div>
      <ol className="flex flex-col gap-1" aria-label="Steps of the piece">
        {steps.map((s, k) => (
          <li
            key={s.id}
            className={`rounded-md border bg-white ${s.id === step?.id ? 'border-pine' : 'border-line'} ${s.muted ? 'opacity-60' : ''}`}
          >
            <div className="flex items-center">
              <button
                type="button"
                className="min-w-0 flex-1 truncate px-1.5 py-1 text-left text-[12px]"
                aria-pressed={s.id === step?.id}
                onClick={() => openStep(s.id)}
              >
                {nameOf(s.recipe, others)}
              </button>
              <Renew
                recipe={s.recipe}
                others={others}
                onRenew={(recipe) => replace(withStep(whole, s.id, { recipe }), 'Renew step')}
              />
              {several && (
                <>
                  <IconButton
                    label={`Step ${k + 1} earlier`}
                    disabled={k === 0}
                    onClick={() => replace(withStepMoved(whole, s.id, -1), 'Reorder steps')}
                  >
                    <ChevronUp size={13} />
                  </IconButton>
                  <IconButton
                    label={`Step ${k + 1} later`}
                    disabled={k === steps.length - 1}
                    onClick={() => replace(withStepMoved(whole, s.id, 1), 'Reorder steps')}
                  >
                    <ChevronDown size={13} />
                  </IconButton>
                  <IconButton
                    label={s.muted ? `Use step ${k + 1} again` : `Leave step ${k + 1} out`}
                    onClick={() =>
                      replace(withStep(whole, s.id, { muted: !s.muted }), s.muted ? 'Use step' : 'Mute step')
                    }
                  >
                    {s.muted ? <EyeOff size={13} /> : <Eye size={13} />}
                  </IconButton>
                  <IconButton
                    label={`Delete step ${k + 1}`}
                    onClick={() => replace(withoutStep(whole, s.id), 'Remove step')}
                  >
                    <Trash2 size={13} className="text-brick" />
                  </IconButton>
                </>
              )}
            </div>
            {several && (
              <select
                aria-label={`How step ${k + 1} joins`}
                className="w-full border-t border-line bg-transparent px-1 py-0.5 text-[12px] text-ink-2"
                value={s.how}
                onChange={(event) => replace(withStep(whole, s.id, { how: event.target.value as How }), 'Change step')}
              >
                {hows.map(({ id, name }) => (
                  <option key={id} value={id}>
                    {name}
                  </option>
                ))}
              </select>
            )}
          </li>
        ))}
      </ol>
      <div className="flex gap-1" role="group" aria-label="Another step">
        {hows.map(({ id, name }) => (
          <Button
            key={id}
            aria-pressed={adding === id}
            className={`flex-auto !px-1 text-[12px] ${adding === id ? 'border-pine text-pine' : ''}`}
            title={`${name} something found another way`}
            onClick={() => setAdding(adding === id ? null : id)}
          >
            {name}
          </Button>
        ))}
      </div>
      {adding && <p className="text-[12px] text-ink-2">Choose a way above; what it finds joins the piece.</p>}
      {adding && others.length > 0 && (
        <select
          aria-label="Another piece"
          className="h-8 rounded-md border border-line bg-paper px-1.5 text-[13px]"
          value=""
          onChange={(event) => {
            const other = others.find((piece) => piece.id === event.target.value)!;
            const { name } = hows.find((how) => how.id === adding)!;
            begin(maskOf(other), `${name} ${other.name}`);
          }}
        >
          <option value="" disabled>
            Or another piece
          </option>
          {others.map((other) => (
            <option key={other.id} value={other.id}>
              {other.name}
            </option>
          ))}
        </select>
      )}
    </section>
  );
}

type MaskRecipe = Extract<SingleRecipe, { kind: 'mask' }>;

/** A lifted piece as a way of finding another one. */
function maskOf({ id, cutout }: Piece): MaskRecipe {
  const { file, bounds } = cutout!;
  return { kind: 'mask', file, x: bounds.x, y: bounds.y, of: id };
}

const originOf = (recipe: SingleRecipe, others: readonly Piece[]): Piece | undefined =>
  recipe.kind === 'mask' && recipe.of !== undefined ? others.find((other) => other.id === recipe.of) : undefined;

const nameOf = (recipe: SingleRecipe, others: readonly Piece[]): string =>
  originOf(recipe, others)?.name ?? wayNames[recipe.kind];

interface RenewProps {
  recipe: SingleRecipe;
  others: readonly Piece[];
  onRenew(recipe: MaskRecipe): void;
}

/** Takes over another piece as it is lifted now, where that was changed since. */
function Renew({ recipe, others, onRenew }: RenewProps) {
  const origin = originOf(recipe, others);
  if (!origin || (recipe as MaskRecipe).file === origin.cutout!.file) return null;
  return (
    <IconButton label={`Take ${origin.name} as it is lifted now`} onClick={() => onRenew(maskOf(origin))}>
      <RefreshCw size={13} />
    </IconButton>
  );
}
