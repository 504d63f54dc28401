import { finishKind } from '../finish/finishes.ts';
import { valuesAt } from '../settings/setting.ts';
import { circleOfConfusion, viewOfPlane, type Camera } from '../depth/camera.ts';
import type { Document } from '../document/document.ts';
import type { ArrivalNow } from '../arrive/course.ts';
import type { Layer } from '../document/layer.ts';
import type { Shot } from '../document/shot.ts';
import { arrivalsAt, byLetters, wholeState } from './arriving.ts';
import { contentOf, type Made } from './content-of.ts';
import type { Content, Draw, DrawClip, DrawFinishes, DrawWindow, EvaluatedFrame, FinishNow } from './draw.ts';
import { isPartOfAnother, joinsTo, withJoined } from './joined.ts';
import { compose, transform, type Matrix } from './matrix.ts';
import { frameSizedKinds, movedBy, sizeAtRest, wordsOf, type Moment } from './moment.ts';
import { boundsOfDraws, movedDraw } from './moved-draw.ts';
import { cameraAt, layerMatrix, standingOf } from './place.ts';
import { lineOfRepeat } from './repeat-line.ts';
import { repeated, withinShot } from './repeat.ts';
import { slicedByDepth } from './slab.ts';
import { barOf } from './source-pixels.ts';
import { heldFrame, layerValue } from './values.ts';

/** What a shot looks like at a frame. Same document and frame, same draws. */
export function evaluateFrame(document: Document, shot: Shot, frame: number, fixed?: Camera): EvaluatedFrame {
  const cameraThen = (at: number): Camera => fixed ?? cameraAt(shot, at);
  const camera = cameraThen(frame);
  const { width, height } = document.frame;
  const solo = shot.layers.some((layer) => layer.solo);
  const shown = (layer: Layer): boolean => !layer.hidden && (!solo || layer.solo || inSolo(shot, layer));
  return {
    width,
    height,
    draws: drawsOf({ document, shot, frame, camera, cameraThen, slice: null, sampled: false }, null, shown),
  };
}

/** Whether a layer is shown because a group it is in, or a layer in it, is one of those that alone are shown. */
function inSolo(shot: Shot, layer: Layer): boolean {
  for (let group = groupOf(shot, layer); group; group = groupOf(shot, group)) if (group.solo) return true;
  return holdsSolo(shot, layer);
}

const groupOf = (shot: Shot, { group }: Layer): Layer | undefined =>
  group ? shot.layers.find((l) => l.id === group) : undefined;

const holdsSolo = (shot: Shot, layer: Layer): boolean =>
  layer.source.kind === 'group' && shot.layers.some((l) => l.group === layer.id && (l.solo || holdsSolo(shot, l)));

function drawsOf(
  moment: Moment,
  group: string | null,
  shown: (layer: Layer) => boolean,
  seen: ReadonlySet<string> = new Set(),
): Draw[] {
  const members = moment.shot.layers.filter((layer) => layer.group === group);
  return slicedByDepth(members, moment.frame).flatMap(({ layer, slice }) =>
    shown(layer) ? drawsOfLayer({ ...moment, slice }, layer, shown, seen) : [],
  );
}

/** The draws of a layer and its copies; the first lies over the others. */
function drawsOfLayer(
  moment: Moment,
  layer: Layer,
  shown: (layer: Layer) => boolean,
  seen: ReadonlySet<string>,
): Draw[] {
  // Painted as a part of what it is joined to.
  if (isPartOfAnother(moment.shot, layer)) return [];
  const { repeat } = layer;
  const first = drawOf(moment, layer, shown, seen);
  if (!repeat || layer.source.kind === 'colour' || layer.source.kind === 'grade') return first;
  const { document, shot, camera } = moment;
  const line = lineOfRepeat(document, shot, layer, moment.frame);
  return repeated(repeat, sizeAtRest(document, shot, layer), line, (delay) => {
    // As it was so many frames ago, seen as the camera sees it now.
    const frame = withinShot(moment.frame - delay, shot, layer);
    const base = layerMatrix(document, shot, layer, camera, frame);
    if (!base) return null;
    const draws = delay === 0 ? first : drawOf({ ...moment, frame }, layer, shown, seen);
    return { draws, toFrame: compose(base, [1, 0, 0, 1, ...layerValue(shot, layer, 'pivot', frame)]) };
  });
}

