import { Eraser, Search, Sun } from 'lucide-react';
import { useEffect, useRef, useState, type Dispatch, type SetStateAction } from 'react';
import { useNavigate } from 'react-router';
import type { Document, Picture, Piece } from '../../../core/document/document.ts';
import { addShadow } from '../../../core/edits/project-edits.ts';
import { notify, notifyError } from '../../data/notices.ts';
import { newId, useProject } from '../../data/project.ts';
import { WideStroke, type BrushStroke } from '../../parts/brush.tsx';
import { Button } from '../../parts/button.tsx';
import { isControl, useKeys } from '../../parts/keys.ts';
import { BrushSize, steppedRadius } from '../../parts/slider.tsx';
import { WorkingOver, type Activity } from '../../parts/working.tsx';
import { lookForShadow, type PlateJob } from '../../workers/plate-client.ts';
import { MainAction } from '../main-action.tsx';
import { PlateView } from './background/plate-view.tsx';
import { useCutSession } from './cut-session.ts';
import { PieceList } from './piece-list.tsx';
import { placedPlate, useImages } from './use-images.ts';

interface ShadowBenchProps {
  document: Document;
  picture: Picture;
  pieces: Piece[];
  /** The piece that throws the shadow. */
  owner: Piece;
  /** The shadow when it was lifted before. */
  shadow: Piece | null;
}

/** Paint generously over a soft shadow; out come a ground without it and a layer that can move by itself. */
export function ShadowBench({ document, picture, pieces, owner, shadow }: ShadowBenchProps) {
  const { id } = useProject();
  const navigate = useNavigate();
  const recipe = shadow?.recipe.kind === 'shadow' ? shadow.recipe : null;
  const [region, setRegion] = useState<BrushStroke[]>(recipe?.region ?? []);
  const [radius, setRadius] = useState(40);
  const [after, setAfter] = useState(false);
  const session = useCutSession(picture, owner, null);
  const looking = useShadowSearch(document, picture, owner, region, setRegion);
  // A piece that came with no region yet is looked at once by itself.
  const { look } = looking;
  const begun = useRef(false);
  useEffect(() => {
    if (begun.current || recipe || !owner.cutout) return;
    begun.current = true;
    look();
  }, [look, recipe, owner.cutout]);
  const images = useImages(placedPlate(picture), picture.file);
  const activity = looking.activity ?? session.activity;

  const lift = (): void => {
    if (region.length === 0 || activity) return;
    const pieceId = shadow?.id ?? newId('piece');
    session.lift(addShadow({ id: pieceId, name: shadow?.name ?? `${owner.name} shadow`, of: owner.id, region }));
    void navigate(`/project/${id}/cut/${picture.id}/${shadow ? shadow.id : `shadow~${owner.id}`}`, { replace: true });
  };
  useKeys((event) => {
    if (event.ctrlKey || event.altKey || event.metaKey) return;
    const key = event.key.toLowerCase();
    if (key === 'l') lift();
    else if (key === 'f' && owner.cutout && !activity) look();
    else if (key === 'v') setAfter(!after);
    else if (key === '[' || key === ']') setRadius(steppedRadius(key, radius)!);
    else if (key === 'escape' && !isControl(event)) void navigate(`/project/${id}/cut/${picture.id}/${owner.id}`);
  });

  return (
    <div className="grid h-full grid-cols-[232px_1fr_224px]">
      <MainAction>
        <Button
          look="primary"
          icon={<Sun size={15} />}
          disabled={region.length === 0 || !!activity}
          title="Lift shadow (L)"
          onClick={lift}
        >
          Lift shadow
        </Button>
      </MainAction>
      <aside className="flex flex-col gap-3 overflow-auto border-r border-line p-3" aria-label="Shadow tools">
        <h2 className="font-semibold">The shadow of {owner.name}</h2>
        <p className="text-[12px] text-ink-2">
          Paint generously over the soft shadow, past its faintest rim. The ground keeps its own grain; only the
          darkness is lifted.
        </p>
        <Button
          icon={<Search size={14} />}
          disabled={!owner.cutout || !!activity}
          title="Find its shadow (F)"
          onClick={look}
        >
          Find its shadow
        </Button>
        <BrushSize name="Brush size" radius={radius} onChange={setRadius} />
        {region.length > 0 && (
          <Button icon={<Eraser size={14} />} onClick={() => setRegion([])}>
            Start over
          </Button>
        )}
        <p className="mt-auto text-[12px] text-ink-2">
          On the Stage the shadow follows its piece sideways, stays on the ground, and fades and shrinks as the piece
          rises.
        </p>
      </aside>
      <section className="flex min-w-0 flex-col" aria-label="Picture">
        <div className="relative min-h-0 flex-1">
          {images ? (
            <PlateView
              {...images}
              look={after ? 'background' : 'picture'}
              pad={null}
              onPad={() => undefined}
              preview={null}
              tool={after || session.activity ? null : { kind: 'brush', colour: '#44648a', mark: 'plus' }}
              radius={radius}
              onStroke={(stroke) => setRegion((before) => [...before, stroke])}
              onLine={() => undefined}
              onSource={() => undefined}
            >
              {() =>
                !after && (
                  <g opacity={0.45}>
                    {region.map((s, k) => (
                      <WideStroke key={k} stroke={s} colour="#44648a" opacity={1} />
                    ))}
                  </g>
                )
              }
            </PlateView>
          ) : (
            <div className="h-full bg-field" />
          )}
          <WorkingOver activity={activity} />
        </div>
        <div className="flex h-11 shrink-0 items-center gap-2 border-t border-line px-3">
          <Button aria-pressed={after} title="Ground without shadow (V)" onClick={() => setAfter(!after)}>
            {after ? 'Show the picture' : 'Show the ground without it'}
          </Button>
        </div>
      </section>
      <PieceList document={document} picture={picture} pieces={pieces} piece={shadow} />
    </div>
  );
}

function useShadowSearch(
  document: Document,
  picture: Picture,
  owner: Piece,
  region: BrushStroke[],
  setRegion: Dispatch<SetStateAction<BrushStroke[]>>,
) {
  const [activity, setActivity] = useState<Activity | null>(null);
  const look = (): void => {
    let job: PlateJob | null = null;
    // What is painted while the search runs stays; what was there before gives way to what is found.
    const old = new Set(region);
    const found = (strokes: BrushStroke[]): void =>
      setRegion((now) => [...strokes, ...now.filter((stroke) => !old.has(stroke))]);
    const cancel = (): void => job?.cancel();
    setActivity({ doing: 'Looking for the shadow', share: null, cancel });
    const asked = lookForShadow({ document, picture: picture.id }, owner.id);
    job = asked;
    asked.answer
      .then((answer) => {
        if (!answer) return;
        if (answer.region) found(answer.region);
        else notify('done', 'No shadow stands out next to it. Paint over it if you see one.');
      })
      .catch((error: unknown) => notifyError(error))
      .finally(() => setActivity(null));
  };
  return { activity, look };
}
