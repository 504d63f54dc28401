import { produce } from 'immer';
import type { z } from 'zod';
import { danglingIn, headSchema, pictureSchema, pieceSchema, type Document } from './document.ts';
import { layerSchema } from './layer.ts';
import { shotSchema } from './shot.ts';

/** Thrown when an edit would make a document that cannot be stored; its message is for the user. */
export class RefusedEdit extends Error {
  constructor(readonly detail: string) {
    super(`This was not done, because the project could not be stored with it (${detail}). Everything else is kept.`);
    this.name = 'RefusedEdit';
  }
}

type Path = (string | number)[];
type Issue = z.core.$ZodIssue;
interface Fault {
  path: Path;
  issue: Issue;
}

/** Parts that were found sound before; an edit shares by reference what it leaves alone, so only the rest is looked at. */
const sound = new WeakSet<object>();

/**
 * The document with every number that lies outside its limits brought to the nearest one allowed, and texts cut to their
 * length. The cost is that of what changed since documents seen before.
 * @throws RefusedEdit when what is wrong cannot be mended so
 */
export function withinLimits(document: Document): Document {
  const faults = faultsIn(document);
  const mended = faults.length === 0 ? document : mend(document, faults);
  const left = faults.length === 0 ? [] : faultsIn(mended);
  if (left.length > 0) throw new RefusedEdit(`${left[0]!.path.join(' ')}: ${left[0]!.issue.message}`);
  const dangling = danglingIn(mended);
  if (dangling.length > 0) throw new RefusedEdit(dangling[0]!);
  return mended;
}

function faultsIn(document: Document): Fault[] {
  const faults: Fault[] = [];
  const look = (part: object, schema: z.ZodType, path: Path, value: unknown = part): void => {
    if (sound.has(part)) return;
    const parsed = schema.safeParse(value);
    if (parsed.success) sound.add(part);
    else faults.push(...parsed.error.issues.flatMap((issue) => faultsOf(issue, path)));
  };
  look(document, headSchema, []);
  document.pictures.forEach((picture, k) => look(picture, pictureSchema, ['pictures', k]));
  document.pieces.forEach((piece, k) => look(piece, pieceSchema, ['pieces', k]));
  document.shots.forEach((shot, k) => {
    look(shot, shotSchema, ['shots', k], { ...shot, layers: [] });
    shot.layers.forEach((layer, n) => look(layer, layerSchema, ['shots', k, 'layers', n]));
  });
  return faults;
}

/** A value of several kinds is wrong in each of them in another way; the one that can be mended is meant. */
function faultsOf(issue: Issue, path: Path): Fault[] {
  const own = [...path, ...(issue.path as Path)];
  if (issue.code !== 'invalid_union') return [{ path: own, issue }];
  const ways = issue.errors.map((issues) => issues.flatMap((inner) => faultsOf(inner, own)));
  return ways.find((way) => way.length > 0 && way.every(canMend)) ?? [{ path: own, issue }];
}

const canMend = ({ issue }: Fault): boolean =>
  ((issue.code === 'too_big' || issue.code === 'too_small') && issue.origin !== 'array') ||
  (issue.code === 'invalid_type' && issue.expected === 'int');

function mend(document: Document, faults: readonly Fault[]): Document {
  return produce(document, (draft) => {
    for (const fault of faults) {
      if (!canMend(fault)) continue;
      const last = fault.path.at(-1)!;
      const holder = fault.path.slice(0, -1).reduce<unknown>((at, step) => (at as Path)[step as number], draft);
      const bag = holder as Record<string | number, unknown>;
      bag[last] = mended(bag[last], fault.issue);
    }
  });
}

function mended(value: unknown, issue: Issue): unknown {
  if (typeof value === 'string' && issue.code === 'too_big') return cutTo(value, Number(issue.maximum));
  if (typeof value !== 'number' || !Number.isFinite(value)) return value;
  if (issue.code === 'too_big') return issue.inclusive === false ? value : Number(issue.maximum);
  if (issue.code === 'too_small') return issue.inclusive === false ? value : Number(issue.minimum);
  return Math.round(value);
}

/** At most so many code units, never ending inside a character. */
export function cutTo(text: string, most: number): string {
  let out = '';
  for (const { segment } of new Intl.Segmenter().segment(text)) {
    if (out.length + segment.length > most) break;
    out += segment;
  }
  return out;
}
