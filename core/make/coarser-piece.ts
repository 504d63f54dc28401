import type { Piece } from '../document/document.ts';
import { stepsOf } from '../document/recipe-steps.ts';
import type { SingleRecipe } from '../document/recipe.ts';

/** Ways to cut that say nothing in pixels, or only by files as large as the picture. */
const sizeless: readonly SingleRecipe['kind'][] = ['chroma', 'luma', 'unveil', 'whole', 'difference', 'figure'];

/**
 * A piece as it is cut from a smaller copy of its picture, where that is good enough, as while a clip plays.
 * @param shrink pixels of the copy for each of the picture, 0..1
 * @returns null where it can only be cut at full size
 */
export function coarserPiece(piece: Piece, shrink: number): Piece | null {
  const { recipe, care, marks } = piece;
  if (recipe.kind === 'shadow') return null;
  if (!stepsOf(recipe).every((step) => sizeless.includes(step.recipe.kind))) return null;
  const smaller = { grow: care.grow * shrink, soften: care.soften * shrink, smooth: care.smooth * shrink };
  return {
    ...piece,
    care: { ...care, ...smaller },
    marks: marks.map(({ stroke, ...mark }) => ({
      ...mark,
      stroke: {
        ...stroke,
        radius: stroke.radius * shrink,
        points: stroke.points.map(([x, y]): [number, number] => [x * shrink, y * shrink]),
      },
    })),
  };
}
