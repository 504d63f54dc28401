import { bandRadius } from '../../core/cut/alpha.ts';
import { alphaWithLines, alphaWithLinesInSteps } from '../../core/cut/line-alpha.ts';
import { LiveWire } from '../../core/cut/live-wire.ts';
import { CutPicture } from '../../core/cut/cut-picture.ts';
import { CutSession } from '../../core/cut/subject.ts';
import type { Look } from '../../core/learned/subject-networks.ts';
import { goneOn, onPlainGround, withColoursGoingOn } from '../../core/pixels/emptiness.ts';
import { halvedTo } from '../../core/pixels/resample.ts';
import { doneInSteps } from '../../core/pixels/steps.ts';
import { alphaOf, boundsOf, growRect, unionRect, type Bytes, type Rect, type Rgba } from '../../core/pixels/raster.ts';
import { findByFile, findPiece, type Found } from '../../core/make/cut-piece.ts';
import { stepsOf } from '../../core/document/recipe-steps.ts';
import { keyAt } from '../../core/document/figure.ts';
import { keySoftness } from '../../core/film/carry-figure.ts';
import { softAlpha } from '../../core/film/soft-alpha.ts';
import type { CutRecipe, FigureKey, RecipeStep, SubjectRecipe } from '../../core/document/recipe.ts';
import { fileUrlOf, loadPixels } from './pixels.ts';

/** A subject that is being found, with what earlier strokes found out. */
export interface Subject {
  session: CutSession;
  /** What it was asked for last. */
  strokes: Pick<SubjectRecipe, 'keep' | 'drop'>;
  /** As if nothing of the picture were empty. */
  alpha: Bytes | null;
  /** What changed since alpha was last estimated. */
  stale: Rect | null;
  /** Whether alpha was estimated for all of the mask at once, so that it follows from the mask alone. */
  settled: boolean;
}

/** In so many pixels what stands out is found so soon that nobody has to wait who wants something else. */
const soonFound = 3e6;

/** The picture that is worked on, and what is kept of it between requests. */
export class OpenPicture {
  private readonly subjects = new Map<string, Subject>();
  private base: { file: string; mask: Bytes } | null = null;
  private wire: { live: LiveWire; scale: number; from: string } | null = null;
  /** Whether what is shown is more than one subject's plain alpha, so that all of it has to be shown anew. */
  dressed = false;
  /** Alpha as it is shown now. */
  shown: Bytes | null = null;
  /** Whether its colours are a key's own and not the picture's. */
  keyed = false;

  private readonly cut: CutPicture;
  /** With colours where the picture is empty: the edge of what is there is no edge of a piece. */
  private readonly whole: Rgba;

  /** @param name what it is, in the words of its files  @param look what networks see in it */
  constructor(
    readonly name: string,
    readonly picture: Rgba,
    look: Look,
    /** Which frame of a clip it is. */
    private readonly frame = 0,
  ) {
    this.cut = new CutPicture(onPlainGround(picture), look);
    this.whole = withColoursGoingOn(picture);
    this.beforehand = [() => this.cut.coarse('subject')];
    if (picture.width * picture.height <= soonFound)
      this.beforehand.push(() => this.subjectAt('first', { keep: [], drop: [] }).session.begin());
  }

  /** What can be found out beforehand: one step after another. */
  private readonly beforehand: (() => void)[];

  /** Finds out one thing beforehand that a press asks for first; false where nothing is left of that. */
  prepare(): boolean {
    this.beforehand.shift()?.();
    return this.beforehand.length > 0;
  }

  /** The same for somebody who has been shown nothing of it yet. */
  shownAnew(): this {
    this.shown = null;
    this.dressed = true;
    return this;
  }

  /** Whether a subject was found before, so that finding it again is quick. */
  knows(step: string): boolean {
    return this.subjects.get(step)?.alpha != null;
  }

  private subjectAt(step: string, strokes: Subject['strokes']): Subject {
    const known = this.subjects.get(step);
    if (known) return known;
    const session = new CutSession(this.cut);
    const subject: Subject = { session, strokes, alpha: null, stale: null, settled: false };
    this.subjects.set(step, subject);
    return subject;
  }

  /** The hard mask of a step's subject, going on into what is empty; what changed is remembered until its alpha is asked for. */
  subjectOf(step: string, recipe: SubjectRecipe): { subject: Subject; mask: Bytes } {
    const subject = this.subjectAt(step, recipe);
    subject.strokes = recipe;
    const { mask, changed } = subject.session.solve(recipe);
    subject.stale = unionRect(subject.stale, changed);
    if (changed) subject.settled = false;
    return { subject, mask: goneOn(mask, this.picture) };
  }

