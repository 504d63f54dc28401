import { finishKind } from '../finish/finishes.ts';
import type { SwayShape } from '../motion/sway.ts';
import type { Camera } from '../depth/camera.ts';
import type { Related } from '../props/prop.ts';
import type { Path, Point } from '../path/path.ts';
import type { Shape } from '../path/shapes.ts';
import type { BlendMode } from '../document/blend.ts';
import type { ArrivalNow } from '../arrive/course.ts';
import type { Gradient } from '../document/layer.ts';
import type { BubbleNow } from './bubble-now.ts';
import type { Matrix } from './matrix.ts';
import type { ClipFrame } from './source-pixels.ts';
import type { TextNow } from './words-now.ts';

export type Colour = readonly number[];

/** A sway as it stands at one frame; lengths in pixels of the image. */
export type SwayNow = SwayShape;

export interface ImageContent {
  kind: 'image';
  /** Hash of the file whose pixels are drawn; for a frame of a clip a name of its own. */
  file: string;
  clip: ClipFrame | null;
  /** Offsets of the corners in pixels of the image, from top left clockwise; null while it is a rectangle. */
  corners: readonly number[] | null;
  sways: SwayNow[];
  /** A depth map by which each pixel is seen at its own distance; corners are not looked at then. */
  relief: DrawRelief | null;
}

export interface DrawRelief {
  /** Grey picture, white nearest. */
  file: string;
  /** What comes to light where it is torn open, with a depth map of its own; null where it is stretched instead. */
  behind: { picture: string; depth: string } | null;
  camera: Camera;
  near: number;
  far: number;
  /** Maps rest pixels, origin in the centre of the frame, to pixels of the image. */
  toImage: Matrix;
}

/** A prop as it stands at one frame. */
export interface PropContent {
  kind: 'prop';
  prop: string;
  values: Record<string, unknown>;
  /** The frame, where the prop changes by itself from frame to frame; else null. */
  frame: number | null;
  /** Frames after which it is as it was; null where it goes on for ever. */
  loop: number | null;
  /** Where it lies between two distances: which of them, as what camera sees it. */
  slab: DrawSlab | null;
  /** What it takes from other layers, by the setting that names each; in pixels of the prop. */
  related: Record<string, RelatedNow>;
  /** The place it shines from, in pixels of the prop, and what lies nearer and may cover it; null where that does not matter. */
  cover: { at: Point; draws: Draw[] } | null;
  /** What painting found of these: set where it is painted. */
  given?: { related: Record<string, Related>; covered: number };
}

/** What another layer gives to a prop: a line, a place, or draws in pixels of the prop of which the edge is taken. */
export interface RelatedNow {
  path?: Point[];
  place?: Point;
  draws?: Draw[];
}

export interface DrawSlab {
  camera: Camera;
  near: number;
  far: number;
  /** Only what lies from `from` up to `to`, as shares of the way from near to far. */
  from: number;
  to: number;
  /** Maps pixels of the prop to rest pixels, origin in the centre of the frame. */
  toRest: Matrix;
}

/** A drawing of paths, or a part of one, in its own pixels. */
export interface DrawingContent {
  kind: 'drawing';
  file: string;
  /** Which child of which child; empty for all of it. */
  part: readonly number[];
  recolours: readonly { from: Colour; to: Colour }[];
  /** What it takes of the drawing's pixels. */
  box: { x: number; y: number; width: number; height: number };
}

/** The colours of an image spread beyond its edge: each place in that of the nearest opaque one. */
export interface SpreadContent {
  kind: 'spread';
  file: string;
  clip: ClipFrame | null;
  /** Where there are colours, in pixels of the image. */
  room: { x: number; y: number; width: number; height: number };
}

export type Content =
  | ImageContent
  | DrawingContent
  | SpreadContent
  | {
      kind: 'shape';
      /** Filled together by the nonzero rule. */
      paths: Path[];
      fill: Colour | null;
      gradient: Gradient | null;
      stroke: { width: number; colour: Colour } | null;
      /** The box a gradient runs over. */
      box: { x: number; y: number; width: number; height: number };
    }
  /** Words in letters; `arrivals` is how letters, words or lines come and go, empty while all rest. */
  | { kind: 'text'; text: TextNow; colour: Colour; arrivals: ArrivalNow[]; bubble: BubbleNow | null }
  | PropContent
  /** One colour over the whole frame. */
  | { kind: 'flat'; colour: Colour }
  /** Nothing of its own: what is behind it is taken and finished. */
  | { kind: 'grade' }
  /**
   * Many copies of one draw. `places` has seven numbers for each, the furthest first: what maps pixels of its content to
   * those of this draw, and its opacity.
   */
  | { kind: 'copies'; of: Draw; places: Float64Array }
  /** One layer at several moments; what is seen is the mean of them. */
  | { kind: 'mean'; moments: Draw[] }
  /** Several draws painted as one picture of their own. */
  | { kind: 'together'; draws: Draw[] };

