import { withChanges, type Change, type Step } from './difference.ts';

/** An operation of RFC 6902; of its six kinds these four are needed. */
export type PatchOperation =
  | { op: 'add' | 'replace'; path: string; value: unknown }
  | { op: 'remove'; path: string }
  | { op: 'move'; from: string; path: string };

/** From so many entries on a plain list is replaced whole rather than entry by entry. */
const longSplice = 60;

/**
 * Changes as a JSON Patch (RFC 6902) for the very state they are laid onto: ids become places. What no longer applies is
 * left out.
 */
export function jsonPatchOf(document: unknown, changes: readonly Change[]): PatchOperation[] {
  const out: PatchOperation[] = [];
  let now = document;
  for (const change of changes) {
    const { document: next, missed } = withChanges(now, [change]);
    if (missed.length === 0 && next !== now) out.push(...operationsOf(now, next, change));
    now = next;
  }
  return out;
}

function operationsOf(before: unknown, after: unknown, change: Change): PatchOperation[] {
  const { place: path, value: old } = found(before, change.path);
  switch (change.kind) {
    case 'set':
      return [{ op: old === undefined ? 'add' : 'replace', path, value: change.value }];
    case 'unset':
      return old === undefined ? [] : [{ op: 'remove', path }];
    case 'take':
      return [{ op: 'remove', path: `${path}/${placeOf(old, change.id)}` }];
    case 'insert': {
      const there = placeOf(old, change.value.id);
      const gone: PatchOperation[] = there < 0 ? [] : [{ op: 'remove', path: `${path}/${there}` }];
      const to = placeOf(found(after, change.path).value, change.value.id);
      return [...gone, { op: 'add', path: `${path}/${to}`, value: change.value }];
    }
    case 'order':
      return movesBetween(path, idsOf(old), idsOf(found(after, change.path).value));
    case 'splice':
      return spliceOperations(path, old as unknown[], found(after, change.path).value as unknown[], change);
  }
}

function spliceOperations(
  path: string,
  before: readonly unknown[],
  after: readonly unknown[],
  { removed, values }: Extract<Change, { kind: 'splice' }>,
): PatchOperation[] {
  if (removed.length + values.length > longSplice) return [{ op: 'replace', path, value: after }];
  let at = 0;
  while (at < before.length && before[at] === after[at]) at++;
  // Alike entries in a row: the splice may have begun before the first difference.
  at = Math.min(at, after.length - values.length, before.length - removed.length);
  return [
    ...removed.map((): PatchOperation => ({ op: 'remove', path: `${path}/${at}` })),
    ...values.map((value, k): PatchOperation => ({ op: 'add', path: `${path}/${at + k}`, value })),
  ];
}

function movesBetween(path: string, from: readonly string[], to: readonly string[]): PatchOperation[] {
  const now = [...from];
  const out: PatchOperation[] = [];
  to.forEach((id, k) => {
    const at = now.indexOf(id);
    if (at === k) return;
    now.splice(k, 0, ...now.splice(at, 1));
    out.push({ op: 'move', from: `${path}/${at}`, path: `${path}/${k}` });
  });
  return out;
}

const idsOf = (list: unknown): string[] => (list as { id: string }[]).map((one) => one.id);
const placeOf = (list: unknown, id: string): number => idsOf(list).indexOf(id);

/** A path as a JSON Pointer (RFC 6901) into a state, and what is there. */
function found(document: unknown, path: readonly Step[]): { place: string; value: unknown } {
  let place = '';
  let at = document as Record<string | number, unknown> | undefined;
  for (const step of path) {
    const key = typeof step === 'object' ? placeOf(at, step.id) : step;
    place += `/${String(key).replace(/~/g, '~0').replace(/\//g, '~1')}`;
    at = at?.[key] as typeof at;
  }
  return { place, value: at };
}
