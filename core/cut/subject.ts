import { dilate } from '../pixels/distance.ts';
import {
  boundsOf,
  cropRgba,
  growRect,
  makeBytes,
  pasteBytes,
  unionRect,
  type Bytes,
  type Rect,
  type Rgba,
} from '../pixels/raster.ts';
import { resizedMask } from '../pixels/resample.ts';
import { cutAfterStroke, firstCut } from './coarse-cut.ts';
import { CutPicture } from './cut-picture.ts';
import { DROP, FREE, KEEP } from './graph-cut.ts';
import { fillingBest, foundWithin } from './in-box.ts';
import { thingAround } from './pressed-on.ts';
import { reachOf, refined, scaledRect, wholeOf } from './refine.ts';
import type { Answer } from './saliency.ts';
import { dropStrays, partAt } from './strays.ts';
import { drawAnyStroke } from './stroke-within-edges.ts';
import { boundsOfPoints, drawStroke, movedStroke, type Stroke } from './strokes.ts';

/** A stroke that teaches the cut; strokes are taken in the order of their turns, Keep before Drop where turns are alike. */
export interface TeachingStroke extends Stroke {
  turn?: number | undefined;
}

/** What the user asked for; everything needed to find the same mask again. */
export interface SubjectRequest {
  answer: Answer;
  keep: readonly TeachingStroke[];
  drop: readonly TeachingStroke[];
  /** Only what lies inside is taken; picture pixels. */
  box: Rect | null;
  /** The place that was pressed on: the thing there is taken and no other. Without one it is what stands out. */
  at?: readonly [number, number] | undefined;
}

export interface SubjectMask {
  /** 1 where the piece is, size of the picture. */
  mask: Bytes;
  /** What may differ from the previous answer of the same session; null when nothing does. */
  changed: Rect | null;
}

interface OrderedStroke {
  stroke: Stroke;
  keeps: boolean;
  /** Says all there is to say of it: between threads, equal strokes are never the same object. */
  name: string;
}

/** The cut after so many strokes: a mask for every level, and what the last stroke changed, in picture pixels. */
interface Turn {
  name: string;
  masks: readonly Bytes[] | null;
  changed: Rect | null;
}

/** How wide a press is, as a stroke's radius: a share of the picture's width. */
const pressed = 0.008;

/** How many turns keep their masks; earlier ones are found again when they are needed. */
const keptTurns = 24;
/** How many presses, answers and the like are remembered besides the last one. */
const keptBeginnings = 2;

/**
 * Finds a mask in one picture, again and again as strokes are added. The picture is solved at a coarse level by what is seen in
 * it, colour models and minimum cuts, then again in a narrow band at every finer level; then stroke after stroke, in the order
 * in which they were drawn, each changing only what hangs together with it. The mask so depends on picture and request alone:
 * what a session did before saves time and nothing else.
 */
export class CutSession {
  /** The turns that led to the last answer, for its answer and box. */
  private turns: Turn[] = [];
  private begunWith = '';
  /** What else was begun with before, the last of it at the end: presses are tried one after another, and taken back. */
  private readonly left: { begin: string; turns: Turn[] }[] = [];
  /** What was found for the last answer and box, before anything was pressed on or drawn. */
  private found: { name: string; masks: readonly Bytes[] } | null = null;
  /** A session of its own for the last box, on the part of the picture around it. */
  private inBox: { box: string; area: Rect; session: CutSession } | null = null;

  /**
   * @param around where the picture is a part of a larger one, what was found in that and lies in a box of this, if it is all there is
   */
  constructor(
    private readonly cut: CutPicture,
    private readonly around: (box: Rect) => Bytes | null = () => null,
  ) {}

  private get picture(): Rgba {
    return this.cut.picture;
  }

