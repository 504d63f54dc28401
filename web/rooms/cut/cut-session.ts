import { useEffect, useRef, useState } from 'react';
import type { Document, Picture, Piece, Recipe } from '../../../core/scene/document.ts';
import { liftOut } from '../../../core/scene/lift-edit.ts';
import { fileUrl, uploadPixels } from '../../data/api.ts';
import { notify, sentenceOf } from '../../data/notices.ts';
import { newId, useProject } from '../../data/project.ts';
import { CutClient, type CutPart } from '../../workers/cut-client.ts';

/** The pixels the view draws from; the session paints into them as answers arrive. */
export interface CutPixels {
  picture: ImageBitmap;
  /** White with the piece's alpha. */
  alpha: OffscreenCanvas;
  /** The piece with cleaned colours. */
  cutout: OffscreenCanvas;
}

export interface Activity {
  doing: string;
  share: number | null;
  cancel?: () => void;
}

export interface CutSessionState {
  pixels: CutPixels | null;
  /** Grows whenever pixels changed. */
  version: number;
  activity: Activity | null;
  /** Share of the picture the piece covers, once known. */
  covered: number | null;
  lift(): void;
}

function putPart(pixels: CutPixels, part: CutPart): void {
  const { x, y, alpha, cutout } = part;
  const put = (canvas: OffscreenCanvas, bitmap: ImageBitmap): void => {
    const context = canvas.getContext('2d')!;
    context.clearRect(x, y, bitmap.width, bitmap.height);
    context.drawImage(bitmap, x, y);
  };
  put(pixels.alpha, alpha);
  if (cutout) put(pixels.cutout, cutout);
  else {
    // Until the edge colours are known the picture's own stand in for them.
    const context = pixels.cutout.getContext('2d')!;
    context.clearRect(x, y, alpha.width, alpha.height);
    context.drawImage(pixels.picture, x, y, alpha.width, alpha.height, x, y, alpha.width, alpha.height);
    context.globalCompositeOperation = 'destination-in';
    context.save();
    context.beginPath();
    context.rect(x, y, alpha.width, alpha.height);
    context.clip();
    context.drawImage(alpha, x, y);
    context.restore();
    context.globalCompositeOperation = 'source-over';
  }
  alpha.close();
  cutout?.close();
}

/** Opens a picture in the cut worker and keeps the pixels of a piece's recipe up to date. */
export function useCutSession(picture: Picture | null, piece: Piece | null): CutSessionState {
  const [pixels, setPixels] = useState<CutPixels | null>(null);
  const [version, setVersion] = useState(0);
  const [activity, setActivity] = useState<Activity | null>(null);
  const [covered, setCovered] = useState<number | null>(null);
  const client = useRef<CutClient | null>(null);
  const file = picture?.file;

  useEffect(() => {
    if (!file) return;
    const opened = new CutClient();
    client.current = opened;
    setActivity({ doing: 'Opening the picture', share: null });
    const load = async (): Promise<void> => {
      const [bitmap] = await Promise.all([loadPicture(file), opened.open(fileUrl(file))]);
      const size = [bitmap.width, bitmap.height] as const;
      setPixels({ picture: bitmap, alpha: new OffscreenCanvas(...size), cutout: new OffscreenCanvas(...size) });
      setActivity(null);
    };
    load().catch((error: unknown) => {
      setActivity(null);
      notify('problem', sentenceOf(error));
    });
    return () => {
      client.current = null;
      opened.close();
      setPixels(null);
    };
  }, [file]);

  const recipe = piece?.recipe;
  useEffect(() => {
    if (!pixels) return;
    if (!recipe) {
      clear(pixels);
      setVersion((v) => v + 1);
      return;
    }
    let current = true;
    setActivity({ doing: 'Finding the edge', share: null });
    setCovered(null);
    client.current
      ?.solve(recipe, {
        progress: (doing, share) => current && setActivity({ doing, share }),
        part: (part) => {
          putPart(pixels, part);
          setVersion((v) => v + 1);
        },
      })
      .then((solved) => {
        if (!current || !solved) return;
        setCovered(solved.share);
        setActivity(null);
        if (solved.share === 0) notify('problem', 'Nothing stood out. Paint Keep strokes over what you want.');
      })
      .catch((error: unknown) => {
        setActivity(null);
        notify('problem', sentenceOf(error));
      });
    return () => {
      current = false;
    };
  }, [pixels, recipe]);

  const lift = (): void => {
    if (!piece || !picture || !pixels || !client.current) return;
    const others = liftedOthers(useProject.getState().document!, piece);
    const seed = picture.background?.seed ?? 1;
    let cancelled = false;
    const running = client.current.lift(piece.recipe, others, seed, {
      progress: (doing, share) => !cancelled && setActivity({ doing, share, cancel }),
    });
    const cancel = (): void => {
      cancelled = true;
      running.cancel();
      setActivity({ doing: 'Stopping', share: null });
    };
    setActivity({ doing: 'Lifting out', share: 0, cancel });
    const finish = async (): Promise<void> => {
      const lifted = await running.answer;
      setActivity(null);
      if (!lifted) return notify('done', 'Lifting out was cancelled; nothing changed.');
      const [cutout, background] = await Promise.all([uploadPixels(lifted.cutout), uploadPixels(lifted.background)]);
      const first = useProject.getState().document!.shots[0]!.layers.length === 0;
      useProject.getState().dispatch(
        liftOut({
          piece: piece.id,
          cutout: { file: cutout, bounds: lifted.bounds },
          background: { file: background, seed },
          pieceLayer: newId('layer'),
          backgroundLayer: newId('layer'),
        }),
      );
      notify('done', first ? 'Lifted out. Both layers hang on the Stage.' : 'Lifted out. Its layers follow.');
    };
    finish().catch((error: unknown) => {
      setActivity(null);
      notify('problem', sentenceOf(error));
    });
  };

  return { pixels, version, activity, covered, lift };
}

async function loadPicture(file: string): Promise<ImageBitmap> {
  const response = await fetch(fileUrl(file));
  if (!response.ok) throw new Error('The picture could not be loaded. Reload the page and try again.');
  return createImageBitmap(await response.blob(), { colorSpaceConversion: 'none' });
}

function clear(pixels: CutPixels): void {
  for (const canvas of [pixels.alpha, pixels.cutout])
    canvas.getContext('2d')!.clearRect(0, 0, canvas.width, canvas.height);
}

function liftedOthers(document: Document, piece: Piece): { url: string; x: number; y: number }[] {
  return document.pieces.flatMap((other) =>
    other.id !== piece.id && other.picture === piece.picture && other.cutout
      ? [{ url: fileUrl(other.cutout.file), x: other.cutout.bounds.x, y: other.cutout.bounds.y }]
      : [],
  );
}

export const emptyRecipe: Recipe = { answer: 'subject', keep: [], drop: [], box: null };