/** The draws of one layer, smeared by its motion while the shutter is open where the shot wants that. */
function drawOf(moment: Moment, layer: Layer, shown: (layer: Layer) => boolean, seen: ReadonlySet<string>): Draw[] {
  const now = drawNow(moment, layer, shown, seen);
  const [draw] = now;
  const { motionBlur } = moment.shot;
  if (!motionBlur || !layer.motionBlur || moment.sampled || !draw || draw.layer !== layer.id) return now;
  if (draw.content.kind === 'grade' || draw.content.kind === 'flat') return now;
  const { angle, samples } = motionBlur;
  const moments = Array.from({ length: samples }, (_, k) => {
    const frame = moment.frame + (k / samples) * (angle / 360);
    const then = { ...moment, frame, camera: moment.cameraThen(frame), sampled: true };
    return drawNow(then, layer, shown, seen).map((one): Draw => ({ ...one, blend: 'normal' }));
  }).flat();
  const words = moments.map((one) => JSON.stringify(one));
  // What rests costs nothing.
  if (moments.length < samples || words.every((word) => word === words[0])) return now;
  const whole = { opacity: 1, blur: 0, masks: null, window: null, clips: [], finishes: null };
  return [{ ...draw, ...whole, content: { kind: 'mean', moments } }];
}

/**
 * The draws of one layer at one moment: none while it is not there, several for a group that needs no picture of its own.
 * @param seen layers whose window is being drawn: a layer that is part of its own window is whole in it
 */
function drawNow(moment: Moment, layer: Layer, shown: (layer: Layer) => boolean, seen: ReadonlySet<string>): Draw[] {
  const { document, shot, frame, camera } = moment;
  const { first, end } = barOf(shot, layer);
  if (frame < first || frame >= end || layer.source.kind === 'carrier') return [];
  const { opacity } = standingOf(shot, layer, frame, document);
  const matrix = layerMatrix(document, shot, layer, camera, frame);
  if (!matrix || opacity <= 0) return [];
  const joins = joinsTo(shot, layer, shown);
  // What is one with others is a picture in frame pixels, like a group.
  const size = joins.length > 0 ? 1 : sizeAtRest(document, shot, layer);
  const arrivals = arrivalsOf(moment, layer, size);
  const alone = contentOf({
    moment,
    layer,
    arrivals,
    shown,
    drawsOf: (other, then) => drawOf(then, other, (l) => shown(l) || l.id === other.id, seen),
    drawsIn: (group) => drawsOf(moment, group, shown, seen),
  });
  if (!alone) return [];
  const made = joins.length > 0 ? joinedAt(moment, alone, layer, matrix, joins, shown, seen) : alone;
  const { content, box } = made;
  const arriving = arriveWhole(made, matrix, arrivals);
  if (arriving.opacity <= 0) return [];
  const finishes = finishesOf(moment, layer, size);
  if (content.kind === 'grade' && !finishes) return [];
  const blur = content.kind === 'grade' ? 0 : blurOf(moment, layer);
  const window = windowOf(moment, layer, seen);
  const plain = !window && layer.blend === 'normal' && opacity >= 1;
  const unmasked = plain && arriving.opacity >= 1 && arriving.clips.length === 0;
  const whole = unmasked && layer.masks.length === 0;
  // A grade layer among them would reach beyond its group.
  const loose = content.kind === 'together' && !content.draws.some((draw) => draw.content.kind === 'grade');
  if (loose && whole && blur === 0 && !finishes) return arriving.draws ?? content.draws;
  const still = content.kind !== 'image' || (content.sways.length === 0 && !content.corners);
  return [
    {
      layer: layer.id,
      content: arriving.draws ? { kind: 'together', draws: arriving.draws } : content,
      matrix: coversFrame(content) ? upright : movedBy(arriving.matrix, box),
      width: box.width,
      height: box.height,
      opacity: Math.min(1, opacity) * Math.min(1, arriving.opacity),
      blend: layer.blend,
      blur,
      masks: layer.masks.length > 0 && joins.length === 0 ? { shapes: layer.masks, matrix: arriving.matrix } : null,
      window,
      clips: arriving.clips,
      finishes,
      opaque: made.opaque && still && unmasked && arrivals.length === 0,
    },
  ];
}

/** What a layer shows with all that is one with it. */
function joinedAt(
  moment: Moment,
  made: Made,
  layer: Layer,
  matrix: Matrix,
  joins: readonly Layer[],
  shown: (layer: Layer) => boolean,
  seen: ReadonlySet<string>,
): Made {
  const { width, height } = moment.document.frame;
  const parts = joins.map((one) => ({ how: one.joined!.how, draws: drawOf(moment, one, shown, seen) }));
  return withJoined(made, layer, matrix, parts, { x: 0, y: 0, width, height });
}

const upright: Matrix = [1, 0, 0, 1, 0, 0];