  /**
   * The mask that strokes make of one that is given, at full size: what was found before them does not count.
   * @param base 0/1, size of the picture  @param name says all there is to say of it
   */
  solveFrom(base: Bytes, name: string, request: SubjectRequest): SubjectMask {
    const begin = `from ${name}`;
    if (this.begunWith !== begin || this.turns.length === 0) {
      const masks = this.cut.levels.map(({ picture }) => resizedMask(base, picture.width, picture.height));
      this.turns = [{ name: '', masks, changed: wholeOf(this.picture) }];
      this.begunWith = begin;
      return { ...this.solveStrokes(request), changed: wholeOf(this.picture) };
    }
    return this.solveStrokes(request);
  }

  /** The mask for a request, at full size. */
  solve(request: SubjectRequest): SubjectMask {
    return request.box ? this.solveInBox(request, request.box) : this.solveHere(request);
  }

  /**
   * Around a box the rim of the box's surroundings is background for certain, which is just what saliency looks for; so the
   * box with a margin is solved as a picture of its own, at a finer scale than the whole would allow.
   */
  private solveInBox(request: SubjectRequest, box: Rect): SubjectMask {
    const { width, height } = this.picture;
    const name = JSON.stringify(box);
    if (this.inBox?.box !== name) {
      const margin = Math.round(0.14 * Math.max(box.width, box.height)) + 4;
      const [x, y] = [Math.floor(box.x), Math.floor(box.y)];
      const rounded = { x, y, width: Math.ceil(box.width), height: Math.ceil(box.height) };
      const area = growRect(rounded, margin, width, height);
      const around = (inArea: Rect): Bytes | null =>
        foundWithin(this.foundBefore({ answer: 'subject', box: null })[0]!, area, inArea);
      const part = new CutPicture(cropRgba(this.picture, area), this.cut.look);
      this.inBox = { box: name, area, session: new CutSession(part, around) };
    }
    const { area, session } = this.inBox;
    const moved = (strokes: readonly TeachingStroke[]): TeachingStroke[] =>
      strokes.map((stroke) => movedStroke(stroke, area.x, area.y));
    const { at } = request;
    const part = session.solveHere({
      answer: 'subject',
      at: at && [at[0] - area.x, at[1] - area.y],
      keep: moved(request.keep),
      drop: moved(request.drop),
      box: { ...box, x: box.x - area.x, y: box.y - area.y },
    });
    const mask = makeBytes(width, height);
    pasteBytes(mask, part.mask, area.x, area.y);
    this.turns = [];
    return { mask, changed: { x: 0, y: 0, width, height } };
  }

  private solveHere(request: SubjectRequest): SubjectMask {
    const begin = JSON.stringify([request.answer, request.box, request.at]);
    if (this.turns.length > 0 && begin === this.begunWith) return this.solveStrokes(request);
    this.goBackTo(begin);
    return { ...this.solveStrokes(request), changed: wholeOf(this.picture) };
  }

  /** Begins anew, or goes on where it was left when this was begun with last. */
  private goBackTo(begin: string): void {
    if (this.turns.length > 0) this.left.push({ begin: this.begunWith, turns: this.turns });
    // Masks of large pictures are large: of what was left the first and the last are enough to go on from.
    for (const turn of this.turns.slice(1, -1)) turn.masks = null;
    const known = this.left.findIndex((beginning) => beginning.begin === begin);
    this.turns = known < 0 ? [] : this.left.splice(known, 1)[0]!.turns;
    if (this.left.length > keptBeginnings) this.left.shift();
    this.begunWith = begin;
  }

  private solveStrokes(request: SubjectRequest): SubjectMask {
    const strokes = orderedStrokes(request);
    let changed: Rect | null = null;
    let alike = 0;
    while (alike < strokes.length && this.turns[alike + 1]?.name === strokes[alike]!.name) alike++;
    // What later turns changed is not so any more.
    for (const turn of this.turns.splice(alike + 1)) changed = unionRect(changed, turn.changed);
    while (this.turns.length > 1 && !this.turns.at(-1)!.masks) this.turns.pop();
    if (this.turns.length === 0) this.turns.push(this.firstTurn(request));
    for (let k = this.turns.length; k <= strokes.length; k++) {
      const turn = this.turnAfter(request, strokes.slice(0, k), this.turns.at(-1)!.masks!);
      this.turns.push(turn);
      changed = unionRect(changed, turn.changed);
      const old = this.turns[k - keptTurns];
      if (old && k - keptTurns > 0) old.masks = null;
    }
    return { mask: this.turns.at(-1)!.masks![0]!, changed };
  }

