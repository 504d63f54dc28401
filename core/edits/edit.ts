import { produce } from 'immer';
import type { Document } from '../document/document.ts';

/** A change to a document that knows its name. Applying it never alters the document it is given. */
export interface Edit {
  name: string;
  apply(document: Document): Document;
}

/** Thrown when an edit names something that is not in the document. */
export class NoSuchThing extends Error {
  constructor(kind: string, id: string) {
    super(`There is no ${kind} "${id}" in this project any more.`);
    this.name = 'NoSuchThing';
  }
}

/** Makes a named edit out of a change that may write into the draft it is given. */
export function defineEdit<Arguments extends unknown[]>(
  name: string,
  change: (draft: Document, ...args: Arguments) => void,
): (...args: Arguments) => Edit {
  return (...args) => ({
    name,
    apply: (document) => produce(document, (draft) => change(draft as Document, ...args)),
  });
}

/** Several edits as one, in their order, called by the name of the first; none of them is an edit that changes nothing. */
export function inOne(edits: readonly Edit[], name = edits[0]?.name ?? 'Change nothing'): Edit {
  return { name, apply: (document) => edits.reduce((before, edit) => edit.apply(before), document) };
}

/** The member of a list with this id. @throws NoSuchThing */
export function find<T extends { id: string }>(list: readonly T[], kind: string, id: string): T {
  const found = list.find((item) => item.id === id);
  if (!found) throw new NoSuchThing(kind, id);
  return found;
}
