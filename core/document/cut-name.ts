import type { Piece } from './document.ts';

type Cut = Pick<Piece, 'recipe' | 'care' | 'marks'>;

/** JSON in which the order of keys does not matter. */
const ordered = (value: unknown): string =>
  JSON.stringify(value, (_, one: unknown) =>
    typeof one === 'object' && one !== null && !Array.isArray(one)
      ? Object.fromEntries(Object.entries(one).sort(([a], [b]) => (a < b ? -1 : 1)))
      : one,
  );

/** FNV-1a (Fowler, Noll, Vo) of 32 bits, over the units of a text. */
function hashOf(text: string, start: number): string {
  let hash = start >>> 0;
  for (let k = 0; k < text.length; k++) hash = Math.imul(hash ^ text.charCodeAt(k), 0x01000193) >>> 0;
  return hash.toString(16).padStart(8, '0');
}

/** A short name for how a piece is cut: with another recipe, another care of its edge or another mark it is another. */
export function cutName({ recipe, care, marks }: Cut): string {
  const text = ordered([recipe, care, marks]);
  return hashOf(text, 0x811c9dc5) + hashOf(text, 0x9e3779b1);
}

type Lifted = Pick<Piece, 'recipe' | 'care' | 'marks' | 'cutout'>;

/** Pieces that were asked about: they are asked about with every frame that is shown, and never change in place. */
const known = new WeakMap<Lifted, boolean>();

/** Whether a lifted piece is cut otherwise by now than what its layers show. */
export function changedSinceLift(piece: Lifted): boolean {
  const answer = known.get(piece) ?? (piece.cutout?.of !== undefined && piece.cutout.of !== cutName(piece));
  known.set(piece, answer);
  return answer;
}
