import type { Shape } from '../../../core/path/shapes.ts';
import type { Piece } from '../../../core/document/document.ts';
import type { RecipeStep, SingleRecipe, SubjectRecipe } from '../../../core/document/recipe.ts';
import type { CutSessionState } from './cut-session.ts';

/** Brushes along the piece's edge, which leave marks on its alpha. */
export const edgeBrushes = ['restore', 'wipe', 'soften', 'refine'] as const;
export type EdgeBrush = (typeof edgeBrushes)[number];

/** What draws or changes an outline. */
export const outlineTools = ['outline', 'pen', 'points', 'ellipse', 'rectangle', 'rounded', 'polygon'] as const;
export type OutlineTool = (typeof outlineTools)[number];

/** What the pointer does on the picture. */
export type CutTool = 'keep' | 'drop' | 'box' | 'point' | 'screen' | EdgeBrush | OutlineTool | null;

export const isEdgeBrush = (tool: CutTool): tool is EdgeBrush => (edgeBrushes as readonly unknown[]).includes(tool);
export const isOutlineTool = (tool: CutTool): tool is OutlineTool =>
  (outlineTools as readonly unknown[]).includes(tool);

/** How the line between two clicks of an outline runs. */
export type OutlineMode = 'cling' | 'straight';

/** What is set for drawing outlines, and what of them is chosen. */
export interface OutlineState {
  mode: OutlineMode;
  /** How far a clinging line follows edges, 0..1. */
  strength: number;
  /** Corners of a new polygon. */
  sides: number;
  /** The shape whose points are shown, and which of them are chosen. */
  shape: string | null;
  points: ReadonlySet<number>;
}

export interface CutPanelProps {
  piece: Piece | null;
  session: CutSessionState;
  /** Whether the picture is a clip. */
  moving: boolean;
  /** The step that is open, and its way of finding; null before there is a piece or while a step is being added. */
  step: RecipeStep | null;
  recipe: SingleRecipe | null;
  /** What is said of the picture, or of the frame that is shown, as a subject; null where it is cut another way. */
  subject: SubjectRecipe | null;
  changeSubject(subject: SubjectRecipe, name: string): void;
  beginSubject(subject: SubjectRecipe, name: string): void;
  tool: CutTool;
  setTool(tool: CutTool): void;
  radius: number;
  setRadius(radius: number): void;
  /** Whether Keep and Drop strokes stay within the edges they are painted in. */
  withinEdges: boolean;
  setWithinEdges(on: boolean): void;
  /** Whether they follow thin lines from place to place. */
  followLines: boolean;
  setFollowLines(on: boolean): void;
  /** Gives the open step this recipe, or makes a new piece or a new step with it. */
  begin(recipe: SingleRecipe, name: string): void;
  /** Changes the open step. */
  change(recipe: SingleRecipe, name: string, gesture?: string): void;
  /** The shapes of the open step, and a change to them. */
  shapes: readonly Shape[];
  changeShapes(shapes: Shape[], name: string, gesture?: string): void;
  outline: OutlineState;
  setOutline(change: Partial<OutlineState>): void;
  /** Shows the ways to drop a black ground side by side. */
  compareBlack(): void;
  /** Brings a place of the picture into view. */
  goTo(place: { x: number; y: number; width: number; height: number }): void;
}

export const emptyRecipe: SubjectRecipe = { kind: 'subject', answer: 'subject', keep: [], drop: [], box: null };

/** Ways of finding, as the interface calls them. */
export const wayNames: Record<SingleRecipe['kind'], string> = {
  subject: 'Subject',
  figure: 'Figure',
  shape: 'Outlines',
  chroma: 'Colour',
  luma: 'Brightness',
  unveil: 'Unveil',
  whole: 'Blended',
  difference: 'Difference',
  mask: 'Stored mask',
};
