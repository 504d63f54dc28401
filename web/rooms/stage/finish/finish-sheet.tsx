import { Dialog, DialogPanel, DialogTitle } from '@headlessui/react';
import { useEffect, useMemo, useRef, useState } from 'react';
import { addFinish } from '../../../../core/edits/finish-edits.ts';
import { seenBox } from '../../../../core/edits/arrange-edits.ts';
import type { Document } from '../../../../core/document/document.ts';
import type { Layer } from '../../../../core/document/layer.ts';
import type { Shot } from '../../../../core/document/shot.ts';
import { families, type FinishKind } from '../../../../core/finish/finish.ts';
import { finishKinds } from '../../../../core/finish/finishes.ts';
import { StillClient } from '../../../workers/still-client.ts';

interface FinishSheetProps {
  document: Document;
  shot: Shot;
  layer: Layer;
  frame: number;
  onChoose(kind: string): void;
  onClose(): void;
}

const [tileWidth, tileHeight] = [138, 86];

/** All finishes as small live pictures of this very layer; pressing one adds it. */
export function FinishSheet({ document, shot, layer, frame, onChoose, onClose }: FinishSheetProps) {
  const [search, setSearch] = useState('');
  const pictures = useTiles(document, shot, layer, frame);
  const [large, setLarge] = useState<string | null>(null);
  const wanted = search.trim().toLowerCase();
  const fits = (kind: FinishKind): boolean =>
    wanted === '' || `${kind.name} ${kind.purpose} ${kind.family}`.toLowerCase().includes(wanted);
  const shown = finishKinds.filter(fits);
  const looked = finishKinds.find((kind) => kind.id === large);
  return (
    <Dialog open onClose={onClose} className="relative z-40">
      <div className="fixed inset-0 bg-ink/30" aria-hidden />
      <div className="fixed inset-0 flex items-center justify-center p-6">
        <DialogPanel className="flex max-h-full w-[1120px] flex-col rounded-xl border border-line bg-paper shadow-xl">
          <div className="flex items-center gap-3 border-b border-line px-4 py-3">
            <DialogTitle className="font-semibold">Add a finish to {layer.name}</DialogTitle>
            <input
              autoFocus
              type="search"
              aria-label="Search finishes"
              placeholder="Search"
              className="ml-auto w-56 rounded-md border border-line bg-white px-2 py-1 text-[13px]"
              value={search}
              onChange={(event) => setSearch(event.target.value)}
              onKeyDown={(event) => event.key === 'Enter' && shown[0] && onChoose(shown[0].id)}
            />
          </div>
          <div className="flex min-h-0 flex-1">
            <div className="min-w-0 flex-1 overflow-auto px-4 pb-4">
              {families.map((family) => {
                const kinds = shown.filter((kind) => kind.family === family);
                if (kinds.length === 0) return null;
                return (
                  <section key={family} aria-label={family}>
                    <h3 className="pt-3 pb-1.5 text-[13px] font-semibold text-pine capitalize">{family}</h3>
                    <ul className="flex flex-wrap gap-2.5">
                      {kinds.map((kind) => (
                        <li key={kind.id}>
                          <button
                            type="button"
                            className="block overflow-hidden rounded-lg border border-line bg-white/60 text-left hover:border-pine focus-visible:border-pine"
                            title={kind.purpose}
                            onClick={() => onChoose(kind.id)}
                            onPointerEnter={() => setLarge(kind.id)}
                            onFocus={() => setLarge(kind.id)}
                          >
                            <Tile picture={pictures.get(kind.id)} scale={1} />
                            <span className="flex items-center gap-1 px-2 py-1 text-[12px]">
                              {kind.name}
                              {kind.heavy && (
                                <span
                                  className="ml-auto text-ink-2"
                                  title="Takes its time; left out while heavy effects are off"
                                >
                                  heavy
                                </span>
                              )}
                            </span>
                          </button>
                        </li>
                      ))}
                    </ul>
                  </section>
                );
              })}
              {shown.length === 0 && <p className="py-10 text-center text-ink-2">No finish is called that.</p>}
            </div>
            <aside className="w-[340px] shrink-0 border-l border-line p-4" aria-live="polite">
              <Tile picture={pictures.get(looked?.id ?? '')} scale={2} />
              <p className="mt-2 font-semibold">{looked?.name ?? 'Look closer'}</p>
              <p className="text-[13px] text-ink-2">
                {looked?.purpose ?? 'Point at a finish to see it large on this layer; press to add it.'}
              </p>
            </aside>
          </div>
        </DialogPanel>
      </div>
    </Dialog>
  );
}

function Tile({ picture, scale }: { picture: ImageBitmap | undefined; scale: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const context = canvas.current?.getContext('2d');
    if (!context) return;
    context.clearRect(0, 0, 2 * tileWidth, 2 * tileHeight);
    if (picture) context.drawImage(picture, 0, 0);
  }, [picture]);
  return (
    <canvas
      ref={canvas}
      width={2 * tileWidth}
      height={2 * tileHeight}
      data-ready={picture !== undefined}
      className="block bg-field"
      style={{ width: tileWidth * scale, height: tileHeight * scale }}
      aria-hidden
    />
  );
}

/** Pictures of the layer with each finish at its start, as they get ready; around the layer what lies there is seen. */
function useTiles(document: Document, shot: Shot, layer: Layer, frame: number): ReadonlyMap<string, ImageBitmap> {
  const [pictures, setPictures] = useState<ReadonlyMap<string, ImageBitmap>>(new Map());
  const view = useMemo(() => viewOf(document, shot, layer, frame), [document, shot, layer, frame]);
  useEffect(() => {
    const client = new StillClient();
    const made: ImageBitmap[] = [];
    for (const kind of finishKinds) {
      const finished = addFinish(shot.id, layer.id, kind.id, 'finish-shown').apply(document);
      void client.paint({ document: finished, shot: shot.id, frame, ...view }).then((picture) => {
        if (!picture) return;
        made.push(picture);
        setPictures((before) => new Map(before).set(kind.id, picture));
      });
    }
    return () => {
      client.close();
      for (const picture of made) picture.close();
    };
  }, [document, shot.id, layer.id, frame, view]);
  return pictures;
}

/** The part of the frame around a layer, as large as a tile in twice its pixels. */
function viewOf(document: Document, shot: Shot, layer: Layer, frame: number) {
  const whole = { left: 0, top: 0, right: document.frame.width, bottom: document.frame.height };
  const box = seenBox(document, shot, layer, frame) ?? whole;
  const left = Math.max(0, box.left);
  const top = Math.max(0, box.top);
  const [right, bottom] = [Math.min(whole.right, box.right), Math.min(whole.bottom, box.bottom)];
  const [w, h] = [Math.max(20, right - left) * 1.25, Math.max(20, bottom - top) * 1.25];
  // As large as it goes with what its finishes add around it, but no tile shows more than the frame.
  const { width: fw, height: fh } = document.frame;
  const fitted = Math.min((2 * tileWidth) / w, (2 * tileHeight) / h);
  const scale = Math.max(fitted, (2 * tileWidth) / fw, (2 * tileHeight) / fh);
  const within = (at: number, tile: number, frameSide: number): number =>
    Math.max(tile - frameSide * scale, Math.min(0, tile / 2 - at * scale));
  const x = within((left + right) / 2, 2 * tileWidth, fw);
  const y = within((top + bottom) / 2, 2 * tileHeight, fh);
  return { width: 2 * tileWidth, height: 2 * tileHeight, scale, x, y };
}
