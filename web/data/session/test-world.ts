import { expect } from 'chai';
import jsonPatch from 'fast-json-patch';
import { emptyDocument, type Document } from '../../../core/document/document.ts';
import type { StoredStep } from '../../../core/document/change-schema.ts';
import { differenceBetween } from '../../../core/document/difference.ts';
import { ServerError, Unreachable, type ChangeAnswer, type ChangeRequest, type NewerProject } from '../api.ts';
import type { KeptChange, Outbox } from './outbox.ts';
import { ProjectSession } from './project-session.ts';
import type { SessionWorld } from './session-world.ts';

export type Fault = 'unreachable' | 'answer lost' | 'refused' | 'full';

/** A server of one project in memory, answering the way the real one does, with the faults it is given. */
export class FakeServer {
  document: Document = emptyDocument('Lantern Week', { width: 1920, height: 1080, rate: 30 }, 6, 'shot');
  revision = 1;
  stored: { change: string; name: string; patch: unknown[]; step: Omit<StoredStep, 'revision'> }[] = [];
  requests = 0;
  /** What happens to the next requests for a change. */
  faults: Fault[] = [];
  /** Whether reading works. */
  reachable = true;
  deleted = false;

  readonly get = async (_id: string, since = this.revision): Promise<NewerProject> => {
    if (!this.reachable) throw new Unreachable();
    if (this.deleted) throw new ServerError(404, 'There is no such project any more.', null);
    const { revision, document } = this;
    return { id: 'p1', updated: '', revision, document, changes: this.stored.slice(since - 1).map((s) => s.change) };
  };

  readonly steps = async (_id: string, until: number): Promise<StoredStep[]> =>
    this.stored
      .slice(0, until - 1)
      .map(({ step }, k) => ({ revision: k + 2, ...step }))
      .reverse();

  readonly change = async (_id: string, request: ChangeRequest): Promise<ChangeAnswer> => {
    this.requests++;
    const fault = this.faults.shift();
    if (fault === 'unreachable' || !this.reachable) throw new Unreachable();
    if (this.deleted) throw new ServerError(404, 'There is no such project any more.', null);
    if (fault === 'refused') throw new ServerError(422, 'This change could not be stored.', null);
    if (fault === 'full') throw new ServerError(507, 'The disk is full.', null);
    const known = this.stored.findIndex((s) => s.change === request.change);
    if (known >= 0) return { revision: known + 2, newest: this.revision };
    if (request.revision !== this.revision) {
      const { changes, ...project } = await this.get('p1', request.revision);
      throw new ServerError(409, 'This project was changed in another window.', { project, changes });
    }
    const before = this.document;
    const { change, name, patch, origin } = request;
    this.document = jsonPatch.applyPatch(asSent(before), patch, true).newDocument;
    const step = { name, ...origin, back: differenceBetween(this.document, before) };
    this.stored.push(asSent({ change, name, patch, step }));
    this.revision++;
    if (fault === 'answer lost') throw new Unreachable();
    return { revision: this.revision, newest: this.revision };
  };
}

/** As it comes over the wire: nothing in it is shared. */
const asSent = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;

/** An outbox in memory, as all tabs of one browser share it. */
export class FakeOutbox implements Outbox {
  kept = new Map<string, KeptChange>();
  async put(kept: KeptChange): Promise<void> {
    this.kept.set(kept.change, structuredClone(kept));
  }
  async remove(change: string): Promise<void> {
    this.kept.delete(change);
  }
  /** Here all tabs before are gone. */
  async adopt(): Promise<KeptChange[]> {
    return [...this.kept.values()].sort((a, b) => a.revision - b.revision || a.order - b.order);
  }
}

export interface Tab extends ProjectSession {
  said: string[];
}

/** A session on a server, as a tab of a browser has it. Waiting takes no time. */
export async function openTab(
  server: Pick<FakeServer, 'get' | 'change' | 'steps'>,
  outbox: Outbox = new FakeOutbox(),
): Promise<Tab> {
  const said: string[] = [];
  const world: SessionWorld = {
    get: server.get,
    change: server.change,
    steps: server.steps,
    outbox,
    tell: (_kind, text) => void said.push(text),
    wait: () => new Promise((resolve) => setTimeout(resolve)),
  };
  const session = Object.assign(new ProjectSession('p1', world), { said });
  await session.open();
  return session;
}

/** The server and a tab agree, and nothing is left to send. */
export function agreed(server: FakeServer, tab: Tab): void {
  expect(tab.now.document).to.deep.equal(server.document);
  expect(tab.now.saved).to.equal('saved');
}
