import jsonPatch, { type Operation } from 'fast-json-patch';
import { z } from 'zod';
import { readDocument, UnreadableDocument, type Document } from '../../core/document/document.ts';
import { UserError } from '../errors.ts';

/** A stored document, as text. */
export const largestDocument = 32 * 1024 * 1024;
/** No document is nested nearly as deep. */
const deepest = 64;

const pointer = z.string().max(400);
const operation = z.discriminatedUnion('op', [
  z.object({ op: z.literal('add'), path: pointer, value: z.unknown() }),
  z.object({ op: z.literal('replace'), path: pointer, value: z.unknown() }),
  z.object({ op: z.literal('remove'), path: pointer }),
  z.object({ op: z.literal('move'), path: pointer, from: pointer }),
  z.object({ op: z.literal('copy'), path: pointer, from: pointer }),
  z.object({ op: z.literal('test'), path: pointer, value: z.unknown() }),
]);

export const patchSchema = z.array(operation).min(1).max(20_000);

const refused = (status: number, detail: string): UserError =>
  new UserError(
    status,
    'This change could not be stored because the project would become unreadable. It was taken back.',
    {
      detail,
    },
  );

const tooLarge = (): UserError =>
  new UserError(413, 'This change could not be stored: the project would be larger than 32 MB. It was taken back.');

/** Whether a value received from outside is nested deeper than any document; without recursion, as depth is the danger. */
export function nestedTooDeep(value: unknown): boolean {
  let level: unknown[] = [value];
  for (let depth = 0; level.length > 0; depth++) {
    if (depth > deepest) return true;
    level = level.flatMap((one) => (typeof one === 'object' && one !== null ? Object.values(one) : []));
  }
  return false;
}

/**
 * The document after an RFC 6902 patch, checked as a whole.
 * @throws UserError 4xx: a patch that does not apply, whose result is no document, or that would grow beyond all bounds
 */
export function patched(document: Document, patch: Operation[]): { document: Document; text: string } {
  const changed = applied(structuredClone(document), patch);
  let result: Document;
  try {
    result = readDocument(changed);
  } catch (error) {
    throw error instanceof UnreadableDocument ? refused(422, error.detail) : error;
  }
  const text = JSON.stringify(result);
  if (text.length > largestDocument) throw tooLarge();
  return { document: result, text };
}

function applied(document: unknown, patch: Operation[]): unknown {
  let copied = 0;
  let at = document;
  for (const step of patch) {
    if (/\/(__proto__|constructor|prototype)(\/|$)/.test(step.path)) throw refused(400, `path ${step.path}`);
    if (step.op === 'move' && `${step.path}/`.startsWith(`${step.from}/`) && step.path !== step.from)
      throw refused(400, `${step.from} cannot be moved into itself`);
    try {
      // Copies of copies double with every step: what they add up to is counted before they are made.
      if (step.op === 'copy') copied += JSON.stringify(jsonPatch.getValueByPointer(at, step.from) ?? null).length;
      if (copied > largestDocument) throw tooLarge();
      at = jsonPatch.applyOperation(at, step, true).newDocument;
    } catch (error) {
      if (error instanceof UserError) throw error;
      throw refused(422, error instanceof Error ? error.name : 'unknown');
    }
  }
  return at;
}
