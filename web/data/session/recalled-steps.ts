import type { StoredStep } from '../../../core/document/change-schema.ts';
import { withChanges } from '../../../core/document/difference.ts';
import type { Document } from '../../../core/document/document.ts';
import type { Step } from './session-world.ts';

/** Steps that can be undone, the last one last, and those that can be done again, the next one first. */
export interface Steps {
  past: Step[];
  future: Step[];
}

/**
 * The steps of undo as they stood when the last of the stored changes was made.
 * @param document the state after the newest change  @param stored changes, newest first
 */
export function recalledSteps(document: Document, stored: readonly StoredStep[]): Steps {
  const states = [document];
  for (const { back } of stored) {
    const { document: before, missed } = withChanges(states.at(-1)!, back);
    if (missed.length > 0) break;
    states.push(before);
  }
  let steps: Steps = { past: [], future: [] };
  for (let k = states.length - 2; k >= 0; k--) steps = withStored(steps, stored[k]!, states[k + 1]!, states[k]!);
  return { past: steps.past.map(ended), future: steps.future.map(ended) };
}

/** What is done from now on is a step of its own. */
const ended = (step: Step): Step => ({ ...step, gesture: null });

function withStored({ past, future }: Steps, stored: StoredStep, before: Document, after: Document): Steps {
  const { travel, gesture, revision } = stored;
  const change = `revision ${revision}`;
  if (travel === 'undo') {
    // Where the step itself was made too long ago, what undid it tells it.
    const name = stored.name.replace(/^Undo: /, '');
    const step = past.at(-1) ?? { name, before: after, after: before, gesture: null, change };
    return { past: past.slice(0, -1), future: [step, ...future] };
  }
  if (travel === 'redo') {
    const [step, ...rest] = future;
    return { past: [...past, step ?? { ...stored, before, after, gesture: null, change }], future: rest };
  }
  const last = past.at(-1);
  const joins = gesture !== null && last?.gesture === gesture && future.length === 0;
  const step: Step = joins ? { ...last, after, change } : { name: stored.name, before, after, gesture, change };
  return { past: [...(joins ? past.slice(0, -1) : past), step], future: [] };
}
