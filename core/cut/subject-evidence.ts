import type { Look } from '../learned/subject-networks.ts';
import { lumaOf } from '../pixels/color.ts';
import { makePlane, type Plane, type Rgba } from '../pixels/raster.ts';
import { blendedPrior, surest, type Blend } from './candidates.ts';
import type { Evidence } from './coarse-cut.ts';
import { centredLogOdds, noveltyOf } from './evidence.ts';
import { focusEvidence, focusStrength } from './focus.ts';
import { saliencyOf, type Answer } from './saliency.ts';
import { superpixelsOf } from '../pixels/superpixels.ts';

/** Finer copies of a picture. */
export interface FinerCopies {
  /** For networks to look at. */
  seen: Rgba;
  /** Brightness, to tell what is in focus; made when it is asked for. */
  focus(): Plane;
}

/** What speaks for a subject in one picture, for either answer; found when it is asked for first. */
export class SubjectEvidence {
  private readonly found = new Map<Answer, Evidence>();
  private subjectBlend: { blend: Blend; novelty: Plane } | null = null;
  private readonly segments: ReturnType<typeof superpixelsOf>;
  private readonly luma: Plane;

  /** @param picture a coarse copy of a picture */
  constructor(
    private readonly picture: Rgba,
    private readonly finer: FinerCopies,
    private readonly look: Look,
    private readonly closeness: { segments: number; again: boolean },
  ) {
    const { width, height, data } = picture;
    this.luma = makePlane(width, height);
    for (let i = 0; i < this.luma.data.length; i++)
      this.luma.data[i] = lumaOf(data[i * 4]!, data[i * 4 + 1]!, data[i * 4 + 2]!);
    this.segments = superpixelsOf(picture, closeness.segments);
  }

  for(answer: Answer): Evidence {
    let evidence = this.found.get(answer);
    if (!evidence) {
      evidence = answer === 'subject' ? this.ofSubject() : this.ofForeground();
      this.found.set(answer, evidence);
    }
    return evidence;
  }

  private blend(): { blend: Blend; novelty: Plane } {
    if (!this.subjectBlend) {
      const prior = centredLogOdds(saliencyOf(this.segments, this.luma, 'subject'));
      const novelty = noveltyOf(this.picture, prior);
      this.subjectBlend = {
        blend: blendedPrior(this.picture, { prior, novelty }, this.finer.seen, this.look, this.closeness.again),
        novelty,
      };
    }
    return this.subjectBlend;
  }

  private ofSubject(): Evidence {
    const { blend, novelty } = this.blend();
    const focus = focusEvidence(this.finer.focus(), this.segments);
    const at = (i: number): number => (focus ? focus[this.segments.labels[i]!]! : 0);
    return {
      prior: { ...blend.prior, data: blend.prior.data.map((v, i) => joined(v, at(i))) },
      // A colour that is new, but out of focus, is no beginning.
      novelty: {
        ...novelty,
        data: novelty.data.map((v, i) => v * blend.salientShare * Math.max(0, Math.min(1, 1 + at(i)))),
      },
      lasting: lastingOf(blend),
    };
  }

  /** Ground and what stands on it; what networks see is a part of it, whatever else is. */
  private ofForeground(): Evidence {
    const near = centredLogOdds(saliencyOf(this.segments, this.luma, 'foreground'));
    const { blend } = this.blend();
    const learned = 1 - blend.salientShare;
    const prior = { ...near, data: near.data.map((v, i) => v + learned * Math.max(0, blend.prior.data[i]!)) };
    return { prior, novelty: makePlane(this.picture.width, this.picture.height), lasting: lastingOf(blend) };
  }
}

/** Saliency is soon outdone by the colours it leads to; what networks see knows more than colours do. */
const lastingOf = (blend: Blend): number => 0.4 + 0.4 * (1 - blend.salientShare);

/** Evidence and focus as one; what else is seen in a place that is out of focus counts less. */
function joined(evidence: number, focus: number): number {
  const doubt = focus < 0 && evidence > 0 ? Math.min(1, -focus / focusStrength) : 0;
  return Math.max(-surest, Math.min(surest, evidence * (1 - doubt) + focus));
}
