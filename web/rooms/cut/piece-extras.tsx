import { Copy, Group, SquaresExclude, Stamp, Sun } from 'lucide-react';
import type { ReactNode } from 'react';
import { Link, useNavigate } from 'react-router';
import type { Piece } from '../../../core/document/document.ts';
import { Button } from '../../parts/button.tsx';
import type { CutSessionState } from './cut-session.ts';
import { addRest, canBeCopied, copyRecipe } from '../../../core/edits/project-edits.ts';
import { newId, useProject } from '../../data/project.ts';
import { PieceOut } from './piece-files.tsx';

/** What else belongs to a piece: its shadow, which would stay behind as a ghost, and retouching of the piece itself. */
export function PieceExtras({ piece, session }: { piece: Piece; session: CutSessionState }) {
  const { shadowSeen, split, activity } = session;
  const { id, document, dispatch } = useProject();
  const navigate = useNavigate();
  const still = document!.pictures.some((p) => p.id === piece.picture && !p.clip);
  const shadow = document!.pieces.find((p) => p.recipe.kind === 'shadow' && p.recipe.of === piece.id);
  const link = (to: string, label: string, icon: ReactNode, wanted: boolean) => (
    <Link
      to={`/project/${id}/cut/${piece.picture}/${to}`}
      className={`flex h-8 items-center justify-center gap-1.5 rounded-md border text-[13px] font-medium hover:bg-paper-2 ${wanted ? 'border-saffron bg-white' : 'border-line bg-paper'}`}
    >
      {icon}
      {label}
    </Link>
  );
  return (
    <div className="flex flex-col gap-1.5">
      <h3 className="text-[13px] font-semibold">What belongs to it</h3>
      {still && (
        <>
          {link(
            shadow?.id ?? `shadow~${piece.id}`,
            shadow ? 'Open its shadow' : 'Lift its shadow too',
            <Sun size={14} />,
            shadowSeen && !shadow,
          )}
          {shadowSeen && !shadow && (
            <p className="text-[12px] text-ink-2">A shadow lies next to it and would stay on the background.</p>
          )}
          <Button
            icon={<Group size={14} />}
            disabled={activity !== null}
            title="Each thing in it becomes a piece of its own"
            onClick={split}
          >
            Split by object
          </Button>
          {piece.cutout && link(`touch~${piece.id}`, 'Retouch the piece', <Stamp size={14} />, false)}
        </>
      )}
      <Button
        icon={<SquaresExclude size={14} />}
        title="Another piece of everything that this one leaves over"
        onClick={() => {
          const rest = newId('piece');
          dispatch(addRest(piece.id, rest));
          void navigate(`/project/${id}/cut/${piece.picture}/${rest}`);
        }}
      >
        Piece from the rest
      </Button>
      <CopyRecipe piece={piece} />
      <PieceOut piece={piece} pixels={session.pixels} />
    </div>
  );
}

/** Hands the recipe on to another picture of the same series, where it makes a piece of its own. */
function CopyRecipe({ piece }: { piece: Piece }) {
  const { id, document, dispatch } = useProject();
  const navigate = useNavigate();
  const others = document!.pictures.filter((p) => p.id !== piece.picture);
  if (others.length === 0 || !canBeCopied(piece)) return null;
  return (
    <label className="flex items-center gap-1.5 text-[13px]">
      <Copy size={14} />
      <select
        aria-label="Copy the recipe to"
        className="h-8 min-w-0 flex-1 rounded-md border border-line bg-paper px-1.5 font-medium"
        value=""
        onChange={(event) => {
          const copy = { id: newId('piece'), picture: event.target.value, name: piece.name };
          dispatch(copyRecipe(piece.id, copy));
          void navigate(`/project/${id}/cut/${copy.picture}/${copy.id}`);
        }}
      >
        <option value="" disabled>
          Copy the recipe to
        </option>
        {others.map(({ id: other, name }) => (
          <option key={other} value={other}>
            {name}
          </option>
        ))}
      </select>
    </label>
  );
}
