import type { ReactNode } from 'react';
import type { Piece } from '../../../core/document/document.ts';
import { Chapters } from '../../parts/chapters.tsx';
import type { CutPanelProps, CutTool } from './cut-tools.ts';
import { EdgeControls } from './edge-panel.tsx';
import { BrightnessControls, ColourControls } from './key-panel.tsx';
import { PieceExtras } from './piece-extras.tsx';
import { RecipeList } from './recipe-list.tsx';
import { OutlineControls, ShapeControls } from './shapes/shape-panel.tsx';
import { SubjectControls } from './subject-panel.tsx';
import type { OpenRecipe } from './use-recipe.ts';
import type { OpenWay, Way } from './use-way.ts';

const ways: { id: Way; name: string; hint: string }[] = [
  { id: 'subject', name: 'Subject', hint: 'It stands out by itself' },
  { id: 'outline', name: 'Outline', hint: 'You draw around it' },
  { id: 'shape', name: 'Shape', hint: 'Draw a shape' },
  { id: 'colour', name: 'Colour', hint: 'Plain-coloured background' },
  { id: 'brightness', name: 'Brightness', hint: 'It is lighter or darker' },
];

const hints: Partial<Record<NonNullable<CutTool>, string>> = {
  keep: 'Paint roughly; the edge is found for you. Hold Space to move the picture.',
  drop: 'Paint roughly; the edge is found for you. Hold Space to move the picture.',
  box: 'Drag a box around what you want; just that is taken.',
  point: 'Press on what you want; of several alike just that one is taken.',
  screen: 'Click on the screen; several samples make it surer.',
  outline: 'Click from place to place, or drag to draw freehand. Enter closes it, Backspace takes a click back.',
  pen: 'Click for corners, drag for curves. Press the first point or Enter to close.',
  points: 'Drag points and handles; double-click the line to add one, Delete removes, Shift chooses several.',
  ellipse: 'Drag a box for it; Shift keeps it round.',
  rectangle: 'Drag it; Shift keeps it square.',
  rounded: 'Drag it; Shift keeps it square.',
  polygon: 'Drag a box for it; Shift keeps it even.',
  soften: 'Fades the edge where you paint; a larger brush fades it wider.',
  refine: 'Paint over hair and fringe; what is sure beside it says what belongs to it.',
  restore: 'Brings the picture back exactly where you paint. Ghost (G) shows it.',
  wipe: 'Wipes away exactly where you paint.',
};

/** What sets the piece apart; each way opens its few controls in place. */
export function CutPanel(props: CutPanelProps & { open: OpenRecipe; way: OpenWay; others: readonly Piece[] }) {
  const { piece, session, tool, open, way, others } = props;
  const controls: Record<Way, ReactNode> = {
    subject: <SubjectControls {...props} />,
    outline: <OutlineControls {...props} />,
    shape: <ShapeControls {...props} />,
    colour: <ColourControls {...props} />,
    brightness: <BrightnessControls {...props} />,
  };
  return (
    <aside className="flex flex-col gap-3 overflow-auto border-r border-line p-3" aria-label="Cut tools">
      <h2 className="font-semibold">What sets it apart?</h2>
      <Chapters compact={piece !== null} chapters={ways} open={way.way} onOpen={way.open}>
        {controls[way.way]}
      </Chapters>
      <RecipeList open={open} others={others} />
      <EdgeControls {...props} />
      {piece && <PieceExtras piece={piece} session={session} />}
      <div className="mt-auto flex flex-col gap-1 text-[12px] text-ink-2">
        {!piece && !tool && (
          <p>
            {props.moving
              ? 'Find the subject in one frame and cut it through the clip; or cut every frame by colour, brightness or outlines.'
              : 'One press finds the subject. You can correct it with strokes afterwards.'}
          </p>
        )}
        {tool && <p>{hints[tool]}</p>}
        {piece && session.covered !== null && (
          <p>
            The piece covers {(session.covered * 100).toFixed(1)} % of the picture
            {session.covered === 0 && ': it is empty'}.
          </p>
        )}
      </div>
    </aside>
  );
}
