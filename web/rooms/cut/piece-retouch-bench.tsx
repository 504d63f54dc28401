import { useEffect, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import type { Document, Picture, Piece } from '../../../core/document/document.ts';
import type { Rect } from '../../../core/pixels/raster.ts';
import { setTouchedCutout } from '../../../core/edits/project-edits.ts';
import { uploadPixels } from '../../data/api.ts';
import { notifyError } from '../../data/notices.ts';
import { useProject } from '../../data/project.ts';
import type { BrushStroke } from '../../parts/brush.tsx';
import { Button } from '../../parts/button.tsx';
import { isControl, useKeys } from '../../parts/keys.ts';
import { steppedRadius } from '../../parts/slider.tsx';
import { WorkingOver, type Activity } from '../../parts/working.tsx';
import { touchPiece, type PlateJob } from '../../workers/plate-client.ts';
import { RetouchTools } from './background/background-panel.tsx';
import { brushes, touchOf, useBackgroundTools } from './background/background-tools.ts';
import { PlateView } from './background/plate-view.tsx';
import { useImages } from './use-images.ts';
import { PieceList } from './piece-list.tsx';

interface BenchProps {
  document: Document;
  picture: Picture;
  pieces: Piece[];
  piece: Piece;
}

/** Retouching a lifted piece itself; what is done here is done again with every lift. */
export function PieceRetouchBench({ document, picture, pieces, piece }: BenchProps) {
  const { id, dispatch } = useProject();
  const navigate = useNavigate();
  const tools = useBackgroundTools();
  const { set } = tools;
  const [activity, setActivity] = useState<Activity | null>(null);
  const images = useImages(piece.cutout, picture.file);
  useEffect(() => set({ tool: 'gone', source: null, offset: null }), [set]);

  const apply = (touch: Piece['touches'][number]): void => {
    let job: PlateJob | null = null;
    setActivity({ doing: 'Retouching', share: null, cancel: () => job?.cancel() });
    const asked = touchPiece({ document, picture: picture.id }, piece.id, touch, {});
    job = asked;
    asked.answer
      .then(async (made) => {
        if (made) dispatch(setTouchedCutout(piece.id, [...piece.touches, touch], await uploadPixels(made.picture)));
      })
      .catch((error: unknown) => notifyError(error))
      .finally(() => setActivity(null));
  };
  const stroke = (drawn: BrushStroke): void => {
    const touch = touchOf(tools, drawn);
    if (touch) apply(touch);
  };
  useKeys((event) => {
    if (event.ctrlKey || event.altKey || event.metaKey) return;
    const held = ({ b: 'gone', c: 'clone', h: 'heal' } as const)[event.key.toLowerCase() as 'b' | 'c' | 'h'];
    if (held) set({ tool: held });
    else if (event.key === '[' || event.key === ']') set({ radius: steppedRadius(event.key, tools.radius)! });
    else if (event.key === 'Escape' && !isControl(event)) void navigate(`/project/${id}/cut/${picture.id}/${piece.id}`);
  });

  const brush = tools.tool && brushes[tools.tool];
  return (
    <div className="grid h-full grid-cols-[232px_1fr_224px]">
      <aside className="flex flex-col gap-3 border-r border-line p-3" aria-label="Retouching tools">
        <h2 className="font-semibold">Retouch {piece.name}</h2>
        <RetouchTools />
        <BehindOthers piece={piece} pieces={pieces} busy={activity !== null} onApply={apply} />
        <p className="text-[12px] text-ink-2">
          {piece.touches.length} {piece.touches.length === 1 ? 'mark' : 'marks'}. They are made again whenever the piece
          is lifted again.
        </p>
        <Link className="text-[13px] text-dusk underline" to={`/project/${id}/cut/${picture.id}/${piece.id}`}>
          Back to its cut
        </Link>
      </aside>
      <section className="relative min-w-0" aria-label="Piece">
        {images ? (
          <PlateView
            {...images}
            look="background"
            pad={null}
            onPad={() => undefined}
            preview={null}
            tool={activity || !brush ? null : { kind: 'brush', ...brush }}
            radius={tools.radius}
            onStroke={stroke}
            onLine={() => undefined}
            onSource={(source) => set({ source, offset: null })}
          />
        ) : (
          <div className="h-full bg-field" />
        )}
        <WorkingOver activity={activity} />
      </section>
      <PieceList document={document} picture={picture} pieces={pieces} piece={piece} />
    </div>
  );
}

interface BehindProps {
  piece: Piece;
  pieces: Piece[];
  busy: boolean;
  onApply(touch: Piece['touches'][number]): void;
}

/** Where other pieces lie over this one: a press continues what they hide of it. */
function BehindOthers({ piece, pieces, busy, onApply }: BehindProps) {
  const over = pieces.filter(
    (other) =>
      other.id !== piece.id &&
      other.recipe.kind !== 'shadow' &&
      other.cutout &&
      piece.cutout &&
      overlap(other.cutout.bounds, piece.cutout.bounds),
  );
  if (over.length === 0) return null;
  return (
    <section className="flex flex-col gap-1.5" aria-label="Behind other pieces">
      <h3 className="text-[12px] font-semibold text-ink-2">What other pieces hide of it</h3>
      {over.map((other) => (
        <Button
          key={other.id}
          disabled={busy}
          title={`Continues ${piece.name} where ${other.name} lies over it`}
          onClick={() => {
            const { file, bounds } = other.cutout!;
            onApply({ kind: 'behind', of: other.id, file, x: bounds.x, y: bounds.y, seed: 1 });
          }}
        >
          Rebuild behind {other.name}
        </Button>
      ))}
    </section>
  );
}

const overlap = (a: Rect, b: Rect): boolean =>
  a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height;