  /**
   * Estimates alpha where the mask changed: soon enough to be seen after a stroke, but edges far away that the stroke bears on
   * stay as they were until `settle`.
   * @returns the part of it that is new
   */
  refresh(subject: Subject, mask: Bytes): Rect | null {
    const { width, height } = this.picture;
    if (!subject.stale && subject.alpha) return null;
    const stale = subject.stale ?? { x: 0, y: 0, width, height };
    const area = growRect(stale, bandRadius(width, height) * 5, width, height);
    subject.alpha = alphaWithLines(this.whole, mask, subject.strokes, area, subject.alpha ?? undefined);
    subject.stale = null;
    subject.settled = area.width === width && area.height === height;
    return area;
  }

  /**
   * Estimates alpha from all of the mask, so that the same mask has the same alpha whatever led to it.
   * @param between is called after every moment; what it throws leaves all as it was  @returns what it changed
   */
  async settle(subject: Subject, mask: Bytes, between: () => Promise<void>): Promise<Rect | null> {
    if (subject.settled) return null;
    const before = subject.alpha;
    subject.alpha = await doneInSteps(alphaWithLinesInSteps(this.whole, mask, subject.strokes), between);
    subject.stale = null;
    subject.settled = true;
    if (!before) return { x: 0, y: 0, width: mask.width, height: mask.height };
    const { data } = subject.alpha;
    return boundsOf({ ...mask, data: data.map((value, i) => (value === before.data[i] ? 0 : 1)) });
  }

  /**
   * What a recipe finds, before edge care.
   * @param between is called after every costly step  @param soon where being quick matters more than far edges
   */
  find(recipe: CutRecipe, between: () => Promise<void>, soon = false): Promise<Found> {
    return findPiece(this.picture, recipe, async (step) => {
      const found = await this.findStep(step, soon, between);
      await between();
      return found;
    });
  }

  private async findStep(step: RecipeStep, soon: boolean, between: () => Promise<void>): Promise<Found> {
    const { recipe } = step;
    if (recipe.kind === 'subject') {
      const { subject, mask } = this.subjectOf(step.id, recipe);
      if (soon) this.refresh(subject, mask);
      else await this.settle(subject, mask, between);
      return { alpha: subject.alpha!, colours: null };
    }
    const load = (file: string): Promise<Rgba> => loadPixels(fileUrlOf(file));
    const key = recipe.kind === 'figure' ? keyAt(recipe, this.frame) : null;
    if (key)
      return { alpha: softAlpha(this.picture, keySoftness(await this.maskOfKey(step.id, key, load))), colours: null };
    return findByFile(this.picture, step, load, this.frame);
  }

  /** The mask of a frame in which a figure was found, or put right by strokes. */
  async maskOfKey(step: string, key: FigureKey, load: (file: string) => Promise<Rgba>): Promise<Bytes> {
    const session = this.subjects.get(step)?.session ?? new CutSession(this.cut);
    this.subjects.set(step, { session, strokes: key, alpha: null, stale: null, settled: true });
    if (!key.base) return session.solve(key).mask;
    if (this.base?.file !== key.base) {
      const { width, height, data } = alphaOf(await load(key.base));
      this.base = { file: key.base, mask: { width, height, data: data.map((a) => (a >= 128 ? 1 : 0)) } };
    }
    return session.solveFrom(this.base.mask, key.base, key).mask;
  }

  /** Whether a recipe holds a subject whose alpha is not that of all its mask yet. */
  unsettled(recipe: CutRecipe): boolean {
    return stepsOf(recipe).some(({ id, recipe: { kind } }) => kind === 'subject' && !this.subjects.get(id)?.settled);
  }

  /** The way along edges from one place to another, found on a copy small enough to answer while the pointer moves. */
  wayAlongEdges(from: [number, number], to: [number, number], strength: number): [number, number][] {
    if (!this.wire) {
      const { picture, halvings } = halvedTo(this.picture, 1300);
      this.wire = { live: new LiveWire(picture), scale: 2 ** halvings, from: '' };
    }
    const { live, scale } = this.wire;
    const start = `${from.join()},${strength}`;
    if (this.wire.from !== start) live.start([from[0] / scale, from[1] / scale], strength);
    this.wire.from = start;
    const way = live.wayTo([to[0] / scale, to[1] / scale]).map(([x, y]): [number, number] => [x * scale, y * scale]);
    // The ends are where they were pressed, not the middles of coarse pixels.
    return way.length < 2 ? [from, to] : [from, ...way.slice(1, -1), to];
  }
}