  /** Finds out beforehand what stands out in all of the picture, with which a press begins as well; nothing once something was asked for. */
  begin(): void {
    if (!this.found && !this.inBox && this.turns.length === 0) this.foundBefore({ answer: 'subject', box: null });
  }

  private foundBefore(request: Pick<SubjectRequest, 'answer' | 'box'>): readonly Bytes[] {
    const name = JSON.stringify([request.answer, request.box]);
    if (this.found?.name !== name) {
      const masks = request.box ? this.foundInBox(request, request.box) : this.foundIn(request);
      this.found = { name, masks };
    }
    return this.found.masks;
  }

  private firstTurn(request: SubjectRequest): Turn {
    const masks = this.foundBefore(request);
    const begun = request.at ? this.pointedAt(request, request.at, masks) : masks;
    return { name: '', masks: begun, changed: wholeOf(this.picture) };
  }

  /** Textures and colours together find a part only, now and then; a box tells. */
  private foundInBox(request: Pick<SubjectRequest, 'answer' | 'box'>, box: Rect): readonly Bytes[] {
    return fillingBest(box, [
      () => this.foundIn(request),
      () => this.foundIn(request, false),
      () => {
        const mask = this.around(box);
        return mask && this.cut.levels.map(({ picture }) => resizedMask(mask, picture.width, picture.height));
      },
    ]);
  }

  /** What is found before anything is pressed on or drawn, at every size. @param textured whether textures count */
  private foundIn(request: Pick<SubjectRequest, 'answer' | 'box'>, textured = true): readonly Bytes[] {
    const found = this.cut.coarse(request.answer);
    const coarse = textured ? found : { ...found, textures: null };
    const seeds = this.seedsOf(request.box, [], this.cut.levels.length - 1, wholeOf(coarse.picture), coarse.picture);
    const { mask, colours } = firstCut(coarse, seeds);
    if (request.answer === 'subject') dropStrays(mask, seeds);
    return refined(this.cut.levels, mask, colours, (...part) => this.seedsOf(request.box, [], ...part), null);
  }

  /** Of what was found the thing at a place; where nothing was found there, what a Keep stroke on it takes. */
  private pointedAt(request: SubjectRequest, [x, y]: readonly [number, number], found: readonly Bytes[]): Bytes[] {
    const { width, height, data } = found[0]!;
    const [u, v] = [Math.floor(x), Math.floor(y)].map((c, k) => Math.max(0, Math.min([width, height][k]! - 1, c)));
    const radius = Math.max(1.5, pressed * width);
    const dot = { points: [[x, y] as const], radius, withinEdges: true };
    const press = { stroke: dot, keeps: true, name: 'pressed on' };
    const masks = data[v! * width + u!] ? found : this.turnAfter(request, [press], found).masks!;
    const only = partAt(masks[0]!, x, y, this.cut.levels.at(-1)!.picture);
    // Where the press shows nothing but itself, it is added to what was found.
    const alone = only.data.reduce((sum, v) => sum + v, 0) < 20 * radius * radius;
    const thing = request.answer === 'subject' ? thingAround(this.cut, [x, y], alone ? masks[0]! : only) : null;
    if (thing && request.box) keepWithin(thing, request.box);
    if (!thing && alone) return [...masks];
    return masks.map((mask) => resizedMask(thing ?? only, mask.width, mask.height));
  }

