import { differenceBetween, withChanges, type Change } from '../../../core/document/difference.ts';
import type { Origin } from '../../../core/document/change-schema.ts';
import { jsonPatchOf } from '../../../core/document/json-patch.ts';
import type { Document } from '../../../core/document/document.ts';
import { NoSuchThing, type Edit } from '../../../core/edits/edit.ts';
import { RefusedEdit, withinLimits } from '../../../core/document/limits.ts';
import { newerProjectSchema, ServerError, Unreachable, type NewerProject } from '../api.ts';
import { recalledSteps } from './recalled-steps.ts';
import type { SessionState, SessionWorld, Step } from './session-world.ts';
import { tabName, type KeptChange } from './outbox.ts';

/** A change that the server has not confirmed. */
interface Pending {
  change: string;
  name: string;
  gesture: string | null;
  /** The document it was made on, as things stand. */
  before: Document;
  changes: Change[];
  travel: Origin['travel'];
  order: number;
  /** Whether it may have reached the server: from then on it stays as it is. */
  sent: boolean;
  /** Whether it would survive the end of the tab. */
  kept: boolean;
}

const mostSteps = 300;
/** A drag makes many edits a second; a short wait lets them travel together. */
const together = 60;
const longestWait = 5000;

const empty: SessionState = { document: null, past: [], future: [], saved: 'saved', trouble: null };

/**
 * One open project: the last state the server confirmed, the changes it has not confirmed yet, and the steps of undo.
 * What arrives late arrives here, whatever is open meanwhile. The document is the confirmed state with the unconfirmed
 * changes laid onto it; when others changed the project, they are laid onto the newer state.
 */
export class ProjectSession {
  private state = empty;
  private base: { document: Document; revision: number } | null = null;
  private pending: Pending[] = [];
  private opening: Promise<void> | null = null;
  private pumping: Promise<void> | null = null;
  private recalling: Promise<void> | null = null;
  /** The newest revision heard of. */
  private heard = 0;
  /** Whether the server may have newer ones that nobody told of. */
  private unsure = false;
  private closed = false;
  private orders = 0;
  private listeners = new Set<() => void>();

  constructor(
    readonly id: string,
    private readonly world: SessionWorld,
  ) {}

  get now(): SessionState {
    return this.state;
  }

  /** Whether changes wait that would be lost with the tab. */
  get atRisk(): boolean {
    return this.pending.some((one) => !one.kept);
  }

  subscribe(listener: () => void): () => void {
    this.listeners.add(listener);
    return () => void this.listeners.delete(listener);
  }

  private set(part: Partial<SessionState>): void {
    this.state = { ...this.state, ...part };
    for (const listener of this.listeners) listener();
  }

  /** Loads the project, with what earlier tabs left unconfirmed laid onto it. @throws when it cannot be had */
  open(): Promise<void> {
    this.closed = false;
    if (this.base) this.lookForNewer();
    this.opening ??= this.load().catch((error: unknown) => {
      this.opening = null;
      throw error;
    });
    return this.opening;
  }

  private async load(): Promise<void> {
    const kept = await this.world.outbox.adopt(this.id).catch((): KeptChange[] => []);
    const since = Math.min(...kept.map((one) => one.revision));
    const { document, revision, changes } = await this.world.get(this.id, kept.length > 0 ? since : undefined);
    this.base = { document, revision };
    this.set({ ...empty, document });
    this.recalling = this.recall(document, revision);
    const known = new Set(changes);
    const left = kept.filter((one) => !known.has(one.change));
    for (const { change } of kept) if (known.has(change)) void this.forget(change);
    if (left.length === 0) return;
    for (const one of left) this.restore(one);
    const count = this.pending.length;
    if (count > 0)
      this.world.tell('done', `${counted(count)} from before could not be saved then, and is being saved now.`);
    this.schedule();
  }

  /** Takes up the steps of undo that were made before it was opened; what was done meanwhile comes after them. */
  private async recall(document: Document, revision: number): Promise<void> {
    try {
      const steps = recalledSteps(document, await this.world.steps(this.id, revision));
      const { past, future } = this.state;
      // Whatever was done meanwhile, and be it undone again, ends what could be done again before.
      const untouched = past.length === 0 && future.length === 0;
      this.set({ past: [...steps.past, ...past].slice(-mostSteps), future: untouched ? steps.future : future });
    } catch (error) {
      const why = error instanceof Error ? error.message : String(error);
      this.world.tell('problem', `Steps from before cannot be undone: ${why}`);
    }
  }

  /** A change of an earlier tab becomes one of this. */
  private restore({ change, name, changes }: KeptChange): void {
    const before = this.state.document!;
    const laid = this.laidOnto(before, { name, changes });
    if (!laid) return void this.forget(change);
    this.append({ change, name, gesture: null, before, changes: laid.changes, travel: null });
    const step: Step = { name, before, after: laid.document, gesture: null, change };
    this.set({ document: laid.document, past: [...this.state.past, step] });
  }

