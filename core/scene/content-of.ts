import type { ArrivalNow } from '../arrive/course.ts';
import type { Layer, LayerSource } from '../document/layer.ts';
import type { Bubble } from '../document/words.ts';
import { boundsOfOutlines, outlinesOfShape } from '../document/points.ts';
import { byLetters } from './arriving.ts';
import { bubbleNow } from './bubble-now.ts';
import type { Content, Draw } from './draw.ts';
import { compose, invert, transform } from './matrix.ts';
import { wordsOf, type Moment } from './moment.ts';
import { layerMatrix } from './place.ts';
import { relatedTo } from './related.ts';
import { propNow } from './slab.ts';
import { pixelsOf, type SourceBox } from './source-pixels.ts';
import { heldFrame, layerValue } from './values.ts';
import { reliefOf, swaysOf } from './warps.ts';

/** What a layer shows, in which box of its source, and whether all of the box is covered. */
export interface Made {
  content: Content;
  box: SourceBox;
  opaque: boolean;
}

/** What the content of a layer is made from beside its source. */
export interface Making {
  moment: Moment;
  layer: Layer;
  arrivals: readonly ArrivalNow[];
  /** The draws of another layer at a moment. */
  drawsOf(layer: Layer, moment: Moment): Draw[];
  /** Whether a layer is seen at all. */
  shown(layer: Layer): boolean;
  /** The draws of the members of a group. */
  drawsIn(group: string): Draw[];
}

type Maker<Kind extends LayerSource['kind']> = (
  source: Extract<LayerSource, { kind: Kind }>,
  making: Making,
) => Made | null;

/** What each kind of source shows; null for nothing. The compiler asks for a line here for every new kind. */
const makers: { [Kind in LayerSource['kind']]: Maker<Kind> } = {
  piece: imageOf,
  background: imageOf,
  picture: imageOf,
  carrier: () => null,
  colour: (_, making) => {
    const colour = colourOf(making);
    return { content: { kind: 'flat', colour }, box: frameBox(making), opaque: (colour[3] ?? 1) >= 1 };
  },
  grade: (_, making) => ({ content: { kind: 'grade' }, box: frameBox(making), opaque: false }),
  group: (_, making) => {
    const draws = making.drawsIn(making.layer.id);
    return draws.length > 0 ? { content: { kind: 'together', draws }, box: frameBox(making), opaque: false } : null;
  },
  text: (source, making) => {
    const text = wordsOf(making.moment, making.layer, source);
    const arrivals = making.arrivals.filter(byLetters);
    const bubble = source.bubble && bubbleNow(source, source.bubble, text, (tail) => tipOf(making, tail));
    const content: Content = { kind: 'text', text, colour: colourOf(making), arrivals, bubble };
    return { content, box: { ...source.box, x: text.x, y: 0 }, opaque: false };
  },
  prop: (source, making) => ({
    content: propNow(making.moment, making.layer, source, relatedTo(making, source)),
    box: { x: 0, y: 0, width: source.width, height: source.height },
    opaque: false,
  }),
  drawing: ({ file, part, recolours, box }) => ({
    content: { kind: 'drawing', file, part, recolours, box },
    box: { ...box, x: 0, y: 0 },
    opaque: false,
  }),
  shape: (source, making) => {
    const { shot, frame } = making.moment;
    const { layer } = making;
    const { filled, gradient, stroke } = source;
    const points = layer.points ? layerValue(shot, layer, 'points', frame) : undefined;
    const paths = outlinesOfShape(layer, source, heldFrame(layer, frame), points);
    const box = boundsOfOutlines(paths, stroke);
    const content: Content = { kind: 'shape', paths, fill: filled ? colourOf(making) : null, gradient, stroke, box };
    return { content, box: { ...box, x: 0, y: 0 }, opaque: false };
  },
};

export const contentOf = (making: Making): Made | null =>
  (makers[making.layer.source.kind] as Maker<LayerSource['kind']>)(making.layer.source, making);

/** Where the tail of a bubble ends, in pixels of its words; null while what it points at is behind the lens. */
function tipOf({ moment, layer }: Making, { to, at }: NonNullable<Bubble['tail']>): [number, number] | null {
  const { document, shot, camera, frame } = moment;
  const other = to && shot.layers.find((l) => l.id === to);
  if (!other) return at;
  const own = layerMatrix(document, shot, layer, camera, frame);
  const theirs = layerMatrix(document, shot, other, camera, frame);
  return own && theirs && transform(compose(invert(own), theirs), ...at);
}

const colourOf = ({ moment, layer }: Making): number[] =>
  layer.colour ? layerValue(moment.shot, layer, 'colour', moment.frame) : [0, 0, 0, 1];

const frameBox = ({ moment: { document } }: Making): SourceBox => ({
  x: 0,
  y: 0,
  width: document.frame.width,
  height: document.frame.height,
});

function imageOf(
  source: Extract<LayerSource, { kind: 'piece' | 'background' | 'picture' }>,
  { moment, layer }: Making,
): Made | null {
  const { document, shot, frame } = moment;
  const pixels = pixelsOf(document, source, { frame: heldFrame(layer, frame), run: layer });
  if (!pixels) return null;
  const corners = layer.corners ? layerValue(shot, layer, 'corners', frame) : null;
  const content: Content = {
    kind: 'image',
    file: pixels.file,
    clip: pixels.clip,
    corners: corners?.some((v) => v !== 0) ? corners : null,
    sways: swaysOf(moment, layer, pixels),
    relief: reliefOf(moment, layer, pixels),
  };
  return { content, box: pixels, opaque: pixels.opaque };
}
