import type { Layer } from '../document/layer.ts';
import type { Shot } from '../document/shot.ts';
import type { Made } from './content-of.ts';
import type { Draw, ImageContent } from './draw.ts';
import { compose, invert, transform, type Matrix } from './matrix.ts';
import { movedBy } from './moment.ts';
import type { SourceBox } from './source-pixels.ts';

/** A shape that is one with another layer, and what it is seen as. */
export interface Joined {
  how: NonNullable<Layer['joined']>['how'];
  draws: Draw[];
}

/** The layers that are joined to a layer and shown, the furthest first. */
export const joinsTo = (shot: Shot, layer: Layer, shown: (layer: Layer) => boolean): Layer[] =>
  shot.layers.filter((other) => other.joined?.to === layer.id && shown(other)).reverse();

/** Whether a layer is drawn as a part of another one, which is there. */
export const isPartOfAnother = (shot: Shot, { joined }: Layer): boolean =>
  !!joined && shot.layers.some((layer) => layer.id === joined.to);

/**
 * What a layer shows together with what is joined to it, as one picture in frame pixels: shapes that grow out of it lie
 * behind it, shapes that are cut out of it are not there.
 * @param matrix maps pixels of the layer's source to frame pixels
 */
export function withJoined(made: Made, layer: Layer, matrix: Matrix, joins: readonly Joined[], frame: SourceBox): Made {
  const { content, box } = made;
  const placed = movedBy(matrix, box);
  const cuts = joins.filter(({ how }) => how === 'cut out').flatMap(({ draws }) => draws);
  const still = content.kind === 'image' && content.sways.length === 0 && !content.corners;
  const own: Draw = {
    layer: layer.id,
    content,
    matrix: placed,
    width: box.width,
    height: box.height,
    opacity: 1,
    blend: 'normal',
    blur: 0,
    masks: layer.masks.length > 0 ? { shapes: layer.masks, matrix } : null,
    window: cuts.length > 0 ? { matte: cuts, how: 'outside', by: 'alpha', free: null } : null,
    clips: [],
    finishes: null,
    opaque: made.opaque && still && cuts.length === 0 && layer.masks.length === 0,
  };
  const grown = joins.flatMap(({ how, draws }) => {
    if (how === 'cut out') return [];
    return how === 'its colours' && content.kind === 'image'
      ? draws.map((one) => inColoursOf(one, own, content))
      : draws;
  });
  return { content: { kind: 'together', draws: [...grown, own] }, box: frame, opaque: false };
}

/** A shape filled with the colours that lie nearest to it in an image. */
function inColoursOf(shape: Draw, { matrix, width, height }: Draw, { file, clip }: ImageContent): Draw {
  if (shape.content.kind !== 'shape') return shape;
  const room = roomFor(shape.content.box, compose(invert(matrix), shape.matrix), { x: 0, y: 0, width, height });
  const clips = shape.content.paths.slice(0, 1).map((path) => ({ path, matrix: shape.matrix }));
  const spread: Draw = { ...shape, matrix, width, height, clips: [...shape.clips, ...clips] };
  return { ...spread, content: { kind: 'spread', file, clip, room } };
}

/** Steps in which the room grows, so that what was spread is kept while a shape moves a little. */
const step = 64;

/** The box of an image grown until a shape has room in it. */
function roomFor(shape: SourceBox, toImage: Matrix, image: SourceBox): SourceBox {
  const corners = [shape.x, shape.x + shape.width].flatMap((x) =>
    [shape.y, shape.y + shape.height].map((y) => transform(toImage, x, y)),
  );
  const xs = [image.x, image.x + image.width, ...corners.map(([x]) => x)];
  const ys = [image.y, image.y + image.height, ...corners.map(([, y]) => y)];
  const low = (values: number[]): number => Math.floor(Math.min(...values) / step) * step;
  const high = (values: number[]): number => Math.ceil(Math.max(...values) / step) * step;
  const [x, y] = [low(xs), low(ys)];
  return { x, y, width: high(xs) - x, height: high(ys) - y };
}
