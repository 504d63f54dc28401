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

interface GuideLinkProps {
  chapter: string;
  /** On a dark ground it has the colour of the sentence. */
  onDark?: boolean;
  children: React.ReactNode;
}

/** A word in a sentence that opens a chapter of the guide. */
export function GuideLink({ chapter, onDark, children }: GuideLinkProps) {
  return (
    <button type="button" className={`underline ${onDark ? '' : 'text-dusk'}`} onClick={() => openGuide(chapter)}>
      {children}
    </button>
  );
}
