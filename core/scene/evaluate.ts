import { finishKind } from '../finish/finishes.ts';
import { valuesAt } from '../settings/setting.ts';
import { circleOfConfusion, viewOfPlane, type Camera } from '../depth/camera.ts';
import type { Document } from '../document/document.ts';
import type {
  Content,
  Draw,
  DrawClip,
  DrawFinishes,
  DrawRelief,
  DrawWindow,
  EvaluatedFrame,
  FinishNow,
  SwayNow,
} from './draw.ts';
import type { Bubble, Layer, LayerSource, Sway } from '../document/layer.ts';
import { bubbleNow } from './bubble-now.ts';
import { compose, invert, transform, type Matrix } from './matrix.ts';
import { cameraAt, layerMatrix, restMatrix, standingOf } from './place.ts';
import { heldFrame, layerValue } from './values.ts';
import { boundsOfOutlines, outlinesOfShape } from '../document/points.ts';
import type { Shot } from '../document/shot.ts';
import { arrivalsAt, byLetters, wholeState } from './arriving.ts';
import type { ArrivalNow } from '../arrive/course.ts';
import { boundsOfDraws, movedDraw } from './moved-draw.ts';
import { repeated, withinShot } from './repeat.ts';
import { propNow, slicedByDepth, type DepthRange } from './slab.ts';
import { barOf, pixelsOf, type SourceBox } from './source-pixels.ts';
import { wordsNow, type TextNow, type TextSource } from './words-now.ts';

interface Moment {
  document: Document;
  shot: Shot;
  frame: number;
  camera: Camera;
  /** The camera at another moment. */
  cameraThen(frame: number): Camera;
  /** Of a layer that lies between two distances, which of them are meant; null for all. */
  slice: DepthRange | null;
  /** Whether this is one of several moments of a smeared layer: then nothing in it is smeared again. */
  sampled: boolean;
}

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
  const { repeat } = layer;
  const first = drawOf(moment, layer, shown, seen);
  if (!repeat || layer.source.kind === 'colour' || layer.source.kind === 'grade') return first;
  const { document, shot, camera } = moment;
  return repeated(repeat, sizeAtRest(document, shot, layer), (delay) => {
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
  const arrivals = arrivalsOf(moment, layer);
  const made = contentOf({ moment, layer, shown, seen, arrivals });
  if (!made) return [];
  const { content, box } = made;
  const arriving = arriveWhole(made, matrix, arrivals);
  if (arriving.opacity <= 0) return [];
  const finishes = finishesOf(moment, layer);
  if (content.kind === 'grade' && !finishes) return [];
  const blur = content.kind === 'grade' ? 0 : blurOf(moment, layer);
  const window = windowOf(moment, layer, seen);
  const plain = !window && layer.masks.length === 0 && layer.blend === 'normal' && opacity >= 1;
  const whole = plain && arriving.opacity >= 1 && arriving.clips.length === 0;
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
      masks: layer.masks.length > 0 ? { shapes: layer.masks, matrix: arriving.matrix } : null,
      window,
      clips: arriving.clips,
      finishes,
      opaque: made.opaque && still && whole && arrivals.length === 0,
    },
  ];
}

const upright: Matrix = [1, 0, 0, 1, 0, 0];

const wordsOf = ({ document, shot, frame }: Moment, layer: Layer, source: TextSource): TextNow =>
  wordsNow(shot, layer, source, frame, (other) => restMatrix(document, shot, other, frame));

/** How a layer comes and goes at a moment; what is as large as the frame does so in frame pixels. */
function arrivalsOf(moment: Moment, layer: Layer): ArrivalNow[] {
  const { document, shot, frame } = moment;
  if (!layer.arrive && !layer.leave) return [];
  const { source } = layer;
  const bar = source.kind === 'text' ? wordsOf(moment, layer, source) : barOf(shot, layer);
  return arrivalsAt(layer, bar, frame, 1 / sizeAtRest(document, shot, layer));
}

