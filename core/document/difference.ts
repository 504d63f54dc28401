import equal from 'fast-deep-equal';
import { produce } from 'immer';

/**
 * What changed between two states of a document, told by the ids of things and not by their places in lists, so that it
 * can be laid onto a third state in which other things came, went or moved meanwhile. It is plain JSON.
 */
export type Change =
  | { kind: 'set'; path: Step[]; value: unknown }
  | { kind: 'unset'; path: Step[] }
  /** A thing comes into a list of things with ids, right after another one; null is in front of all. */
  | { kind: 'insert'; path: Step[]; value: Named; after: string | null }
  | { kind: 'take'; path: Step[]; id: string }
  | { kind: 'order'; path: Step[]; ids: string[] }
  /** In a plain list `removed` gives way to `values` at a place. */
  | { kind: 'splice'; path: Step[]; at: number; removed: unknown[]; values: unknown[] };

/** On the way to a value: a field of an object, a thing of a list by its id, or an entry of a plain list by its place. */
export type Step = string | number | { id: string };

interface Named {
  id: string;
}

type Fields = Record<string, unknown>;

const isFields = (value: unknown): value is Fields =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** Whether a list holds things with ids of their own. */
function isNamedList(list: readonly unknown[]): list is Named[] {
  return list.every((one) => isFields(one) && typeof one.id === 'string') && new Set(idsOf(list)).size === list.length;
}

const idsOf = (list: readonly unknown[]): string[] => list.map((one) => (one as Named).id);

/**
 * The changes that lead from one JSON value to another. What both share by reference is not looked into, so the cost is
 * that of what an edit touched.
 */
export function differenceBetween(before: unknown, after: unknown): Change[] {
  const changes: Change[] = [];
  compare(before, after, [], changes);
  return changes;
}

function compare(before: unknown, after: unknown, path: Step[], out: Change[]): void {
  if (before === after) return;
  if (isFields(before) && isFields(after)) compareFields(before, after, path, out);
  else if (Array.isArray(before) && Array.isArray(after)) compareLists(before, after, path, out);
  else if (!equal(before, after)) out.push({ kind: 'set', path, value: after });
}

function compareFields(before: Fields, after: Fields, path: Step[], out: Change[]): void {
  for (const key of Object.keys(before))
    if (before[key] !== undefined && after[key] === undefined) out.push({ kind: 'unset', path: [...path, key] });
  for (const [key, value] of Object.entries(after)) {
    if (value === undefined) continue;
    if (before[key] === undefined) out.push({ kind: 'set', path: [...path, key], value });
    else compare(before[key], value, [...path, key], out);
  }
}

function compareLists(before: unknown[], after: unknown[], path: Step[], out: Change[]): void {
  if (before.length + after.length > 0 && isNamedList(before) && isNamedList(after))
    return compareNamed(before, after, path, out);
  const plainNumbers = (list: unknown[]): boolean => list.every((v) => typeof v === 'number');
  if (before.length === after.length && plainNumbers(before) && plainNumbers(after)) {
    if (!equal(before, after)) out.push({ kind: 'set', path, value: after });
    return;
  }
  let start = 0;
  while (start < Math.min(before.length, after.length) && equal(before[start], after[start])) start++;
  let end = 0;
  const most = Math.min(before.length, after.length) - start;
  while (end < most && equal(before[before.length - 1 - end], after[after.length - 1 - end])) end++;
  const removed = before.slice(start, before.length - end);
  const values = after.slice(start, after.length - end);
  if (removed.length === 0 && values.length === 0) return;
  if (removed.length === values.length && removed.every(isFields) && values.every(isFields))
    values.forEach((value, k) => compare(removed[k], value, [...path, start + k], out));
  else out.push({ kind: 'splice', path, at: start, removed, values });
}

