import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { How, Shape } from '../../../core/path/shapes.ts';
import { untouched, type Picture, type Piece } from '../../../core/document/document.ts';
import { addPiece, setRecipe } from '../../../core/edits/project-edits.ts';
import { stepsOf, withStep, withStepAdded } from '../../../core/document/recipe-steps.ts';
import type { CutRecipe, RecipeStep, SingleRecipe } from '../../../core/document/recipe.ts';
import { newId, useProject } from '../../data/project.ts';

export interface OpenRecipe {
  /** The whole recipe of the piece; null before there is one, and for shadows. */
  whole: CutRecipe | null;
  step: RecipeStep | null;
  /** How the step joins that is about to be added; null while none is. */
  adding: How | null;
  setAdding(how: How | null): void;
  openStep(id: string): void;
  begin(recipe: SingleRecipe, name: string): void;
  change(recipe: SingleRecipe, name: string, gesture?: string): void;
  replace(recipe: CutRecipe, name: string): void;
  shapes: readonly Shape[];
  changeShapes(shapes: Shape[], name: string, gesture?: string): void;
}

const noShapes: readonly Shape[] = [];

/** The recipe of a piece as the steps it consists of, one of which is open. */
export function useRecipe(picture: Picture, pieces: readonly Piece[], piece: Piece | null): OpenRecipe {
  const { id, dispatch } = useProject();
  const navigate = useNavigate();
  const [opened, setOpened] = useState<string | null>(null);
  const [adding, setAdding] = useState<How | null>(null);
  const whole = piece && piece.recipe.kind !== 'shadow' ? piece.recipe : null;
  const steps = whole ? stepsOf(whole) : [];
  const step = adding ? null : (steps.find((s) => s.id === opened) ?? steps.at(-1) ?? null);

  const replace = (recipe: CutRecipe, name: string, gesture?: string): void =>
    dispatch(setRecipe(name, piece!.id, recipe), gesture);
  const change = (recipe: SingleRecipe, name: string, gesture?: string): void => {
    if (whole && step) replace(withStep(whole, step.id, { recipe }), name, gesture);
  };
  const append = (recipe: SingleRecipe, how: How, name: string): void => {
    const made: RecipeStep = { id: newId('step'), how, muted: false, recipe };
    replace(withStepAdded(whole!, made), name);
    setOpened(made.id);
    setAdding(null);
  };
  const begin = (recipe: SingleRecipe, name: string): void => {
    if (!piece) {
      const made = { ...untouched, id: newId('piece'), picture: picture.id, name: freePieceName(pieces), recipe };
      dispatch({ ...addPiece(made), name });
      void navigate(`/project/${id}/cut/${picture.id}/${made.id}`, { replace: true });
    } else if (adding) append(recipe, adding, name);
    // An outline drawn around another kind of piece belongs to it; another key stands in the place of the one before.
    else if (recipe.kind === 'shape' && step?.recipe.kind !== 'shape') append(recipe, 'add', name);
    else change(recipe, name);
  };
  const shapes = step?.recipe.kind === 'shape' ? step.recipe.shapes : noShapes;
  return {
    whole,
    step,
    adding,
    setAdding,
    openStep: (stepId) => {
      setOpened(stepId);
      setAdding(null);
    },
    begin,
    change,
    replace,
    shapes,
    changeShapes: (next, name, gesture) => {
      if (step?.recipe.kind === 'shape') change({ kind: 'shape', shapes: next }, name, gesture);
      else begin({ kind: 'shape', shapes: next }, name);
    },
  };
}

/** The next number among what was cut; shadows are named after what throws them and do not count. */
function freePieceName(pieces: readonly Piece[]): string {
  const taken = new Set(pieces.map((p) => p.name));
  for (let n = pieces.filter((p) => p.recipe.kind !== 'shadow').length + 1; ; n++)
    if (!taken.has(`Piece ${n}`)) return `Piece ${n}`;
}
