/** A letter as it is seen, with all its marks, and where it begins. */
export interface Grapheme {
  segment: string;
  index: number;
}

/** Made when it is needed: its tables take longer to load than all the rest of a worker. */
let segmenter: Intl.Segmenter | null = null;

/** The letters of a line of text (UAX 29). */
export function graphemesOf(line: string): Iterable<Grapheme> {
  // Signs of ASCII, but for those that control something, stand alone.
  if (/^[\x20-\x7e]*$/.test(line)) return Array.from(line, (segment, index) => ({ segment, index }));
  segmenter ??= new Intl.Segmenter('en', { granularity: 'grapheme' });
  return segmenter.segment(line);
}
