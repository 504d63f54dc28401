import { useState, type ReactNode } from 'react';
import type { Piece } from '../../../core/scene/document.ts';
import { Chapters } from '../../parts/chapters.tsx';
import type { CutPanelProps, CutTool } from './cut-tools.ts';
import { EdgeControls } from './edge-panel.tsx';
import { BrightnessControls, ColourControls } from './key-panel.tsx';
import { PieceExtras } from './piece-extras.tsx';
import { SubjectControls } from './subject-panel.tsx';

type Way = 'subject' | 'colour' | 'brightness';

const ways: { id: Way; name: string; hint: string }[] = [
  { id: 'subject', name: 'Subject', hint: 'It stands out by itself' },
  { id: 'colour', name: 'Colour', hint: 'It was taken before a screen' },
  { id: 'brightness', name: 'Brightness', hint: 'It is lighter or darker' },
];

function wayOf(piece: Piece | null): Way {
  if (piece?.recipe.kind === 'chroma') return 'colour';
  return piece?.recipe.kind === 'luma' || piece?.recipe.kind === 'unveil' ? 'brightness' : 'subject';
}

const hints: Partial<Record<NonNullable<CutTool>, string>> = {
  keep: 'Paint roughly; the edge is found for you. Hold Space to move the picture.',
  drop: 'Paint roughly; the edge is found for you. Hold Space to move the picture.',
  box: 'Drag a box around what you want; just that is taken.',
  screen: 'Click on the screen; several samples make it surer.',
  restore: 'Brings the picture back exactly where you paint. Ghost (G) shows it.',
  wipe: 'Wipes away exactly where you paint.',
};

/** What sets the piece apart; each way opens its few controls in place. */
export function CutPanel(props: CutPanelProps) {
  const { piece, session, tool } = props;
  const [chosen, setChosen] = useState<{ piece: string | null; way: Way }>({ piece: null, way: 'subject' });
  const open = chosen.piece === (piece?.id ?? null) ? chosen.way : wayOf(piece);
  const controls: Record<Way, ReactNode> = {
    subject: <SubjectControls {...props} />,
    colour: <ColourControls {...props} />,
    brightness: <BrightnessControls {...props} />,
  };
  return (
    <aside className="flex flex-col gap-3 overflow-auto border-r border-line p-3" aria-label="Cut tools">
      <h2 className="font-semibold">What sets it apart?</h2>
      <Chapters chapters={ways} open={open} onOpen={(way) => setChosen({ piece: piece?.id ?? null, way })}>
        {controls[open]}
      </Chapters>
      <EdgeControls {...props} />
      {piece && <PieceExtras piece={piece} session={session} />}
      <p className="mt-auto text-[12px] text-ink-2">
        {!piece
          ? 'One press finds the subject. You can correct it with strokes afterwards.'
          : tool
            ? hints[tool]
            : session.covered !== null
              ? `The piece covers ${(session.covered * 100).toFixed(1)} % of the picture.`
              : ''}
      </p>
    </aside>
  );
}
