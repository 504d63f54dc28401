import type { Look } from '../learned/subject-networks.ts';
import type { Bytes, Rgba } from '../pixels/raster.ts';
import { texturesOf } from './texture.ts';
import { averagedTo, enlargedPlane, halve, resizedMask } from '../pixels/resample.ts';
import type { CoarsePicture } from './coarse-cut.ts';
import { contrastScale } from './graph-cut.ts';
import type { Level } from './refine.ts';
import type { Answer } from './saliency.ts';
import { SubjectEvidence } from './subject-evidence.ts';

/** The coarsest level is at most this long: large enough for a mast, small enough for a cut in some tens of milliseconds. */
const coarsestEdge = 400;

/**
 * Pixels of the longer side of the copies in which a subject is looked for: one for networks, textures and focus, one for
 * superpixels. They are the same for pictures of any size, or what is found would depend on it. A picture that is smaller is
 * looked at as it is: made larger, flat colours are no longer found in it.
 */
const [seenLength, judgedLength] = [825, 275];

/** How closely a picture is looked at. */
export interface Closeness {
  /** Superpixels that are compared with one another. */
  segments: number;
  /** Networks look at a level whose longer side is no smaller than this, where there is one; null: at a copy of the usual size. */
  seenEdge: number | null;
  /** Whether networks look again from nearer at what they found small. */
  again: boolean;
  /** Whether textures count: a small part of a picture shows too little of them to learn from. */
  textures: boolean;
}

const asAWhole: Closeness = { segments: 400, seenEdge: null, again: true, textures: true };

/** A picture made ready to be cut, as often as wanted: its sizes, and what speaks for a subject in it. */
export class CutPicture {
  private evidence: SubjectEvidence | null = null;
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
    const known = this.found.get(answer);
    if (known) return known;
    const level = this.levels.at(-1)!;
    const { width, height } = level.picture;
    const { seen, judged } = this.copies();
    this.evidence ??= new SubjectEvidence(judged, seen, this.look, this.closeness);
    const { prior, novelty, lasting } = this.evidence.for(answer);
    const other = this.found.values().next().value;
    const textures = other ? other.textures : this.texturesIn(seen, judged);
    const evidence = {
      prior: enlargedPlane(prior, width, height),
      novelty: enlargedPlane(novelty, width, height),
      lasting,
    };
    const coarse = { ...level, evidence, textures };
    this.found.set(answer, coarse);
    return coarse;
  }

  private texturesIn(seen: Rgba, judged: Rgba): Bytes | null {
    if (!this.closeness.textures) return null;
    const { width, height } = this.levels.at(-1)!.picture;
    return resizedMask(texturesOf(seen, judged), width, height);
  }

  private copies(): { seen: Rgba; judged: Rgba } {
    const own = this.closeness.seenEdge !== null || longerSide(this.picture) < seenLength;
    return { seen: this.seen(), judged: own ? this.levels.at(-1)!.picture : this.sized(judgedLength) };
  }

  /** The copy that networks look at. */
  seen(): Rgba {
    const { seenEdge } = this.closeness;
    if (seenEdge !== null) return this.noSmallerThan(seenEdge);
    return longerSide(this.picture) < seenLength ? this.picture : this.sized(seenLength);
  }

  /** A copy whose longer side has so many pixels, no more than the picture's. */
  private sized(length: number): Rgba {
    const picture = this.noSmallerThan(length);
    const scale = length / longerSide(picture);
    const [width, height] = [picture.width, picture.height].map((v) => Math.max(1, Math.round(v * scale)));
    return averagedTo(picture, width!, height!);
  }

  /** The coarsest level whose longer side is no smaller, or the picture itself. */
  private noSmallerThan(length: number): Rgba {
    return (this.levels.findLast(({ picture }) => longerSide(picture) >= length) ?? this.levels[0]!).picture;
  }
}

const longerSide = ({ width, height }: Rgba): number => Math.max(width, height);

/** A picture and its halves, until one is no longer than `edge`. */
export function levelsOf(picture: Rgba, edge = coarsestEdge): Level[] {
  const levels: Level[] = [];
  for (let level = picture; ; level = halve(level)) {
    levels.push({ picture: level, beta: contrastScale(level) });
    if (longerSide(level) <= edge) return levels;
  }
}