function compareNamed(before: Named[], after: Named[], path: Step[], out: Change[]): void {
  const old = new Map(before.map((one) => [one.id, one]));
  const kept = new Set(idsOf(after));
  for (const { id } of before) if (!kept.has(id)) out.push({ kind: 'take', path, id });
  const order = idsOf(before).filter((id) => kept.has(id));
  after.forEach((one, k) => {
    const previous = k > 0 ? after[k - 1]!.id : null;
    const known = old.get(one.id);
    if (known) return compare(known, one, [...path, { id: one.id }], out);
    out.push({ kind: 'insert', path, value: one, after: previous });
    order.splice(previous === null ? 0 : order.indexOf(previous) + 1, 0, one.id);
  });
  if (!equal(order, idsOf(after))) out.push({ kind: 'order', path, ids: idsOf(after) });
}

/**
 * Lays changes onto a state they need not have been made for. What names a thing that is gone is left out and given back
 * in `missed`; a thing that is already gone, or already there, needs no change.
 */
export function withChanges<T>(document: T, changes: readonly Change[]): { document: T; missed: Change[] } {
  const missed: Change[] = [];
  // A box around it lets the whole be set like any field.
  const { whole } = produce({ whole: document }, (draft) => {
    for (const change of changes)
      if (!applyChange(draft as Fields, { ...change, path: ['whole', ...change.path] })) missed.push(change);
  });
  return { document: whole, missed };
}

function applyChange(root: Fields, change: Change): boolean {
  if (change.kind === 'set' || change.kind === 'unset') {
    const holder = reached(root, change.path.slice(0, -1));
    const last = change.path.at(-1)!;
    if (change.kind === 'set') return put(holder, last, change.value);
    if (!isFields(holder) || typeof last !== 'string') return false;
    delete holder[last];
    return true;
  }
  const list = reached(root, change.path);
  if (!Array.isArray(list)) return false;
  if (change.kind === 'splice') return splice(list, change);
  if (change.kind === 'insert') insert(list, change);
  else if (change.kind === 'take') take(list, change.id);
  else order(list, change.ids);
  return true;
}

function reached(root: unknown, path: readonly Step[]): unknown {
  let at: unknown = root;
  for (const step of path) {
    if (typeof step === 'string') at = isFields(at) ? at[step] : undefined;
    else if (!Array.isArray(at)) return undefined;
    else at = typeof step === 'number' ? at[step] : at.find((one) => (one as Named).id === step.id);
  }
  return at;
}

function put(holder: unknown, last: Step, value: unknown): boolean {
  if (typeof last === 'string') {
    if (!isFields(holder)) return false;
    holder[last] = value;
    return true;
  }
  if (!Array.isArray(holder)) return false;
  const place = typeof last === 'number' ? last : idsOf(holder).indexOf(last.id);
  if (place < 0 || place >= holder.length) return false;
  holder[place] = value;
  return true;
}

function insert(list: unknown[], { value, after }: Extract<Change, { kind: 'insert' }>): void {
  take(list, value.id);
  // Behind what it was put behind; where that is gone, in front.
  list.splice(after === null ? 0 : idsOf(list).indexOf(after) + 1, 0, value);
}

function take(list: unknown[], id: string): void {
  const place = idsOf(list).indexOf(id);
  if (place >= 0) list.splice(place, 1);
}

/** Those named come in their new order; others keep their distance from the front. */
function order(list: unknown[], ids: readonly string[]): void {
  const there = new Map(list.map((one) => [(one as Named).id, one]));
  const named = ids.filter((id) => there.has(id)).map((id) => there.get(id)!);
  const wanted = new Set(ids);
  let next = 0;
  const sorted = list.map((one) => (wanted.has((one as Named).id) ? named[next++]! : one));
  if (!sorted.every((one, k) => one === list[k])) list.splice(0, list.length, ...sorted);
}

function splice(list: unknown[], { at, removed, values }: Extract<Change, { kind: 'splice' }>): boolean {
  const isAt = (place: number): boolean =>
    place + removed.length <= list.length && removed.every((one, k) => equal(list[place + k], one));
  let place = Math.min(at, list.length);
  // Meanwhile others may have been put in before or behind it.
  if (!isAt(place)) place = list.findIndex((_, k) => isAt(k));
  if (place < 0) return false;
  list.splice(place, removed.length, ...values);
  return true;
}
