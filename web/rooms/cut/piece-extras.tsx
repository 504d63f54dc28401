import { Group, Stamp, Sun } from 'lucide-react';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import type { Piece } from '../../../core/scene/document.ts';
import { Button } from '../../parts/button.tsx';
import type { CutSessionState } from './cut-session.ts';
import { useProject } from '../../data/project.ts';

/** What else belongs to a piece: its shadow, which would stay behind as a ghost, and retouching of the piece itself. */
export function PieceExtras({ piece, session }: { piece: Piece; session: CutSessionState }) {
  const { shadowSeen, split, activity } = session;
  const { id, document } = useProject();
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
    </div>
  );
}
