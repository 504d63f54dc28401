import type { Look } from '../learned/subject-networks.ts';
import type { Bytes, Plane, Rgba } from '../pixels/raster.ts';
import { texturesOf } from './texture.ts';
import { averagedTo, enlargedPlane, halve } from '../pixels/resample.ts';
import type { CoarsePicture, Evidence } from './coarse-cut.ts';
import { atSizeOfFocus, brightnessOf } from './focus.ts';
import { contrastScale } from './graph-cut.ts';
import type { Level } from './refine.ts';
import type { Answer } from './saliency.ts';
import { SubjectEvidence, type FinerCopies } from './subject-evidence.ts';

/** The coarsest level is at most this long: large enough for a mast, small enough for a cut in some tens of milliseconds. */
const coarsestEdge = 400;

/**
 * A coarsest level longer than the one is looked at in a copy as long as the other when a subject is searched in it: or what is
 * found would depend on how many halves it is away from the picture.
 */
const [longToJudge, judgedEdge] = [270, 225];
/** Textures and focus are seen in a level whose longer side is no smaller than this, where there is one. */
const [textureEdge, focusEdge] = [700, 900];

/** How closely a picture is looked at. */
export interface Closeness {
  /** Superpixels that are compared with one another. */
  segments: number;
  /** Networks look at a copy whose longer side is no smaller than this, where there is one. */
  seenEdge: number;
  /** Whether networks look again from nearer at what they found small. */
  again: boolean;
  /** Whether it is a whole picture. A small part shows too little of its textures to learn from, and is small enough to be judged. */
  whole: boolean;
}

const asAWhole: Closeness = { segments: 400, seenEdge: 500, again: true, whole: true };

/** A picture made ready to be cut, as often as wanted: its sizes, and what speaks for a subject in it. */
export class CutPicture {
  private evidence: SubjectEvidence | null = null;
  private textures: Bytes | null = null;
  private readonly found = new Map<Answer, CoarsePicture>();

  /**
   * @param look what networks see; every cut of a picture is given the same
   * @param levels the picture itself first, each further level half as large
   */
  constructor(
    readonly picture: Rgba,
    readonly look: Look,
    readonly levels: readonly Level[] = levelsOf(picture),
    private readonly closeness = asAWhole,
  ) {}

  /** The coarsest level with what speaks for an answer in it; found once. */
  coarse(answer: Answer): CoarsePicture {
    let coarse = this.found.get(answer);
    if (!coarse) {
      const { picture, beta } = this.levels.at(-1)!;
      if (this.closeness.whole) this.textures ??= texturesOf(this.noSmallerThan(textureEdge), picture);
      coarse = { picture, beta, evidence: this.evidenceFor(answer), textures: this.textures };
      this.found.set(answer, coarse);
    }
    return coarse;
  }

  private evidenceFor(answer: Answer): Evidence {
    const { picture } = this.levels.at(-1)!;
    const { width, height } = picture;
    const edge = Math.max(width, height);
    const scale = this.closeness.whole && edge > longToJudge ? judgedEdge / edge : 1;
    const judged = scale < 1 ? averagedTo(picture, Math.round(width * scale), Math.round(height * scale)) : picture;
    this.evidence ??= new SubjectEvidence(judged, this.copies(), this.look, this.closeness);
    const { prior, novelty, lasting } = this.evidence.for(answer);
    if (judged === picture) return { prior, novelty, lasting };
    return { prior: enlargedPlane(prior, width, height), novelty: enlargedPlane(novelty, width, height), lasting };
  }

  /** What finer copies there are for: networks, and telling what is in focus. */
  private copies(): FinerCopies {
    const seen = this.seen();
    const focus = (): Plane =>
      this.closeness.whole ? atSizeOfFocus(this.noSmallerThan(focusEdge)) : brightnessOf(seen);
    return { seen, focus };
  }

  /** The copy that networks look at. */
  seen(): Rgba {
    return this.noSmallerThan(this.closeness.seenEdge);
  }

  private noSmallerThan(edge: number): Rgba {
    const level = this.levels.findLast(({ picture: { width, height } }) => Math.max(width, height) >= edge);
    return (level ?? this.levels[0]!).picture;
  }
}

/** A picture and its halves, until one is no longer than `edge`. */
export function levelsOf(picture: Rgba, edge = coarsestEdge): Level[] {
  const levels: Level[] = [];
  for (let level = picture; ; level = halve(level)) {
    levels.push({ picture: level, beta: contrastScale(level) });
    if (Math.max(level.width, level.height) <= edge) return levels;
  }
}
