import type { Look } from '../learned/subject-networks.ts';
import type { Bytes, Rgba } from '../pixels/raster.ts';
import { texturesOf } from './texture.ts';
import { halve } from '../pixels/resample.ts';
import type { CoarsePicture } from './coarse-cut.ts';
import { contrastScale } from './graph-cut.ts';
import type { Level } from './refine.ts';
import type { Answer } from './saliency.ts';
import { SubjectEvidence } from './subject-evidence.ts';

/** The coarsest level is at most this long: large enough for a mast, small enough for a cut in some tens of milliseconds. */
const coarsestEdge = 400;

/** How closely a picture is looked at. */
export interface Closeness {
  /** Superpixels that are compared with one another. */
  segments: number;
  /** Networks look at a copy whose longer side is no smaller than this, where there is one. */
  seenEdge: number;
  /** Whether networks look again from nearer at what they found small. */
  again: boolean;
  /** Whether textures count: a small part of a picture shows too little of them to learn from. */
  textures: boolean;
}

const asAWhole: Closeness = { segments: 400, seenEdge: 500, again: true, textures: true };

/** A picture made ready to be cut, as often as wanted: its sizes, and what speaks for a subject in it. */
export class CutPicture {
  private evidence: SubjectEvidence | null = null;
  private textures: Bytes | null = null;

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
    const { picture, beta } = this.levels.at(-1)!;
    this.evidence ??= new SubjectEvidence(picture, this.seen(), this.look, this.closeness);
    if (this.closeness.textures) this.textures ??= texturesOf(this.seen(), picture);
    return { picture, beta, evidence: this.evidence.for(answer), textures: this.textures };
  }

  /** The copy that networks look at. */
  seen(): Rgba {
    const seen = this.levels.findLast(
      (level) => Math.max(level.picture.width, level.picture.height) >= this.closeness.seenEdge,
    );
    return (seen ?? this.levels[0]!).picture;
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