  /**
   * Applies an edit, with values brought within their limits; edits with the same gesture as the last one join its step.
   * An edit that cannot be stored is not done, and said.
   */
  readonly dispatch = (edit: Edit, gesture?: string): void => {
    const before = this.state.document;
    if (!before) return;
    let after: Document;
    try {
      const edited = edit.apply(before);
      after = edited === before ? before : withinLimits(edited);
    } catch (error) {
      if (!(error instanceof RefusedEdit || error instanceof NoSuchThing)) throw error;
      return this.world.tell('problem', `${edit.name}: ${error.message}`);
    }
    if (after === before || differenceBetween(before, after).length === 0) return;
    const { past, future } = this.state;
    const last = past.at(-1);
    const joins = gesture !== undefined && last?.gesture === gesture && future.length === 0;
    const change = this.add(edit.name, gesture ?? null, before, after);
    const step: Step = joins
      ? { ...last!, after, change }
      : { name: edit.name, before, after, gesture: gesture ?? null, change };
    this.set({ document: after, past: [...(joins ? past.slice(0, -1) : past), step].slice(-mostSteps), future: [] });
  };

  readonly undo = (): void => {
    const { past, future } = this.state;
    const step = past.at(-1);
    if (step)
      this.travel(step, step.after, step.before, 'undo', { past: past.slice(0, -1), future: [step, ...future] });
  };

  readonly redo = (): void => {
    const { past, future } = this.state;
    const [step, ...rest] = future;
    if (!step) return;
    this.travel(step, step.before, step.after, 'redo', { past: [...past, { ...step, gesture: null }], future: rest });
  };

  /** Goes from one side of a step to the other; where others changed the project since, only what the step did. */
  private travel(
    step: Step,
    from: Document,
    to: Document,
    word: 'undo' | 'redo',
    steps: Pick<SessionState, 'past' | 'future'>,
  ) {
    const before = this.state.document!;
    const name = `${word === 'undo' ? 'Undo' : 'Redo'}: ${step.name}`;
    const after =
      before === from ? to : this.laidOnto(before, { name, changes: differenceBetween(from, to) })?.document;
    if (after && after !== before) this.add(name, null, before, after, word);
    this.set({ ...(after ? { document: after } : {}), ...steps });
  }

  /** Changes laid onto a state; null, and said, when they do not apply there any more. */
  private laidOnto(document: Document, { name, changes }: Pick<Pending, 'name' | 'changes'>) {
    const laid = withChanges(document, changes);
    const gone = 'what it changed is not there any more.';
    if (laid.missed.length === changes.length && changes.length > 0) {
      this.world.tell('problem', `"${name}" could not be done again: ${gone}`);
      return null;
    }
    if (laid.missed.length > 0)
      this.world.tell('problem', `"${name}" could be done again only in part: some of ${gone}`);
    try {
      const sound = withinLimits(laid.document);
      return { document: sound, changes: differenceBetween(document, sound) };
    } catch (error) {
      if (!(error instanceof RefusedEdit)) throw error;
      this.world.tell('problem', `"${name}" could not be done again: it does not fit what was changed meanwhile.`);
      return null;
    }
  }

  /** Remembers a change to be sent; one of the same gesture that was not sent yet takes it in. @returns its id */
  private add(
    name: string,
    gesture: string | null,
    before: Document,
    after: Document,
    travel: Origin['travel'] = null,
  ): string {
    const last = this.pending.at(-1);
    if (last && !last.sent && gesture !== null && last.gesture === gesture) {
      Object.assign(last, { name, changes: differenceBetween(last.before, after), kept: false });
      this.keep(last);
      return last.change;
    }
    const change = crypto.randomUUID();
    this.append({ change, name, gesture, before, changes: differenceBetween(before, after), travel });
    this.schedule();
    return change;
  }

  private append(one: Omit<Pending, 'order' | 'sent' | 'kept'>): void {
    const pending: Pending = { ...one, order: this.orders++, sent: false, kept: false };
    this.pending.push(pending);
    this.keep(pending);
  }

  private keep(one: Pending): void {
    const { change, name, changes, order } = one;
    const kept = { change, project: this.id, owner: tabName, order, name, revision: this.base!.revision, changes };
    this.world.outbox.put(kept).then(
      () => (one.kept = one.changes === changes),
      // Without it the change is only at risk until the server has it, and the tab warns before it closes.
      () => undefined,
    );
  }

  private async forget(change: string): Promise<void> {
    await this.world.outbox.remove(change).catch(() => undefined);
  }

  private schedule(): void {
    if (this.pending.length > 0 && this.state.saved === 'saved') this.set({ saved: 'saving' });
    this.pumping ??= this.pump().finally(() => {
      this.pumping = null;
    });
  }

  private get behind(): boolean {
    return this.unsure || this.heard > this.base!.revision;
  }