/** A finish as it stands at one frame. */
export interface FinishNow {
  kind: string;
  values: Record<string, unknown>;
  /** The frame, where the finish changes by itself from frame to frame; else null. */
  frame: number | null;
}

/** The finishes of a draw, and what they need to know of it. */
export interface DrawFinishes {
  list: FinishNow[];
  /** Frame pixels per pixel of the content as it lies at rest: what sizes set in frame pixels are measured by. */
  size: number;
  /** Frames of the shot. */
  length: number;
}

/** What limits a draw to the inside or outside of other draws. */
export interface DrawWindow {
  matte: Draw[];
  how: 'inside' | 'outside';
  by: 'alpha' | 'brightness';
  /** Beyond this line nothing is limited: a point, the direction of the free side (unit length) and a softness, in frame pixels. */
  free: { x: number; y: number; dx: number; dy: number; soft: number } | null;
}

/** An outline within which a draw is seen, and what maps its pixels to frame pixels. */
export interface DrawClip {
  path: Path;
  matrix: Matrix;
}

/** One thing to draw: its content through `matrix` into frame pixels, origin at the frame's top left corner. */
export interface Draw {
  layer: string;
  content: Content;
  /** Maps pixels of the content to frame pixels. */
  matrix: Matrix;
  /** Size of the content in its pixels. */
  width: number;
  height: number;
  opacity: number;
  blend: BlendMode;
  /** Standard deviation in frame pixels. */
  blur: number;
  /** Outlines that show only part of it, and what maps their pixels to frame pixels. */
  masks: { shapes: Shape[]; matrix: Matrix } | null;
  window: DrawWindow | null;
  /** Outlines with a hard edge that show only part of the whole, with everything its finishes add. */
  clips: DrawClip[];
  /** Changes of its look; its box, its place and whether it is opaque are those of the draw without them. */
  finishes: DrawFinishes | null;
  /** Whether every pixel that its masks leave hides what is behind it, but for what a blur fades at its borders. */
  opaque: boolean;
}

/** A frame ready to be painted, far things first. */
export interface EvaluatedFrame {
  width: number;
  height: number;
  draws: Draw[];
}

/** Every draw of a list, with those inside others and those that limit them. */
export function* everyDraw(draws: readonly Draw[]): Generator<Draw> {
  for (const draw of draws) {
    yield draw;
    if (draw.content.kind === 'together') yield* everyDraw(draw.content.draws);
    if (draw.content.kind === 'copies') yield* everyDraw([draw.content.of]);
    if (draw.content.kind === 'mean') yield* everyDraw(draw.content.moments);
    if (draw.window) yield* everyDraw(draw.window.matte);
    if (draw.content.kind === 'prop') {
      yield* everyDraw(draw.content.cover?.draws ?? []);
      for (const { draws } of Object.values(draw.content.related)) yield* everyDraw(draws ?? []);
    }
  }
}

/** Draws of a list that show an image, with the image. */
export function* everyImage(draws: readonly Draw[]): Generator<{ draw: Draw; image: ImageContent }> {
  for (const draw of everyDraw(draws)) if (draw.content.kind === 'image') yield { draw, image: draw.content };
}

/** The files of an image: those drawn at its size, its own first, and depth maps, which are looked at whole. */
export function filesOfImage({ file, relief }: ImageContent): { drawn: string[]; maps: string[] } {
  if (!relief) return { drawn: [file], maps: [] };
  const { behind } = relief;
  return behind
    ? { drawn: [file, behind.picture], maps: [relief.file, behind.depth] }
    : { drawn: [file], maps: [relief.file] };
}

function withoutHeavy(finishes: DrawFinishes | null): DrawFinishes | null {
  const list = finishes?.list.filter(({ kind }) => !finishKind(kind)?.heavy) ?? [];
  return finishes && list.length > 0 ? { ...finishes, list } : null;
}

/**
 * The same frame without what is dear to paint: blurs, also of motion, sways and heavy finishes. Nothing changes its place.
 */
export function lightened(frame: EvaluatedFrame): EvaluatedFrame {
  const lighterContent = (content: Content): Content => {
    if (content.kind === 'image') return { ...content, sways: [] };
    return content.kind === 'together' ? { ...content, draws: content.draws.map(lighter) } : content;
  };
  const lighter = (draw: Draw): Draw => {
    if (draw.content.kind === 'mean') return { ...lighter(draw.content.moments[0]!), blend: draw.blend };
    return { ...draw, blur: 0, finishes: withoutHeavy(draw.finishes), content: lighterContent(draw.content) };
  };
  return { ...frame, draws: frame.draws.map(lighter) };
}
