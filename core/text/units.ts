import { cornersOf, type Letter, type SetText } from './set-text.ts';

interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** Letters that come and go as one, the box around them, and the room of the line they stand in. */
export interface LetterUnit {
  letters: Letter[];
  box: Box;
  line: Box;
}

const made = new WeakMap<SetText, Map<string, LetterUnit[]>>();

/** The units of a text in reading order; spaces belong to none but the whole. */
export function unitsOf(set: SetText, by: 'whole' | 'line' | 'word' | 'letter'): LetterUnit[] {
  const known = made.get(set) ?? new Map<string, LetterUnit[]>();
  made.set(set, known);
  const units = known.get(by) ?? makeUnits(set, by);
  known.set(by, units);
  return units;
}

function makeUnits(set: SetText, by: 'whole' | 'line' | 'word' | 'letter'): LetterUnit[] {
  const seen = set.letters.filter((letter) => !letter.blank).sort((a, b) => a.from - b.from);
  const keyOf = (letter: Letter): number =>
    by === 'letter' ? letter.from : by === 'word' ? letter.word * 1000 + letter.line : by === 'line' ? letter.line : 0;
  const groups = grouped(seen, keyOf);
  const rows = grouped(set.letters, (letter) => letter.line);
  const lines = new Map([...rows].map(([k, own]) => [k, boxAround(own)]));
  return [...groups.values()].map((letters) => ({
    letters,
    box: boxAround(letters),
    line: by === 'whole' ? boxAround(letters) : lines.get(letters[0]!.line)!,
  }));
}

function grouped(letters: readonly Letter[], keyOf: (letter: Letter) => number): Map<number, Letter[]> {
  const groups = new Map<number, Letter[]>();
  for (const letter of letters) {
    const key = keyOf(letter);
    const group = groups.get(key);
    if (group) group.push(letter);
    else groups.set(key, [letter]);
  }
  return groups;
}

/** The box around the room that letters have. */
export function boxAround(letters: readonly Letter[]): Box {
  const corners = letters.flatMap(cornersOf);
  const xs = corners.map(([x]) => x);
  const ys = corners.map(([, y]) => y);
  const [x, y] = [Math.min(...xs), Math.min(...ys)];
  return { x, y, width: Math.max(...xs) - x, height: Math.max(...ys) - y };
}
