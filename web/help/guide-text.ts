/** A chapter of the guide. */
export interface Chapter {
  id: string;
  title: string;
  /** Markdown (CommonMark), without the chapter's own heading. */
  text: string;
}

/** The name of a chapter as an address. */
export const slugOf = (title: string): string =>
  title
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '');

/** The chapters of the guide: what stands under each heading of the second rank. */
export function chaptersOf(guide: string): Chapter[] {
  return guide
    .split(/^## /m)
    .slice(1)
    .map((part) => {
      const end = part.indexOf('\n');
      const title = part.slice(0, end).trim();
      return { id: slugOf(title), title, text: part.slice(end).trim() };
    });
}

/** A place in the guide where all that is looked for stands. */
export interface Found {
  chapter: Chapter;
  /** The paragraph, without marks. */
  paragraph: string;
}

/** Paragraphs that hold all words of a search, those of chapters whose title does first. */
export function searchGuide(chapters: readonly Chapter[], search: string): Found[] {
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  if (words.length === 0) return [];
  const holds = (text: string): boolean => words.every((word) => text.toLowerCase().includes(word));
  const found = chapters.flatMap((chapter) =>
    paragraphsOf(chapter.text)
      .filter(
        (paragraph) =>
          holds(`${chapter.title} ${paragraph}`) && words.some((word) => paragraph.toLowerCase().includes(word)),
      )
      .map((paragraph) => ({ chapter, paragraph })),
  );
  const byTitle = chapters
    .filter(({ title }) => holds(title))
    .map((chapter) => ({ chapter, paragraph: paragraphsOf(chapter.text)[0] ?? '' }));
  return [...byTitle, ...found.filter(({ paragraph }) => !byTitle.some((other) => other.paragraph === paragraph))];
}

/** Paragraphs and points of lists as plain text. */
const paragraphsOf = (text: string): string[] =>
  text
    .split(/\n\s*\n|\n(?=\s*(?:[-*]|\d+\.) )/)
    .map((part) =>
      part
        .replace(/^\s*(?:[-*]|\d+\.) /, '')
        .replace(/\[([^\]]*)\]\([^)]*\)/g, '$1')
        .replace(/\*\*|`|(?<![a-zA-Z])_|_(?![a-zA-Z])/g, '')
        .replace(/\s+/g, ' ')
        .trim(),
    )
    .filter(Boolean);

const firstChapter = 'start-with-a-photo';

/** The chapters of the rooms, by the last part of their addresses. */
export const chapterOfRoom: Record<string, string> = {
  '': firstChapter,
  pictures: 'start-with-a-photo',
  cut: 'cut-something-out',
  stage: 'place-layers-in-depth',
  deliver: 'export',
};

/** The chapter that belongs to a room; the Shelf and what has none begin at the beginning. */
export const chapterOf = (room: string): string => chapterOfRoom[room] ?? firstChapter;