  /** Sends what the server does not have yet, one change at a time, for as long as it takes. */
  private async pump(): Promise<void> {
    await this.world.wait(together);
    for (let failures = 0; this.pending.length > 0 || this.behind;) {
      try {
        if (this.pending.length > 0) await this.send(this.pending[0]!);
        else await this.catchUp();
        failures = 0;
      } catch (error) {
        if (this.closed && error instanceof ServerError && error.status === 404) break;
        const trouble = error instanceof Error && !(error instanceof Unreachable) ? error.message : null;
        this.set({ saved: 'waiting', trouble });
        await this.world.wait(Math.min(longestWait, 400 * 2 ** ++failures));
      }
    }
    this.set({ saved: 'saved', trouble: null });
  }

  private async send(first: Pending): Promise<void> {
    const base = this.base!;
    first.sent = true;
    const patch = jsonPatchOf(base.document, first.changes);
    if (patch.length === 0) return this.confirm(first, base.revision);
    const { change, name } = first;
    try {
      const answer = await this.world.change(this.id, {
        change,
        name,
        patch,
        revision: base.revision,
        origin: originOf(first),
      });
      if (answer.revision === base.revision + 1) this.confirm(first, answer.revision);
      this.heard = Math.max(this.heard, answer.newest);
      if (this.behind) await this.catchUp();
    } catch (error) {
      if (!(error instanceof ServerError) || error.status >= 500 || error.status === 404) throw error;
      const newer = newerOf(error);
      if (newer) this.rebase(newer);
      else this.refuse(first, error);
    }
  }

  /** The first pending change is in the server's state now. */
  private confirm(first: Pending, revision: number): void {
    this.pending.shift();
    const document =
      this.pending.length === 0 ? this.state.document! : withChanges(this.base!.document, first.changes).document;
    this.base = { document, revision };
    void this.forget(first.change);
  }

  /** Takes the newest state from the server. */
  private async catchUp(): Promise<void> {
    this.unsure = false;
    try {
      this.rebase(await this.world.get(this.id, this.base!.revision));
    } catch (error) {
      this.unsure = true;
      throw error;
    }
    this.heard = this.base!.revision;
  }

  /** Lays the unconfirmed changes onto a newer state; those it holds already are confirmed by that. */
  private rebase({ document, revision, changes }: NewerProject): void {
    if (revision <= this.base!.revision) return;
    const known = new Set(changes);
    this.base = { document, revision };
    for (const { change } of this.pending) if (known.has(change)) void this.forget(change);
    this.set({ document: this.relaid(this.pending.filter((one) => !known.has(one.change))) });
  }

  /** Lays waiting changes onto the confirmed state anew; what does not apply there any more is given up. */
  private relaid(waiting: readonly Pending[]): Document {
    this.pending = [];
    let now = this.base!.document;
    for (const one of waiting) {
      const laid = this.laidOnto(now, one);
      if (!laid) {
        void this.forget(one.change);
        continue;
      }
      this.pending.push(Object.assign(one, { before: now, changes: laid.changes }));
      now = laid.document;
    }
    return now;
  }

  /** The server does not take this change: it is undone alone, and all others stay. */
  private refuse(first: Pending, error: ServerError): void {
    const { past, future } = this.state;
    void this.forget(first.change);
    const now = this.relaid(this.pending.slice(1));
    const without = (steps: Step[]): Step[] => steps.filter((step) => step.change !== first.change);
    this.set({ document: now, past: without(past), future: without(future) });
    this.world.tell('problem', `${first.name}: ${error.message}`);
  }

  /** Somebody says that there is a newer revision. */
  hear(revision: number): void {
    this.heard = Math.max(this.heard, revision);
    if (this.base && this.behind) this.schedule();
  }

  /** News may have been missed. */
  lookForNewer(): void {
    this.unsure = true;
    if (this.base) this.schedule();
  }

  /** Nobody looks at it any more; what is left is still sent. */
  close(): void {
    this.closed = true;
  }

  /** Waits until everything done so far is confirmed, and what was done before is known. */
  async drained(): Promise<void> {
    await this.recalling;
    while (this.pumping) await this.pumping;
  }

  /** The tab may end now: what is small enough is sent on the way out. */
  sendAtEnd(): void {
    if (!this.base) return;
    let { document, revision } = this.base;
    let room = 60_000;
    for (const one of this.pending) {
      const { change, name, changes } = one;
      const patch = jsonPatchOf(document, changes);
      room -= JSON.stringify(patch).length;
      if (room < 0 || patch.length === 0) return;
      this.world.change(this.id, { change, name, patch, revision, origin: originOf(one) }, true).catch(() => undefined);
      document = withChanges(document, changes).document;
      revision++;
    }
  }
}

const originOf = ({ gesture, travel }: Pending): Origin => ({ gesture, travel });

const counted = (count: number): string => (count === 1 ? 'One change' : `${count} changes`);

/** The newer project that came with a refusal of a stale revision. */
function newerOf(error: ServerError): NewerProject | null {
  if (error.status !== 409) return null;
  const { project, changes } = (error.body ?? {}) as { project?: object; changes?: unknown };
  const parsed = newerProjectSchema.safeParse({ ...project, changes });
  return parsed.success ? parsed.data : null;
}
