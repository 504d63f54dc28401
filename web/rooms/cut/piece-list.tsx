import { Plus, Trash2 } from 'lucide-react';
import type { ReactNode } from 'react';
import { Link, useNavigate } from 'react-router';
import { changedSinceLift } from '../../../core/document/cut-name.ts';
import type { Document, Picture, Piece } from '../../../core/document/document.ts';
import { currentPlate } from '../../../core/document/plate.ts';
import { removePiece, renamePiece } from '../../../core/edits/project-edits.ts';
import { fileUrl } from '../../data/api.ts';
import { useProject } from '../../data/project.ts';
import { IconButton } from '../../parts/button.tsx';
import { NameField } from '../../parts/name-field.tsx';

interface PieceListProps {
  document: Document;
  picture: Picture;
  pieces: Piece[];
  piece: Piece | null;
  /** Whether the background is what is worked on; `children` are its steps. */
  background?: boolean;
  children?: ReactNode;
}

/** The pieces of the picture on a chequer, the background last with its state. */
export function PieceList({ document, picture, pieces, piece, background = false, children }: PieceListProps) {
  const { id, dispatch } = useProject();
  const navigate = useNavigate();
  const open = (pieceId: string): void => void navigate(`/project/${id}/cut/${picture.id}/${pieceId}`);
  return (
    <aside className="flex flex-col overflow-auto border-l border-line" aria-label="Pieces">
      {document.pictures.length > 1 && (
        <select
          aria-label="Picture"
          className="m-3 mb-0 rounded-md border border-line bg-white px-2 py-1 text-[13px]"
          value={picture.id}
          onChange={(event) => void navigate(`/project/${id}/cut/${event.target.value}`)}
        >
          {document.pictures.map((p) => (
            <option key={p.id} value={p.id}>
              {p.name}
            </option>
          ))}
        </select>
      )}
      <div className="flex items-center justify-between px-3 pt-3 pb-1">
        <h2 className="font-semibold">Pieces</h2>
        <IconButton label="New piece" onClick={() => open('new')}>
          <Plus size={16} />
        </IconButton>
      </div>
      <ul className="flex flex-col gap-2 px-3 pb-3">
        {pieces.map((p) => (
          <li
            key={p.id}
            className={`relative overflow-hidden rounded-lg border hover:border-pine ${p.id === piece?.id ? 'border-pine' : 'border-line'}`}
          >
            <button
              type="button"
              // All of the card is pressed, but for what has a press of its own.
              className="chequer flex h-24 w-full items-center justify-center p-1.5 after:absolute after:inset-0"
              aria-label={`Open ${p.name}`}
              onClick={() => open(p.id)}
            >
              {p.cutout ? (
                <img src={fileUrl(p.cutout.file, 240)} alt="" className="max-h-full max-w-full" />
              ) : (
                <span className="rounded bg-paper/80 px-2 py-0.5 text-[12px] text-ink-2">Not lifted out yet</span>
              )}
            </button>
            {changedSinceLift(p) && (
              <Link
                to={`/project/${id}/cut/${picture.id}/${p.id}`}
                state={{ lift: true }}
                title="It was changed since it was lifted out: its layers still show it as it was"
                className="absolute top-1 right-1 z-10 rounded bg-saffron px-1.5 py-0.5 text-[12px] font-medium text-ink hover:underline"
              >
                Lift again
              </Link>
            )}
            <div className="flex items-center gap-1 bg-white/70 px-1 py-0.5">
              <NameField
                label="Piece name"
                value={p.name}
                onChange={(name) => dispatch(renamePiece(p.id, name))}
                className="relative z-10 flex-1 text-[13px]"
              />
              <IconButton
                className="relative z-10"
                label={`Delete ${p.name}`}
                onClick={() => dispatch(removePiece(p.id))}
              >
                <Trash2 size={14} className="text-brick" />
              </IconButton>
            </div>
          </li>
        ))}
        {pieces.length === 0 && (
          <li className="py-3 text-[13px] text-ink-2">No piece yet. Choose on the left what sets it apart.</li>
        )}
        <li className={`relative overflow-hidden rounded-lg border ${background ? 'border-pine' : 'border-line'}`}>
          <button
            type="button"
            className="flex h-24 w-full items-center justify-center bg-paper-2 p-1.5 after:absolute after:inset-0"
            aria-label="Open the background"
            aria-pressed={background}
            disabled={picture.clip !== null}
            onClick={() => open('background')}
          >
            <img
              src={fileUrl(picture.background ? currentPlate(picture.background).file : picture.file, 240)}
              alt=""
              className="max-h-full max-w-full"
            />
          </button>
          <div className="bg-white/70 px-2.5 py-1">
            <div className="text-[13px]">Background</div>
            <div className="text-[12px] text-ink-2">{backgroundStory(picture)}</div>
          </div>
        </li>
      </ul>
      {children && (
        <>
          <h2 className="px-3 pb-1 text-[13px] font-semibold">Steps of the background</h2>
          {children}
        </>
      )}
    </aside>
  );
}

function backgroundStory({ background, clip }: Picture): string {
  if (clip) return background ? 'Rebuilt from the frames that show it' : 'A clip moves as it came';
  if (!background) return 'As it came; lifting out rebuilds it';
  const { steps } = background;
  const behind = steps.some((step) => step.kind === 'behind');
  const more = steps.length - (behind ? 1 : 0);
  const rest = more > 0 ? `${more} further ${more === 1 ? 'step' : 'steps'}` : '';
  return [behind && 'Rebuilt behind the pieces', rest].filter(Boolean).join(', ');
}
