import { newFigure, subjectAt, withSubjectAt } from '../../../core/document/figure.ts';
import type { Picture } from '../../../core/document/document.ts';
import type { SubjectRecipe } from '../../../core/document/recipe.ts';
import type { CutPanelProps } from './cut-tools.ts';
import type { OpenRecipe } from './use-recipe.ts';

/** The open step as a subject: of a still it is the step itself, of a clip what is said of the frame that is shown. */
export function useSubject(
  { step, begin, change }: OpenRecipe,
  { clip }: Picture,
  frame: number,
): Pick<CutPanelProps, 'subject' | 'changeSubject' | 'beginSubject'> {
  const recipe = step?.recipe;
  if (!clip) return { subject: recipe?.kind === 'subject' ? recipe : null, changeSubject: change, beginSubject: begin };
  const figure = recipe?.kind === 'figure' ? recipe : null;
  const changeSubject = (subject: SubjectRecipe, name: string): void => {
    if (figure) change(withSubjectAt(figure, frame, subject), name);
  };
  return {
    subject: figure && subjectAt(figure, frame),
    changeSubject,
    beginSubject: (subject, name) =>
      figure ? changeSubject(subject, name) : begin(newFigure(frame, clip.frames, subject), name),
  };
}