/** How a layer comes and goes at a moment; what is as large as the frame does so in frame pixels. */
function arrivalsOf(moment: Moment, layer: Layer, size: number): ArrivalNow[] {
  const { shot, frame } = moment;
  if (!layer.arrive && !layer.leave) return [];
  const { source } = layer;
  const bar = source.kind === 'text' ? wordsOf(moment, layer, source) : barOf(shot, layer);
  return arrivalsAt(layer, bar, frame, 1 / size);
}

/** A draw whose layer arrives as a whole: where it is then, how much of it is seen; of a group, where its members are. */
function arriveWhole(
  { content, box }: Made,
  matrix: Matrix,
  arrivals: readonly ArrivalNow[],
): { matrix: Matrix; opacity: number; clips: DrawClip[]; draws: Draw[] | null } {
  const own = content.kind === 'text' ? arrivals.filter((one) => !byLetters(one)) : arrivals;
  if (own.length === 0) return { matrix, opacity: 1, clips: [], draws: null };
  const together = content.kind === 'together' ? content.draws : null;
  const bubble = content.kind === 'text' ? content.bubble : null;
  const room = together ? boundsOfDraws(together) : (bubble?.box ?? box);
  const state = wholeState(own, room, bubble?.tip);
  const base = coversFrame(content) ? upright : matrix;
  return {
    matrix: compose(matrix, state.matrix),
    opacity: state.opacity,
    clips: state.clips.map((path) => ({ path, matrix: base })),
    draws: together && together.map((draw) => movedDraw(draw, state.matrix)),
  };
}

/** What is as large as the frame, wherever the layer hangs. */
const coversFrame = ({ kind }: Content): boolean => kind === 'flat' || kind === 'together' || kind === 'grade';

/** The finishes that are not muted, as they stand at the frame. */
function finishesOf({ shot, frame }: Moment, layer: Layer, size: number): DrawFinishes | null {
  const held = heldFrame(layer, frame);
  const list = layer.finishes.flatMap((finish): FinishNow[] => {
    const kind = finish.muted ? undefined : finishKind(finish.kind);
    if (!kind) return [];
    const values = valuesAt(kind.settings, finish.settings, held);
    return [{ kind: kind.id, values, frame: kind.moves?.(values) ? held : null }];
  });
  if (list.length === 0) return null;
  return { list, size, length: shot.length };
}

/** The layer's own blur as large as its plane is seen, and what its distance from the focus adds. */
function blurOf({ shot, frame, camera }: Moment, layer: Layer): number {
  const own = Math.max(0, layerValue(shot, layer, 'blur', frame));
  const { focus } = camera;
  if (own === 0 && !focus) return 0;
  const depth = layerValue(shot, layer, 'depth', frame);
  const scale = viewOfPlane(camera, depth)?.scale ?? 1;
  if (!focus || frameSizedKinds.includes(layer.source.kind)) return own * scale;
  const circle = circleOfConfusion(depth - camera.z, focus.depth - camera.z, focus.aperture);
  // An even disc spreads a quarter of its diameter, as a standard deviation.
  const spread = Math.hypot(own * scale, circle / 4);
  return spread < 0.15 ? 0 : spread;
}

function windowOf(moment: Moment, layer: Layer, seen: ReadonlySet<string>): DrawWindow | null {
  const { window } = layer;
  const other = window && moment.shot.layers.find((l) => l.id === window.to);
  if (!window || !other || seen.has(layer.id)) return null;
  const { document, shot, camera, frame } = moment;
  // A window may be hidden itself and still be looked through.
  const matte = drawOf(moment, other, (l) => !l.hidden || l.id === other.id, new Set(seen).add(layer.id));
  const matrix = layerMatrix(document, shot, other, camera, frame);
  const free = window.free && matrix ? freeLine(window.free, matrix) : null;
  return { matte, how: window.how, by: window.by, free };
}

function freeLine(
  { at, angle, soft }: NonNullable<NonNullable<Layer['window']>['free']>,
  matrix: Matrix,
): NonNullable<DrawWindow['free']> {
  const [x, y] = transform(matrix, ...at);
  const radians = (angle * Math.PI) / 180;
  // The line itself is carried over by the matrix; the free side is at right angles to it there.
  const [a, b, c, d] = matrix;
  const [lx, ly] = [-Math.sin(radians), Math.cos(radians)];
  const along: [number, number] = [a * lx + c * ly, b * lx + d * ly];
  const length = Math.hypot(...along) || 1;
  const side = a * d - b * c < 0 ? -1 : 1;
  return {
    x,
    y,
    dx: (side * along[1]) / length,
    dy: (-side * along[0]) / length,
    soft: soft * Math.sqrt(Math.abs(a * d - b * c)),
  };
}