/** Frame pixels per pixel of a layer's source as it lies at rest. */
function sizeAtRest(document: Document, shot: Shot, layer: Layer): number {
  const frameSized = frameSizedKinds.includes(layer.source.kind);
  const [a, b, c, d] = frameSized ? upright : restMatrix(document, shot, layer, 0);
  return Math.sqrt(Math.abs(a * d - b * c)) || 1;
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

/** Kinds of sources that are as large as the frame; each of a group's members is as far away as it is. */
const frameSizedKinds: readonly string[] = ['group', 'colour', 'grade'];

/** The finishes that are not muted, as they stand at the frame. */
function finishesOf({ document, shot, frame }: Moment, layer: Layer): DrawFinishes | null {
  const held = heldFrame(layer, frame);
  const list = layer.finishes.flatMap((finish): FinishNow[] => {
    const kind = finish.muted ? undefined : finishKind(finish.kind);
    if (!kind) return [];
    const values = valuesAt(kind.settings, finish.settings, held);
    return [{ kind: kind.id, values, frame: kind.moves?.(values) ? held : null }];
  });
  if (list.length === 0) return null;
  return { list, size: sizeAtRest(document, shot, layer), length: shot.length };
}

const movedBy = (matrix: Matrix, { x, y }: SourceBox): Matrix => compose(matrix, [1, 0, 0, 1, x, y]);

/** What a layer shows, in which box of its source, and whether all of the box is covered. */
interface Made {
  content: Content;
  box: SourceBox;
  opaque: boolean;
}

/** What the content of a layer is made from beside its source. */
interface Making {
  moment: Moment;
  layer: Layer;
  shown(layer: Layer): boolean;
  seen: ReadonlySet<string>;
  arrivals: readonly ArrivalNow[];
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
    const draws = drawsOf(making.moment, making.layer.id, making.shown, making.seen);
    return draws.length > 0 ? { content: { kind: 'together', draws }, box: frameBox(making), opaque: false } : null;
  },
  text: (source, making) => {
    const text = wordsOf(making.moment, making.layer, source);
    const arrivals = making.arrivals.filter(byLetters);
    const bubble = source.bubble && bubbleNow(source, source.bubble, text, (tail) => tipOf(making, tail));
    const content: Content = { kind: 'text', text, colour: colourOf(making), arrivals, bubble };
    return { content, box: { ...source.box, x: text.x, y: 0 }, opaque: false };
  },
  prop: (source, { moment, layer }) => ({
    content: propNow(moment, layer, source),
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

const contentOf = (making: Making): Made | null =>
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
  const pixels = pixelsOf(document, source, { frame: heldFrame(layer, frame), timing: layer.timing });
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

function swaysOf({ shot, frame }: Moment, layer: Layer, pixels: SourceBox): SwayNow[] {
  return layer.sways.flatMap((sway) => {
    const settings = settingsOf(shot, sway);
    if (settings.strength === 0) return [];
    const { soft, direction, size, strength, pinned, shade, loops } = settings;
    const period = loops ? shot.length / Math.max(1, Math.round(shot.length / settings.period)) : settings.period;
    const turn = heldFrame(layer, frame) / period + sway.phase;
    const region = sway.region
      ? { ...sway.region, x: sway.region.x - pixels.x, y: sway.region.y - pixels.y }
      : { form: 'rectangle' as const, x: 0, y: 0, width: pixels.width, height: pixels.height };
    return [{ region, whole: !sway.region, soft, direction, size, strength, pinned, shade, turn }];
  });
}

function reliefOf({ document, shot, frame, camera }: Moment, layer: Layer, pixels: SourceBox): DrawRelief | null {
  const { relief } = layer;
  if (!relief?.file) return null;
  const depth = layerValue(shot, layer, 'depth', frame);
  const near = depth * relief.near;
  // What would be at or behind the lens has no picture.
  if (near <= camera.z) return null;
  const rest = movedBy(restMatrix(document, shot, layer, frame), pixels);
  return { file: relief.file, camera, near, far: depth * relief.far, toImage: invert(rest) };
}

/** A sway's settings: its own, or those of the one it is like. */
export function settingsOf(shot: Shot, sway: Sway, seen = new Set<string>()): Sway {
  if (!sway.like || seen.has(sway.id)) return sway;
  const like = shot.layers.flatMap((l) => l.sways).find((s) => s.id === sway.like);
  return like ? settingsOf(shot, like, new Set(seen).add(sway.id)) : sway;
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
