import { lazy, Suspense } from 'react';
import { useLocation } from 'react-router';
import { useKeys } from '../parts/keys.ts';
import { Sheet } from '../parts/sheet.tsx';
import { chapterOf } from './guide-text.ts';
import { closeGuide, openGuide, useHelp } from './help-state.ts';
import { shortcuts } from './shortcuts.ts';

// Only who reads needs the guide.
const GuideReader = lazy(async () => ({ default: (await import('./guide-reader.tsx')).GuideReader }));

/** The guide, open at the room's chapter, beside the room's shortcuts. */
export function HelpSheet() {
  const { chapter } = useHelp();
  const room = useLocation().pathname.split('/')[3] ?? '';
  useKeys((event) => {
    if (event.key === '?') openGuide(chapterOf(room));
  });
  const here = shortcuts.filter(({ rooms }) => rooms === null || rooms.includes(room));
  return (
    <Sheet
      title="Guide and shortcuts"
      size="h-full max-h-[720px] w-[1160px]"
      open={chapter !== null}
      onClose={closeGuide}
    >
      <div className="flex min-h-0 flex-1 gap-6 px-5 py-4">
        <Suspense fallback={<p className="flex-1 text-ink-2">Opening the guide</p>}>
          {chapter !== null && <GuideReader chapter={chapter} onChapter={openGuide} />}
        </Suspense>
        <aside aria-label="Shortcuts" tabIndex={0} className="w-72 shrink-0 overflow-auto border-l border-line pl-5">
          {here.map(({ title, keys }) => (
            <section key={title} className="mb-4">
              <h3 className="mb-1 text-[13px] font-semibold text-pine">{title}</h3>
              <dl>
                {keys.map(([key, meaning]) => (
                  <div key={key} className="flex gap-2 border-b border-line py-1 text-[12px]">
                    <dt className="w-24 shrink-0 font-mono text-[11px]">{key}</dt>
                    <dd className="text-ink-2">{meaning}</dd>
                  </div>
                ))}
              </dl>
            </section>
          ))}
        </aside>
      </div>
    </Sheet>
  );
}
