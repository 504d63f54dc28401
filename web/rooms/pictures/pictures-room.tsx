import { ImagePlus, Layers, Scaling, Scissors, Sparkles, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { Layer } from '../../../core/document/layer.ts';
import { changedSinceLift } from '../../../core/document/cut-name.ts';
import type { Document, Picture } from '../../../core/document/document.ts';
import { commonFrames } from '../../../core/document/frame-proposal.ts';
import {
  addPictures,
  removePicture,
  setFrameRate,
  setFrameSize,
  setShotLength,
} from '../../../core/edits/project-edits.ts';
import { scaleScene } from '../../../core/edits/scale-scene.ts';
import { fileUrl } from '../../data/api.ts';
import { hangPicture } from '../../../core/edits/lift-edit.ts';
import { startMaking, useMaking } from '../../data/making.ts';
import { notify } from '../../data/notices.ts';
import { bringIn } from '../../data/bring-in.ts';
import { newId, useDocument, useProject } from '../../data/project.ts';
import { Button, IconButton } from '../../parts/button.tsx';
import { DropArea } from '../../parts/drop-area.tsx';
import { NumberField } from '../../parts/number-field.tsx';
import { Working } from '../../parts/working.tsx';
import { MainAction } from '../main-action.tsx';
import { MissingPicture } from './missing-picture.tsx';

/** What came in, large, and the frame it is made for. */
export function PicturesRoom() {
  const document = useDocument();
  const { dispatch } = useProject();
  const [bringing, setBringing] = useState(false);
  const take = async (files: File[]): Promise<void> => {
    setBringing(true);
    const pictures = await bringIn(files);
    if (pictures.length > 0) dispatch(addPictures(pictures));
    setBringing(false);
  };
  return (
    <DropArea onFiles={(files) => void take(files)} hint="Drop to bring in" className="flex h-full">
      {(choose) => (
        <>
          <MainAction>
            <Button look="primary" icon={<ImagePlus size={15} />} onClick={choose}>
              Bring in pictures
            </Button>
          </MainAction>
          <section className="min-w-0 flex-1 overflow-auto p-6" aria-label="Pictures">
            {document.pictures.length === 0 ? (
              <p className="flex h-full items-center justify-center text-ink-2">
                Drop a picture here. It is kept as it is; everything you do can be undone.
              </p>
            ) : (
              <ul className="grid grid-cols-[repeat(auto-fill,minmax(380px,1fr))] gap-6">
                {document.pictures.map((picture) => (
                  <PictureCard key={picture.id} picture={picture} document={document} />
                ))}
              </ul>
            )}
            {bringing && (
              <div className="fixed inset-x-0 bottom-6 flex justify-center">
                <Working doing="Bringing in the pictures" share={null} />
              </div>
            )}
          </section>
          <FramePanel document={document} />
        </>
      )}
    </DropArea>
  );
}

/** Each picture says what was made of it. */
function storyOf(document: Document, picture: Picture): string {
  const pieces = document.pieces.filter((piece) => piece.picture === picture.id);
  if (pieces.length === 0) return 'Nothing was cut out of it yet.';
  const names = pieces.map((piece) => piece.name).join(', ');
  const changed = pieces.filter(changedSinceLift).map((piece) => piece.name);
  if (changed.length > 0) return `${names}. Changed since lifted out: ${changed.join(', ')}.`;
  if (picture.clip) return `${names}, cut in every frame.`;
  if (picture.background) return `${names}; its background is rebuilt.`;
  return pieces.every((piece) => piece.cutout) ? `${names}, lifted out.` : `${names}, not lifted out yet.`;
}

const counted = (count: number, one: string): string[] =>
  count === 0 ? [] : [count === 1 ? `one ${one}` : `${count} ${one}s`];

/** What is removed together with a picture, in words. */
function goesWith(document: Document, pictureId: string): string {
  const pieces = document.pieces.filter(({ picture }) => picture === pictureId);
  const shows = ({ source }: Layer): boolean =>
    source.kind === 'piece'
      ? pieces.some(({ id }) => id === source.piece)
      : 'picture' in source && source.picture === pictureId;
  const layers = document.shots.reduce((sum, shot) => sum + shot.layers.filter(shows).length, 0);
  const background = document.pictures.find(({ id }) => id === pictureId)?.background ? ['its background'] : [];
  return [...counted(pieces.length, 'piece'), ...background, ...counted(layers, 'layer')]
    .join(', ')
    .replace(/, ([^,]*)$/, ' and $1');
}

/** Takes a removal back while it is the last thing that was done. */
function undoRemoval(): void {
  const { past, undo } = useProject.getState();
  if (past.at(-1)?.name === removePicture('').name) undo();
  else notify('done', 'Other things were done since. Ctrl Z goes back to it, step by step.');
}

function PictureCard({ picture, document }: { picture: Picture; document: Document }) {
  const { id, dispatch } = useProject();
  const navigate = useNavigate();
  const [missing, setMissing] = useState(false);
  const { running } = useMaking();
  const show = (): void => {
    const stage = `/project/${id}/stage`;
    if (window.location.pathname === `/project/${id}/pictures`) void navigate(stage, { state: { play: true } });
    else notify('done', `${picture.name} moves now, on the Stage.`);
  };
  const remove = (): void => {
    const gone = goesWith(document, picture.id);
    dispatch(removePicture(picture.id));
    notify('done', `${picture.name} was removed${gone && `, with ${gone}`}.`, { label: 'Undo', run: undoRemoval });
  };
  const hangs = document.shots[0]!.layers.some(
    (l) => l.source.kind === 'background' && l.source.picture === picture.id,
  );
  return (
    <li className="overflow-hidden rounded-lg border border-line bg-white/60">
      <div className="flex h-[280px] items-center justify-center bg-field p-3">
        {missing ? (
          <MissingPicture picture={picture} onBack={() => setMissing(false)} />
        ) : (
          <img
            src={fileUrl(picture.file, 960)}
            alt={picture.name}
            className="max-h-full max-w-full"
            onError={() => setMissing(true)}
          />
        )}
      </div>
      <div className="flex items-center gap-2 px-3 py-2">
        <div className="min-w-0 flex-1">
          <div className="truncate font-semibold">{picture.name}</div>
          <div className="truncate text-[12px] text-ink-2">
            <span className="font-mono text-[11px]">
              {picture.width} × {picture.height}
              {picture.clip && `, ${(picture.clip.frames / picture.clip.rate).toFixed(1)} s`}
            </span>{' '}
            · {storyOf(document, picture)}
          </div>
        </div>
        {!picture.clip && (
          <Button
            icon={<Sparkles size={14} />}
            disabled={running !== null}
            title="Finds the subject, lifts it out, rebuilds what is behind, and starts a camera move: all steps you can open"
            onClick={() => void startMaking({ project: id!, document, picture, ownProject: false, show })}
          >
            Make it move
          </Button>
        )}
        <Button icon={<Scissors size={14} />} onClick={() => void navigate(`/project/${id}/cut/${picture.id}`)}>
          Cut
        </Button>
        <IconButton
          label={`Hang ${picture.name} on the Stage`}
          title={hangs ? 'It hangs on the Stage already; there it can be hung once more' : undefined}
          disabled={hangs}
          onClick={() => dispatch(hangPicture(picture.id, newId('layer')))}
        >
          <Layers size={15} />
        </IconButton>
        <IconButton label={`Remove ${picture.name}`} onClick={remove}>
          <Trash2 size={15} className="text-brick" />
        </IconButton>
      </div>
    </li>
  );
}

function FramePanel({ document }: { document: Document }) {
  const { dispatch } = useProject();
  const { width, height, rate } = document.frame;
  const shot = document.shots[0]!;
  const first = document.pictures[0];
  // The frame what hangs was placed for, once another was chosen.
  const [placedFor, setPlacedFor] = useState<{ width: number; height: number } | null>(null);
  const setSize = (w: number, h: number): void => {
    if (document.shots.some(({ layers }) => layers.length > 0)) setPlacedFor((before) => before ?? { width, height });
    dispatch(setFrameSize(w, h));
  };
  const choices = [...commonFrames.map((f) => ({ ...f, name: f.name as string })), ...(first ? [ownFrame(first)] : [])];
  return (
    <aside className="w-64 shrink-0 overflow-auto border-l border-line p-4" aria-label="Frame">
      <h2 className="mb-2 font-semibold">Frame</h2>
      <div className="mb-3 grid grid-cols-4 gap-1.5">
        {choices.map((choice) => {
          const chosen = choice.width === width && choice.height === height;
          const k = 26 / Math.max(choice.width, choice.height);
          return (
            <button
              key={choice.name}
              type="button"
              aria-pressed={chosen}
              title={`${choice.width} × ${choice.height}`}
              onClick={() => setSize(choice.width, choice.height)}
              className={`flex flex-col items-center justify-end gap-1 rounded-md border px-1 pt-2 pb-1 text-[11px] ${chosen ? 'border-pine text-pine' : 'border-line text-ink-2 hover:bg-paper-2'}`}
            >
              <span
                className="border-[1.5px] border-current"
                style={{ width: choice.width * k, height: choice.height * k }}
                aria-hidden
              />
              {choice.name}
            </button>
          );
        })}
      </div>
      <NumberField label="Width" unit="px" value={width} min={16} max={8192} onChange={(v) => setSize(v, height)} />
      <NumberField label="Height" unit="px" value={height} min={16} max={8192} onChange={(v) => setSize(width, v)} />
      {placedFor && (placedFor.width !== width || placedFor.height !== height) && (
        <div className="my-2 rounded-md border border-line bg-paper-2 p-2 text-[12px]" role="status">
          <p className="mb-1.5">
            What hangs in it was placed for{' '}
            <span className="whitespace-nowrap">
              {placedFor.width} × {placedFor.height}
            </span>{' '}
            and keeps its size.
          </p>
          <Button
            icon={<Scaling size={14} />}
            title="Makes everything that hangs as much larger or smaller as the frame, with its moves and the lens"
            onClick={() => {
              dispatch(scaleScene(Math.max(width / placedFor.width, height / placedFor.height)));
              setPlacedFor(null);
            }}
          >
            Scale it to the frame
          </Button>
        </div>
      )}
      <NumberField
        label="Frames per second"
        value={rate}
        min={1}
        max={120}
        digits={2}
        onChange={(v) => dispatch(setFrameRate(v))}
      />
      <NumberField
        label="Length"
        unit="s"
        digits={2}
        step={0.5}
        value={shot.length / rate}
        min={1 / rate}
        max={120}
        onChange={(v) => dispatch(setShotLength(shot.id, Math.round(v * rate)))}
      />
      <p className="mt-4 text-[12px] text-ink-2">
        Pictures are never changed. What you cut out of them is a recipe you can open and change at any time.
      </p>
    </aside>
  );
}

function ownFrame(picture: Picture) {
  const scale = Math.min(1, 1920 / Math.max(picture.width, picture.height));
  const even = (v: number): number => Math.round((v * scale) / 2) * 2;
  return { name: 'Own', width: even(picture.width), height: even(picture.height) };
}
