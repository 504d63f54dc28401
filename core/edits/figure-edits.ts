import equal from 'fast-deep-equal';
import { withMattes, type CutFrame } from '../document/figure.ts';
import { stepsOf, withStep } from '../document/recipe-steps.ts';
import type { FigureRecipe } from '../document/recipe.ts';
import type { Document } from '../document/document.ts';
import { defineEdit, type Edit } from './edit.ts';

/**
 * Lays in frames of a figure that were cut. Nothing happens where the piece or the step is gone, or something else was said
 * about its frames meanwhile.
 * @param keys by what they were cut  @param range the frames that were to be cut
 */
export const layMattes = (
  pieceId: string,
  stepId: string,
  keys: FigureRecipe['keys'],
  cut: readonly CutFrame[],
  range: readonly [number, number],
): Edit =>
  defineEdit('Cut through the clip', (draft: Document) => {
    const piece = draft.pieces.find((one) => one.id === pieceId);
    if (!piece || piece.recipe.kind === 'shadow') return;
    const step = stepsOf(piece.recipe).find((one) => one.id === stepId);
    if (step?.recipe.kind !== 'figure' || !equal(step.recipe.keys, keys)) return;
    piece.recipe = withStep(piece.recipe, stepId, { recipe: withMattes(step.recipe, cut, range) });
  })();