  /** @param strokes all up to and with the one that is new  @param before the masks without that one */
  private turnAfter(request: SubjectRequest, strokes: readonly OrderedStroke[], before: readonly Bytes[]): Turn {
    const { stroke, keeps, name } = strokes.at(-1)!;
    if (stroke.radii) return this.turnOfLine(name, before, stroke, keeps ? 1 : 0);
    const last = this.cut.levels.length - 1;
    const coarse = this.cut.coarse(request.answer);
    const seeds = this.seedsOf(request.box, strokes, last, wholeOf(coarse.picture), coarse.picture);
    const drawn = makeBytes(coarse.picture.width, coarse.picture.height);
    const scale = coarse.picture.width / this.picture.width;
    drawAnyStroke(drawn, coarse.picture, stroke, 1, scale);
    const cut = cutAfterStroke(coarse, before[last]!, { seeds, drawn, keeps });
    const cells = makeBytes(drawn.width, drawn.height);
    for (let i = 0; i < cells.data.length; i++) cells.data[i] = cut.mask.data[i] === before[last]!.data[i] ? 0 : 1;
    drawStroke(cells, stroke, 1, scale);
    const bounds = boundsOf(cells);
    if (!bounds) return { name, masks: before, changed: null };
    const dirty = dilate(cells, 3);
    const change = { cells: dirty, before, keeps };
    const seedsOf = (...part: [number, Rect, Rgba]): Bytes => this.seedsOf(request.box, strokes, ...part);
    const masks = refined(this.cut.levels, cut.mask, cut.colours, seedsOf, change);
    return { name, masks, changed: scaledRect(reachOf(dirty)!, this.picture.width / dirty.width, this.picture) };
  }

  /** A thin line is taken, or left out, as it was found: colours beside it are not judged anew. */
  private turnOfLine(name: string, before: readonly Bytes[], stroke: Stroke, value: 0 | 1): Turn {
    const { width, height } = this.picture;
    const masks = before.map((mask) => {
      const drawn = { ...mask, data: mask.data.slice() };
      drawStroke(drawn, stroke, value, mask.width / width);
      return drawn;
    });
    const brush = Math.ceil(Math.max(stroke.radius, ...(stroke.radii ?? []))) + 2;
    return { name, masks, changed: growRect(boundsOfPoints(stroke), brush, width, height) };
  }

  /** The user's decisions on a part of a level. @param picture that part */
  private seedsOf(
    box: Rect | null,
    strokes: readonly OrderedStroke[],
    index: number,
    area: Rect,
    picture: Rgba,
  ): Bytes {
    const { width, height } = area;
    const scale = this.cut.levels[index]!.picture.width / this.picture.width;
    const seeds = makeBytes(width, height, FREE);
    for (const { stroke, keeps } of strokes)
      drawAnyStroke(seeds, picture, movedStroke(stroke, area.x / scale, area.y / scale), keeps ? KEEP : DROP, scale);
    if (!box) return seeds;
    for (let y = 0; y < height; y++) {
      const py = (area.y + y + 0.5) / scale;
      for (let x = 0; x < width; x++) {
        const px = (area.x + x + 0.5) / scale;
        if (isOutside(box, px, py)) seeds.data[y * width + x] = DROP;
      }
    }
    return seeds;
  }
}

/** Takes away whatever has its centre outside a box; a mask of the size of the picture. */
function keepWithin({ width, height, data }: Bytes, box: Rect): void {
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) if (isOutside(box, x + 0.5, y + 0.5)) data[y * width + x] = 0;
}

const isOutside = ({ x, y, width, height }: Rect, px: number, py: number): boolean =>
  px < x || py < y || px > x + width || py > y + height;

/** All strokes of a request in the order in which they were drawn. */
function orderedStrokes({ keep, drop }: SubjectRequest): OrderedStroke[] {
  const of = (strokes: readonly TeachingStroke[], keeps: boolean) =>
    strokes.map((stroke) => ({ stroke, keeps, turn: stroke.turn ?? 0, name: `${keeps} ${JSON.stringify(stroke)}` }));
  return [...of(keep, true), ...of(drop, false)].sort((a, b) => a.turn - b.turn);
}
