import { Eye, Layers2, Minus, Plus, Sparkle, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import type { Picture, Piece, Recipe } from '../../../core/scene/document.ts';
import { addPiece, setRecipe } from '../../../core/scene/project-edits.ts';
import { newId, useDocument, useProject } from '../../data/project.ts';
import { Button, IconButton } from '../../parts/button.tsx';
import { isControl, useKeys } from '../../parts/keys.ts';
import { Working } from '../../parts/working.tsx';
import { MainAction } from '../project-frame.tsx';
import { emptyRecipe, useCutSession, type CutSessionState } from './cut-session.ts';
import { CutView, type Tool } from './cut-view.tsx';
import { looks, type Look, type LookOptions } from './looks.ts';
import { PieceList } from './piece-list.tsx';

/** Colours to judge an edge on: the usual extremes, and strong ones that show a fringe at once. */
const judgingColours = ['#f5f2eb', '#1c2a30', '#0e5b50', '#d8249a', '#d99a00', '#44648a'];

export function CutRoom() {
  const document = useDocument();
  const { pictureId, pieceId } = useParams();
  const picture = document.pictures.find((p) => p.id === pictureId) ?? document.pictures[0] ?? null;
  if (!picture) return <NoPicture />;
  const pieces = document.pieces.filter((p) => p.picture === picture.id);
  const piece = pieceId === 'new' ? null : (pieces.find((p) => p.id === pieceId) ?? pieces[0] ?? null);
  return <Workbench key={picture.id} picture={picture} pieces={pieces} piece={piece} />;
}

function NoPicture() {
  const { id } = useProject();
  return (
    <p className="flex h-full items-center justify-center text-ink-2">
      <Link className="text-dusk underline" to={`/project/${id}/pictures`}>
        Bring in a picture
      </Link>
      &nbsp;to cut something out of it.
    </p>
  );
}

interface WorkbenchProps {
  picture: Picture;
  pieces: Piece[];
  piece: Piece | null;
}

function Workbench({ picture, pieces, piece }: WorkbenchProps) {
  const { id, document, dispatch } = useProject();
  const navigate = useNavigate();
  const session = useCutSession(picture, piece);
  const [tool, setTool] = useState<Tool>(null);
  const [radius, setRadius] = useState(14);
  const [options, setOptions] = useState<LookOptions>({ look: 'hatch', colour: '#d8249a', ghost: false, wipe: 0.5 });
  const show = (change: Partial<LookOptions>): void => setOptions((before) => ({ ...before, ...change }));

  const find = (answer: Recipe['answer']): void => {
    if (piece) {
      if (piece.recipe.answer === answer) return;
      dispatch(setRecipe('Find subject', piece.id, { ...piece.recipe, answer }));
      return;
    }
    const made = {
      id: newId('piece'),
      picture: picture.id,
      name: freePieceName(pieces),
      recipe: { ...emptyRecipe, answer },
      cutout: null,
    };
    dispatch(addPiece(made));
    void navigate(`/project/${id}/cut/${picture.id}/${made.id}`, { replace: true });
  };
  const stroke = (drawn: Recipe['keep'][number]): void => {
    if (!piece || !tool) return;
    const recipe = { ...piece.recipe, [tool]: [...piece.recipe[tool], drawn] };
    dispatch(setRecipe(tool === 'keep' ? 'Keep stroke' : 'Drop stroke', piece.id, recipe));
  };
  const resize = (factor: number): void =>
    setRadius((r) => Math.max(2, Math.min(120, Math.round(r * factor + (factor > 1 ? 1 : -1)))));

  useKeys((event) => {
    if (event.ctrlKey || event.altKey || event.metaKey) return;
    const key = event.key.toLowerCase();
    if (key === 'f') find(piece?.recipe.answer ?? 'subject');
    else if (key === 'k' && piece) setTool(tool === 'keep' ? null : 'keep');
    else if (key === 'd' && piece) setTool(tool === 'drop' ? null : 'drop');
    else if (key === '[') resize(0.85);
    else if (key === ']') resize(1.18);
    else if (key === 'g') show({ ghost: !options.ghost });
    else if (key === 'v') show({ look: looks[(looks.findIndex((l) => l.id === options.look) + 1) % looks.length]!.id });
    else if (key === 'l' && piece && !session.activity) session.lift();
    else if (key === 'escape' && !isControl(event)) setTool(null);
  });

  return (
    <div className="grid h-full grid-cols-[232px_1fr_224px]">
      <MainAction>
        <Button
          look="primary"
          icon={<Layers2 size={15} />}
          disabled={!piece || session.activity !== null}
          title="Lift out (L)"
          onClick={session.lift}
        >
          Lift out
        </Button>
      </MainAction>
      <SubjectPanel
        piece={piece}
        session={session}
        tool={tool}
        setTool={setTool}
        radius={radius}
        setRadius={setRadius}
        find={find}
      />
      <section className="flex min-w-0 flex-col" aria-label="Picture">
        <div className="relative min-h-0 flex-1">
          {session.pixels ? (
            <CutView
              pixels={session.pixels}
              version={session.version}
              options={piece ? options : { ...options, look: 'picture' }}
              tool={piece ? tool : null}
              radius={radius}
              recipe={piece?.recipe ?? null}
              onStroke={stroke}
              onWipe={(wipe) => show({ wipe })}
            />
          ) : (
            <div className="h-full bg-field" />
          )}
          {session.activity && (
            <div className="absolute inset-x-0 bottom-4 flex justify-center">
              <Working
                doing={session.activity.doing}
                share={session.activity.share}
                onCancel={session.activity.cancel}
              />
            </div>
          )}
        </div>
        <LookBar options={options} show={show} disabled={!piece} />
      </section>
      <PieceList document={document!} picture={picture} pieces={pieces} piece={piece} />
    </div>
  );
}

function freePieceName(pieces: Piece[]): string {
  const taken = new Set(pieces.map((p) => p.name));
  for (let n = pieces.length + 1; ; n++) if (!taken.has(`Piece ${n}`)) return `Piece ${n}`;
}

interface SubjectPanelProps {
  piece: Piece | null;
  session: CutSessionState;
  tool: Tool;
  setTool(tool: Tool): void;
  radius: number;
  setRadius(radius: number): void;
  find(answer: Recipe['answer']): void;
}

const answers: { id: Recipe['answer']; name: string; hint: string }[] = [
  { id: 'subject', name: 'Subject only', hint: 'The thing that stands out' },
  { id: 'foreground', name: 'Whole foreground', hint: 'Everything near, with its ground' },
];

/** What sets the piece apart: the one-press answer and the strokes that correct it. */
function SubjectPanel({ piece, session, tool, setTool, radius, setRadius, find }: SubjectPanelProps) {
  const { dispatch } = useProject();
  const strokes = piece ? piece.recipe.keep.length + piece.recipe.drop.length : 0;
  return (
    <aside className="flex flex-col gap-4 overflow-auto border-r border-line p-3" aria-label="Cut tools">
      <h2 className="font-semibold">What sets it apart?</h2>
      {!piece && (
        <Button
          look="primary"
          icon={<Sparkle size={15} />}
          title="Find subject (F)"
          disabled={!session.pixels}
          onClick={() => find('subject')}
        >
          Find subject
        </Button>
      )}
      <div role="radiogroup" aria-label="Answer" className="flex flex-col gap-1.5">
        {answers.map((answer) => {
          const chosen = piece?.recipe.answer === answer.id;
          return (
            <button
              key={answer.id}
              type="button"
              role="radio"
              aria-checked={chosen}
              disabled={!session.pixels}
              onClick={() => find(answer.id)}
              className={`rounded-md border px-2.5 py-1.5 text-left ${chosen ? 'border-pine bg-white' : 'border-line hover:bg-paper-2'}`}
            >
              <span className={`block text-[13px] font-medium ${chosen ? 'text-pine' : ''}`}>{answer.name}</span>
              <span className="block text-[12px] text-ink-2">{answer.hint}</span>
            </button>
          );
        })}
      </div>
      <div>
        <h3 className="mb-1.5 text-[13px] font-semibold">Correct it by strokes</h3>
        <div className="grid grid-cols-2 gap-1.5">
          <StrokeButton kind="keep" tool={tool} setTool={setTool} disabled={!piece} />
          <StrokeButton kind="drop" tool={tool} setTool={setTool} disabled={!piece} />
        </div>
        <label className="mt-2 flex items-center gap-2 text-[12px] text-ink-2">
          Size
          <input
            type="range"
            min={2}
            max={120}
            value={radius}
            aria-label="Stroke size"
            title="Stroke size ([ and ])"
            className="min-w-0 flex-1"
            onChange={(event) => setRadius(Number(event.target.value))}
          />
          <span className="w-7 text-right font-mono">{radius}</span>
        </label>
        {piece && strokes > 0 && (
          <div className="mt-2 flex items-center justify-between text-[12px] text-ink-2">
            <span>
              {piece.recipe.keep.length} keep, {piece.recipe.drop.length} drop
            </span>
            <IconButton
              label="Remove all strokes"
              onClick={() => dispatch(setRecipe('Remove strokes', piece.id, { ...piece.recipe, keep: [], drop: [] }))}
            >
              <Trash2 size={14} />
            </IconButton>
          </div>
        )}
      </div>
      <p className="mt-auto text-[12px] text-ink-2">
        {!piece
          ? 'One press finds the subject. You can correct it with strokes afterwards.'
          : tool
            ? 'Paint roughly; the edge is found for you. Hold Space to move the picture.'
            : session.covered !== null
              ? `The piece covers ${(session.covered * 100).toFixed(1)} % of the picture.`
              : ''}
      </p>
    </aside>
  );
}

function StrokeButton({
  kind,
  tool,
  setTool,
  disabled,
}: {
  kind: 'keep' | 'drop';
  tool: Tool;
  setTool(tool: Tool): void;
  disabled: boolean;
}) {
  const pressed = tool === kind;
  const Icon = kind === 'keep' ? Plus : Minus;
  return (
    <button
      type="button"
      aria-pressed={pressed}
      disabled={disabled}
      title={kind === 'keep' ? 'Keep strokes (K)' : 'Drop strokes (D)'}
      onClick={() => setTool(pressed ? null : kind)}
      className={`flex h-9 items-center justify-center gap-1.5 rounded-md text-[13px] font-medium disabled:opacity-45 ${
        kind === 'keep'
          ? 'border-2 border-solid border-pine text-pine'
          : 'border-2 border-dashed border-brick text-brick'
      } ${pressed ? 'bg-paper-2' : 'bg-white hover:bg-paper-2'}`}
    >
      <Icon size={14} />
      {kind === 'keep' ? 'Keep' : 'Drop'}
    </button>
  );
}

function LookBar({
  options,
  show,
  disabled,
}: {
  options: LookOptions;
  show(change: Partial<LookOptions>): void;
  disabled: boolean;
}) {
  const onColour = options.look === 'colour' || options.look === 'wipe';
  return (
    <div className="flex h-11 shrink-0 items-center gap-3 border-t border-line px-3">
      <div
        role="radiogroup"
        aria-label="How to look at it"
        className="flex rounded-md border border-line bg-white p-0.5"
      >
        {looks.map((look) => (
          <button
            key={look.id}
            type="button"
            role="radio"
            aria-checked={options.look === look.id}
            disabled={disabled}
            title={`${look.name} (V for the next)`}
            onClick={() => show({ look: look.id as Look })}
            className={`rounded px-2 py-1 text-[12px] whitespace-nowrap disabled:text-ink-2/50 ${options.look === look.id && !disabled ? 'bg-pine text-white' : 'hover:bg-paper-2'}`}
          >
            {look.name}
          </button>
        ))}
      </div>
      {onColour && !disabled && (
        <>
          <div className="flex gap-1">
            {judgingColours.map((colour) => (
              <button
                key={colour}
                type="button"
                aria-label={`On ${colour}`}
                aria-pressed={options.colour === colour}
                onClick={() => show({ colour })}
                className={`size-5 rounded-full border ${options.colour === colour ? 'border-ink ring-2 ring-saffron' : 'border-line'}`}
                style={{ background: colour }}
              />
            ))}
          </div>
          <IconButton
            label="Ghost of the picture"
            shortcut="G"
            pressed={options.ghost}
            onClick={() => show({ ghost: !options.ghost })}
          >
            <Eye size={15} />
          </IconButton>
        </>
      )}
      <span className="ml-auto truncate text-[12px] text-ink-2">Wheel zooms, 0 fits, 1 is 100 %</span>
    </div>
  );
}
