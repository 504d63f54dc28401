import { flattened, type Point } from '../path/path.ts';
import { outlinesOfShape } from '../document/points.ts';
import type { Layer, LayerSource } from '../document/layer.ts';
import { propKind } from '../props/props.ts';
import { valuesAt, type LayerGift } from '../settings/setting.ts';
import type { Making } from './content-of.ts';
import { lightened, type Draw, type PropContent, type RelatedNow } from './draw.ts';
import { compose, invert, transform, type Matrix } from './matrix.ts';
import { movedDraw } from './moved-draw.ts';
import { layerMatrix } from './place.ts';
import { heldFrame, layerValue } from './values.ts';

type PropSource = Extract<LayerSource, { kind: 'prop' }>;

/** A camera that has not moved: everything is seen where it lies at rest. */
const atRest = { x: 0, y: 0, z: 0 };

/** What a prop takes from the other layers its settings name, and what may cover the place it shines from. */
export function relatedTo(making: Making, source: PropSource): Pick<PropContent, 'related' | 'cover'> {
  const { moment, layer } = making;
  const kind = propKind(source.made.prop);
  if (!kind) return { related: {}, cover: null };
  const related: PropContent['related'] = {};
  for (const [key, setting] of Object.entries(kind.settings)) {
    if (setting.kind !== 'layer') continue;
    const other = moment.shot.layers.find((l) => l.id === source.made.settings[key]);
    const given = other && other.id !== layer.id ? gifts[setting.gives](making, other) : null;
    if (given) related[key] = given;
  }
  const values = valuesAt(kind.settings, source.made.settings, heldFrame(layer, moment.frame));
  const shines = kind.shinesFrom?.(values as never);
  return { related, cover: shines ? coverOf(making, source, shines, related.lamp?.place) : null };
}

/** Brings pixels of another layer's source, as it is seen, to those of a prop. */
function toProp({ moment, layer }: Making, other: Layer): Matrix | null {
  const { document, shot, camera, frame } = moment;
  const own = layerMatrix(document, shot, layer, camera, frame);
  const theirs = layerMatrix(document, shot, other, camera, frame);
  return own && theirs && compose(invert(own), theirs);
}

const gifts: Record<LayerGift, (making: Making, other: Layer) => RelatedNow | null> = {
  path(making, other) {
    const { shot, frame } = making.moment;
    const matrix = toProp(making, other);
    if (other.source.kind !== 'shape' || !matrix) return null;
    const points = other.points ? layerValue(shot, other, 'points', frame) : undefined;
    const [path] = outlinesOfShape(other, other.source, heldFrame(other, frame), points);
    return path ? { path: flattened(path, 0.5).map(([x, y]): Point => transform(matrix, x, y)) } : null;
  },
  place(making, other) {
    const matrix = toProp(making, other);
    const { shot, frame } = making.moment;
    return matrix && { place: transform(matrix, ...layerValue(shot, other, 'pivot', frame)) };
  },
  edge(making, other) {
    // At rest: what is born there is then carried through the depths by the camera like everything else.
    const { moment, layer } = making;
    const { document, shot, frame } = moment;
    const own = layerMatrix(document, shot, layer, atRest, frame);
    if (!own || !making.shown(other)) return null;
    const resting = { ...moment, camera: atRest, cameraThen: () => atRest, slice: null, sampled: true };
    const back = invert(own);
    return { draws: light(making, making.drawsOf(other, resting)).map((draw) => movedDraw(draw, back)) };
  },
};

/** Draws without what is dear: where an edge runs and what lies there can be told without blurs and sways. */
const light = ({ moment: { document } }: Making, draws: Draw[]): Draw[] =>
  lightened({ ...document.frame, draws }).draws;

/** Kinds of layers that can cover a light; what is made and what is looked through does not. */
const covering: readonly string[] = ['piece', 'picture', 'background', 'shape', 'text', 'drawing'];

function coverOf(
  making: Making,
  { made, width, height }: PropSource,
  place: Point,
  lamp: Point | undefined,
): PropContent['cover'] {
  const { moment, layer } = making;
  const { shot, frame } = moment;
  const shining = shot.layers.find((l) => l.id === made.settings.lamp) ?? layer;
  const depth = layerValue(shot, shining, 'depth', frame);
  const nearer = shot.layers.filter(
    (other) =>
      other.id !== layer.id &&
      other.id !== shining.id &&
      covering.includes(other.source.kind) &&
      other.blend === 'normal' &&
      making.shown(other) &&
      layerValue(shot, other, 'depth', frame) < depth,
  );
  if (nearer.length === 0) return null;
  const draws = light(
    making,
    nearer.flatMap((other) => making.drawsOf(other, { ...moment, sampled: true })),
  );
  return { at: lamp ?? [place[0] * width, place[1] * height], draws };
}
