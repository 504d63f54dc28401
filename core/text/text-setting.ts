/** How words are set on something that is not a straight line. */
export type Along =
  /** Bent so that the widest line spans this angle, degrees; positive rises in the middle. */
  | { form: 'arc'; bend: number }
  /** Round a circle of a radius, pixels; begins at an angle from its top, degrees clockwise. */
  | { form: 'circle'; radius: number; start: number; inside: boolean }
  /** Up and down a sine wave; height and length in pixels, shift as a share of a wave. */
  | { form: 'wave'; height: number; length: number; shift: number }
  /** Along the outline of a layer: straight until who knows the layer gives the line. */
  | { form: 'layer' }
  /** Along a line of points in the text's own pixels, from a share of its length. */
  | { form: 'line'; points: readonly (readonly [number, number])[]; closed: boolean; start: number; inside: boolean };

/** What is different about some letters: those from `from` up to, but not with, `to`, counted in UTF-16 code units. */
export interface TextSpan {
  from: number;
  to: number;
  colour?: number[] | undefined;
  /** Factor on the size. */
  size?: number | undefined;
  /** Above the baseline, and space added behind, as shares of the size. */
  lift?: number | undefined;
  spacing?: number | undefined;
}

/** Lines of text and how they are set; lengths in pixels. */
export interface TextSetting {
  text: string;
  face: string;
  size: number;
  align: 'left' | 'centre' | 'right' | 'justified';
  /** From line to line, as a factor of the size; added between letters, as a share of it. */
  leading: number;
  tracking: number;
  stroke: { width: number } | null;
  /** The width at which lines are broken; null for as wide as its lines are. */
  wrap?: number | null | undefined;
  spans?: readonly TextSpan[] | undefined;
  along?: Along | null | undefined;
}
