import type { CutRecipe, Recipe, RecipeStep, SingleRecipe, SubjectRecipe } from './recipe.ts';

/* A recipe as the list of steps it consists of: a single way is a list of one. */

export function stepsOf(recipe: CutRecipe): RecipeStep[] {
  return recipe.kind === 'combined' ? recipe.steps : [{ id: 'first', how: 'add', muted: false, recipe }];
}

export const isInverted = (recipe: CutRecipe): boolean => recipe.kind === 'combined' && recipe.inverted;

/** The recipe with these steps; a single way that just adds is kept as itself. @param steps at least one */
export function recipeOfSteps(steps: readonly RecipeStep[], inverted: boolean): CutRecipe {
  const [only] = steps;
  if (steps.length === 1 && only!.how === 'add' && !only!.muted && !inverted) return only!.recipe;
  return { kind: 'combined', steps: [...steps], inverted };
}

/** A change to one step. */
export function withStep(recipe: CutRecipe, stepId: string, change: Partial<Omit<RecipeStep, 'id'>>): CutRecipe {
  const steps = stepsOf(recipe).map((step) => (step.id === stepId ? { ...step, ...change } : step));
  return recipeOfSteps(steps, isInverted(recipe));
}

export function withStepAdded(recipe: CutRecipe, step: RecipeStep): CutRecipe {
  return recipeOfSteps([...stepsOf(recipe), step], isInverted(recipe));
}

/** Without a step; the last one stays, for a piece is found by something. */
export function withoutStep(recipe: CutRecipe, stepId: string): CutRecipe {
  const left = stepsOf(recipe).filter((step) => step.id !== stepId);
  return left.length === 0 ? recipe : recipeOfSteps(left, isInverted(recipe));
}

/** A step one place earlier or later. */
export function withStepMoved(recipe: CutRecipe, stepId: string, by: 1 | -1): CutRecipe {
  const steps = [...stepsOf(recipe)];
  const from = steps.findIndex((step) => step.id === stepId);
  const to = from + by;
  if (from < 0 || to < 0 || to >= steps.length) return recipe;
  [steps[from], steps[to]] = [steps[to]!, steps[from]!];
  return recipeOfSteps(steps, isInverted(recipe));
}

/** What was outside is inside. */
export const inverted = (recipe: CutRecipe): CutRecipe => recipeOfSteps(stepsOf(recipe), !isInverted(recipe));

/** Files a recipe needs. */
export function filesOfRecipe(recipe: Recipe): string[] {
  const of = (single: SingleRecipe): string[] => {
    if (single.kind === 'mask') return [single.file];
    if (single.kind === 'figure')
      return [...single.mattes, ...single.keys.map((key) => key.base)].filter((file) => file !== null);
    return single.kind === 'difference' ? [single.ground] : [];
  };
  if (recipe.kind === 'shadow') return [];
  return stepsOf(recipe).flatMap((step) => of(step.recipe));
}

/**
 * Whether what lies behind a piece is worth rebuilding: what was keyed stood before a screen or on black. A piece found in
 * several ways stands where its first step does.
 */
export function standsInPicture(recipe: Recipe): boolean {
  if (recipe.kind === 'shadow') return false;
  const first = stepsOf(recipe).find((step) => !step.muted)?.recipe.kind;
  return first === 'subject' || first === 'mask' || first === 'shape';
}

/**
 * A subject with one Keep or Drop stroke more, which comes after all that were drawn before. What is to be kept belongs to it
 * wherever it lies: a box is widened to hold it.
 * @param picture its size; no box leaves it
 */
export function withStroke(
  recipe: SubjectRecipe,
  kind: 'keep' | 'drop',
  stroke: Omit<SubjectRecipe['keep'][number], 'turn'>,
  picture: { width: number; height: number },
): SubjectRecipe {
  const turn = 1 + Math.max(0, ...[...recipe.keep, ...recipe.drop].map((drawn) => drawn.turn ?? 0));
  const box = recipe.box && kind === 'keep' ? boxHolding(recipe.box, stroke, picture) : recipe.box;
  return { ...recipe, box, [kind]: [...recipe[kind], { ...stroke, turn }] };
}

/** Beside a stroke outside a box there is more of the same thing: so much of the box's greater side is looked at as well. */
const roomBeside = 0.35;

function boxHolding(
  box: NonNullable<SubjectRecipe['box']>,
  { points, radius, radii }: Pick<SubjectRecipe['keep'][number], 'points' | 'radius' | 'radii'>,
  { width, height }: { width: number; height: number },
): NonNullable<SubjectRecipe['box']> {
  // Beside a thin line there is nothing more of it.
  const more = radii ? 0 : Math.round(roomBeside * Math.max(box.width, box.height));
  const [xs, ys] = [0, 1].map((k) => points.map((point) => point[k]!)) as [number[], number[]];
  const side = (from: number, to: number, all: number[], most: number): [number, number] => {
    const [low, high] = [Math.floor(Math.min(...all) - radius), Math.ceil(Math.max(...all) + radius)];
    return [low < from ? Math.max(0, low - more) : from, high > to ? Math.max(to, Math.min(most, high + more)) : to];
  };
  const [x, right] = side(box.x, box.x + box.width, xs, width);
  const [y, bottom] = side(box.y, box.y + box.height, ys, height);
  return { x, y, width: right - x, height: bottom - y };
}
