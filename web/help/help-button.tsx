import { CircleHelp } from 'lucide-react';
import { useLocation } from 'react-router';
import { IconButton } from '../parts/button.tsx';
import { chapterOf } from './guide-text.ts';
import { openGuide } from './help-state.ts';

/** Opens the guide at the chapter of the room. */
export function HelpButton() {
  const room = useLocation().pathname.split('/')[3] ?? '';
  return (
    <IconButton label="Guide and shortcuts" shortcut="?" onClick={() => openGuide(chapterOf(room))}>
      <CircleHelp size={17} />
    </IconButton>
  );
}

/** A word in a sentence that opens a chapter of the guide. */
export function GuideLink({ chapter, children }: { chapter: string; children: React.ReactNode }) {
  return (
    <button type="button" className="text-dusk underline" onClick={() => openGuide(chapter)}>
      {children}
    </button>
  );
}
