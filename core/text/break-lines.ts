/** A part of a text, in UTF-16 code units. */
export interface Stretch {
  from: number;
  to: number;
  /** Whether the paragraph ends here. */
  last: boolean;
}

/**
 * Breaks a text into lines: where it says so, and where the next word would be wider than the box. A word wider than the
 * box has a line of its own.
 * @param widthOf the width of a part of the text, without the space behind it
 */
export function breakLines(
  text: string,
  wrap: number | null,
  widthOf: (from: number, to: number) => number,
): Stretch[] {
  const lines: Stretch[] = [];
  let start = 0;
  for (const paragraph of text.split('\n')) {
    const end = start + paragraph.length;
    if (wrap === null) lines.push({ from: start, to: end, last: true });
    else {
      let from = start;
      let to = start;
      for (const { index, 0: word } of paragraph.matchAll(/\S+[^\S\n]*|^[^\S\n]+/g)) {
        const bare = start + index + word.trimEnd().length;
        if (to > from && widthOf(from, bare) > wrap) {
          lines.push({ from, to: from + text.slice(from, to).trimEnd().length, last: false });
          from = start + index;
        }
        to = start + index + word.length;
      }
      lines.push({ from, to: end, last: true });
    }
    start = end + 1;
  }
  return lines;
}
