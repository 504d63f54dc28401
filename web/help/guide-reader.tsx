import { useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import Markdown, { type Components } from 'react-markdown';
import guide from '../../docs/guide.md?raw';
import { chaptersOf, searchGuide } from './guide-text.ts';

const chapters = chaptersOf(guide);

/** How Markdown looks here; links lead nowhere outside, as the guide is read offline. */
const looks: Components = {
  p: ({ children }) => <p className="my-2">{children}</p>,
  ul: ({ children }) => <ul className="my-2 list-disc pl-5">{children}</ul>,
  ol: ({ children }) => <ol className="my-2 list-decimal pl-5">{children}</ol>,
  li: ({ children }) => <li className="my-1">{children}</li>,
  h3: ({ children }) => <h4 className="mt-4 mb-1 font-semibold">{children}</h4>,
  strong: ({ children }) => <strong className="font-semibold text-pine">{children}</strong>,
  code: ({ children }) => <code className="rounded bg-paper-2 px-1 font-mono text-[12px]">{children}</code>,
  a: ({ children }) => <>{children}</>,
};

interface GuideReaderProps {
  chapter: string;
  onChapter(id: string): void;
}

/** The guide: its chapters, one of them to read, and a search through all. */
export function GuideReader({ chapter, onChapter }: GuideReaderProps) {
  const [search, setSearch] = useState('');
  const shown = chapters.find(({ id }) => id === chapter) ?? chapters[0]!;
  const found = useMemo(() => searchGuide(chapters, search), [search]);
  const page = useRef<HTMLElement>(null);
  useEffect(() => {
    page.current?.scrollTo(0, 0);
  }, [shown]);
  return (
    <div className="flex min-h-0 flex-1 gap-5">
      <nav aria-label="Chapters" className="flex w-48 shrink-0 flex-col gap-2">
        <input
          type="search"
          aria-label="Search the guide"
          placeholder="Search the guide"
          className="rounded-md border border-line bg-white px-2 py-1 text-[13px]"
          value={search}
          onChange={(event) => setSearch(event.target.value)}
        />
        <ul className="min-h-0 flex-1 overflow-auto">
          {chapters.map(({ id, title }) => (
            <li key={id}>
              <button
                type="button"
                aria-current={id === shown.id && !search}
                onClick={() => {
                  setSearch('');
                  onChapter(id);
                }}
                className={`w-full rounded-md px-2 py-1 text-left text-[13px] ${id === shown.id && !search ? 'bg-paper-2 text-pine' : 'hover:bg-paper-2'}`}
              >
                {title}
              </button>
            </li>
          ))}
        </ul>
      </nav>
      <article
        ref={page}
        tabIndex={0}
        aria-label="Guide"
        className="min-w-0 flex-1 overflow-auto pr-2 text-[13.5px] leading-[1.55]"
      >
        {search.trim() ? (
          <>
            <p className="text-ink-2">
              {found.length === 0 ? 'Nothing in the guide says that.' : `Found ${found.length}`}
            </p>
            {found.map(({ chapter: { id, title }, paragraph }, k) => (
              <button
                key={k}
                type="button"
                onClick={() => {
                  setSearch('');
                  onChapter(id);
                }}
                className="my-1 block w-full rounded-md border border-line p-2 text-left hover:border-pine"
              >
                <span className="block text-[12px] text-pine">{title}</span>
                {marked(paragraph, search)}
              </button>
            ))}
          </>
        ) : (
          <>
            <h3 className="text-base font-semibold">{shown.title}</h3>
            <Markdown components={looks}>{shown.text}</Markdown>
          </>
        )}
      </article>
    </div>
  );
}

/** A text with the words that were looked for marked. */
function marked(text: string, search: string): ReactNode[] {
  const words = search
    .trim()
    .split(/\s+/)
    .map((word) => word.replace(/[.*+?^${}()|[\]\\]/g, '\\$&'));
  return text.split(new RegExp(`(${words.join('|')})`, 'gi')).map((part, k) =>
    k % 2 === 1 ? (
      <mark key={k} className="bg-saffron/40 text-inherit">
        {part}
      </mark>
    ) : (
      part
    ),
  );
}
