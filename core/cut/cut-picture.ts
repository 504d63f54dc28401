import type { Look } from '../learned/subject-networks.ts';
import type { Rgba } from '../pixels/raster.ts';
import { halve } from '../pixels/resample.ts';
import type { CoarsePicture } from './coarse-cut.ts';
import { contrastScale } from './graph-cut.ts';
import type { Level } from './refine.ts';
import type { Answer } from './saliency.ts';
import { SubjectEvidence } from './subject-evidence.ts';

/** The coarsest level is at most this long: large enough for a mast, small enough for a cut in some tens of milliseconds. */
const coarsestEdge = 400;
/** Networks look at a copy no smaller than this, where there is one: a closer look then finds something to look at. */
const seenEdge = 500;

/** A picture made ready to be cut, as often as wanted: its sizes, and what speaks for a subject in it. */
export class CutPicture {
  /** The picture itself first, each further level half as large. */
  readonly levels: readonly Level[];
  private evidence: SubjectEvidence | null = null;

  /** @param look what networks see; every cut of a picture is given the same */
  constructor(
    readonly picture: Rgba,
    readonly look: Look,
  ) {
    const levels: Level[] = [];
    for (let level = picture; ; level = halve(level)) {
      levels.push({ picture: level, beta: contrastScale(level) });
      if (Math.max(level.width, level.height) <= coarsestEdge) break;
    }
    this.levels = levels;
  }

  /** The coarsest level with what speaks for an answer in it; found once. */
  coarse(answer: Answer): CoarsePicture {
    const { picture, beta } = this.levels.at(-1)!;
    const seen = this.levels.findLast((level) => Math.max(level.picture.width, level.picture.height) >= seenEdge);
    this.evidence ??= new SubjectEvidence(picture, (seen ?? this.levels[0]!).picture, this.look);
    return { picture, beta, evidence: this.evidence.for(answer) };
  }
}
