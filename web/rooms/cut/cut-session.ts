import type { ThinLine } from '../../../core/cut/thin-line.ts';
import { storedLift } from '../../data/stored-plate.ts';
import { useEffect, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { untouched, type Document, type Picture, type Piece } from '../../../core/document/document.ts';
import type { Edit } from '../../../core/edits/edit.ts';
import { liftOut } from '../../../core/edits/lift-edit.ts';
import { uploadPixels } from '../../data/api.ts';
import { notify, notifyError } from '../../data/notices.ts';
import { newId, useProject } from '../../data/project.ts';
import { CutClient, NothingBehind, type CutFinding, type CutPart } from '../../workers/cut-client.ts';
import type { Recipe, ShadowRecipe } from '../../../core/document/recipe.ts';
import { standsInPicture } from '../../../core/document/recipe-steps.ts';
import { addShadow, splitPiece } from '../../../core/edits/project-edits.ts';
import { lookForShadow, splitByObject } from '../../workers/plate-client.ts';
import type { Activity } from '../../parts/working.tsx';

/** The pixels the view draws from; the session paints into them as answers arrive. */
export interface CutPixels {
  picture: ImageBitmap;
  /** White with the piece's alpha. */
  alpha: OffscreenCanvas;
  /** The piece with cleaned colours. */
  cutout: OffscreenCanvas;
}

export interface CutSessionState {
  pixels: CutPixels | null;
  /** For clips: which frame is shown. */
  clipFrame: number;
  showClipFrame(index: number): void;
  /** The still ground of the clip, stored; the median of its frames, or the frame that is shown. */
  findGround(from: 'median' | 'frame'): Promise<string | null>;
  /** Grows whenever pixels changed. */
  version: number;
  activity: Activity | null;
  /** Share of the picture the piece covers, once known. */
  covered: number | null;
  /** For keys: how the pixels lie in what the key looks at, and the screen's colour. */
  histogram: { most: number; shares: number[] } | null;
  screen: [number, number, number] | null;
  /** Whether a shadow was seen beside the piece when it was lifted. */
  shadowSeen: boolean;
  /** Lifts the piece out; `first` is a change that belongs to it, and is only kept when the lift is. */
  lift(first?: Edit): void;
  /** The way along edges from one place of the picture to another. */
  wire(from: [number, number], to: [number, number], strength: number): Promise<[number, number][]>;
  /** The thin line past some places of the picture, no more than twice as wide as `widest`; null where there is none. */
  line(way: [number, number][], widest: number): Promise<ThinLine | null>;
  /** Looks the piece through; resolves when that is done. */
  check(): Promise<CutFinding[]>;
  /** Parts the piece into the things it consists of, lifting it first where that was not done. */
  split(): void;
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
export function useCutSession(picture: Picture | null, piece: Piece | null, openStep: string | null): CutSessionState {
  const [pixels, setPixels] = useState<CutPixels | null>(null);
  const [version, setVersion] = useState(0);
  const [activity, setActivity] = useState<Activity | null>(null);
  const [covered, setCovered] = useState<number | null>(null);
  const [facts, setFacts] = useState<Pick<CutSessionState, 'histogram' | 'screen'>>({ histogram: null, screen: null });
  const [shadowOf, setShadowOf] = useState<string | null>(null);
  const navigate = useNavigate();
  const client = useRef<CutClient | null>(null);
  const [clipFrame, setClipFrame] = useState(0);
  const file = picture?.file;
  const clip = picture?.clip ? picture.original : null;

  useEffect(() => {
    const opened = new CutClient();
    client.current = opened;
    return () => {
      client.current = null;
      opened.close();
      setPixels(null);
    };
  }, [file]);

  useEffect(() => {
    const opened = client.current;
    if (!file || !opened) return;
    let current = true;
    setActivity({ doing: 'Opening the picture', share: null });
    const load = async (): Promise<void> => {
      const bitmap = await opened.open(file, clip ? { file: clip, index: clipFrame } : null);
      if (!bitmap || !current) return;
      const size = [bitmap.width, bitmap.height] as const;
      setPixels({ picture: bitmap, alpha: new OffscreenCanvas(...size), cutout: new OffscreenCanvas(...size) });
      setActivity(null);
    };
    load().catch((error: unknown) => {
      if (!current) return;
      setActivity(null);
      notifyError(error);
    });
    return () => {
      current = false;
    };
  }, [file, clip, clipFrame]);

  const recipe = piece && piece.recipe.kind !== 'shadow' ? piece.recipe : undefined;
  const { care, marks } = piece ?? untouched;
  // Only keys tell facts of one step; for others it does not matter which of them is open.
  const factsOf = recipe?.kind === 'combined' ? openStep : null;
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
      ?.solve(
        { recipe, care, marks, open: factsOf },
        {
          progress: (doing, share) => current && setActivity({ doing, share }),
          part: (part) => {
            putPart(pixels, part);
            setVersion((v) => v + 1);
          },
        },
      )
      .then((solved) => {
        if (!current || !solved) return;
        setCovered(solved.share);
        setFacts({ histogram: solved.histogram, screen: solved.screen });
        setActivity(null);
        if (solved.share === 0) notify('problem', emptyStory(recipe));
      })
      .catch((error: unknown) => {
        setActivity(null);
        notifyError(error);
      });
    return () => {
      current = false;
    };
  }, [pixels, recipe, care, marks, factsOf]);

  const seeItMove = (): void => void navigate(`/project/${useProject.getState().id}/stage`, { state: { play: true } });

  const runLift = async (first?: Edit, alone = false): Promise<boolean> => {
    const opened = client.current;
    if (!piece || !pixels || !opened) return false;
    const { document, dispatch, latest } = useProject.getState();
    let cancelled = false;
    const running = opened.lift(
      first ? first.apply(document!) : document!,
      piece.id,
      {
        progress: (doing, share) => !cancelled && setActivity({ doing, share, cancel }),
      },
      alone,
    );
    const cancel = (): void => {
      cancelled = true;
      running.cancel();
      setActivity({ doing: 'Stopping', share: null });
    };
    setActivity({ doing: 'Lifting out', share: 0, cancel });
    const lifted = await running.answer;
    setActivity(null);
    if (!lifted) {
      notify('done', 'Lifting out was cancelled; nothing changed.');
      return false;
    }
    const result = await storedLift(first ? first.apply(document!) : document!, piece, lifted);
    const hung = document!.shots[0]!.layers.length > 0;
    const edit = liftOut(result);
    dispatch(first ? { name: first.name, apply: (d) => edit.apply(first.apply(d)) } : edit);
    if (first && lifted.pieces.length < 2)
      notify('problem', 'No darker ground was found there. Paint more generously over the shadow.');
    else if (first)
      notify('done', shadowStory(Math.max(...lifted.pieces.map((p) => p.lost))), {
        label: 'See it move',
        run: seeItMove,
      });
    else {
      if (hung) notify('done', 'Lifted out. Its layers follow.');
      else notify('done', 'Lifted out. It hangs on the Stage.', { label: 'See it move', run: seeItMove });
      guarded(offerShadow(opened, latest));
    }
    return true;
  };
  /** Says so, a little after the lift, where a shadow would stay behind. */
  const offerShadow = async (opened: typeof client.current, latest: () => Document): Promise<void> => {
    const region = await shadowBeside(latest(), piece!);
    // Meanwhile it may have been lifted by hand.
    if (!region || hasShadow(latest(), piece!)) return;
    setShadowOf(piece!.id);
    const lifting = addShadow({ id: newId('piece'), name: `${piece!.name} shadow`, of: piece!.id, region });
    const bench = `/project/${useProject.getState().id}/cut/${piece!.picture}/shadow~${piece!.id}`;
    // Pressed after the picture was left, it leads to where the shadow is lifted.
    const run = (): void => (client.current === opened ? guarded(runLift(lifting)) : void navigate(bench));
    notify('done', 'A shadow lies next to the piece.', { label: 'Lift it too', run });
  };
  const guarded = (work: Promise<unknown>): void => {
    work.catch((error: unknown) => {
      setActivity(null);
      if (error instanceof NothingBehind)
        notify('problem', error.message, { label: 'Lift without', run: () => guarded(runLift(undefined, true)) });
      else notifyError(error);
    });
  };
  const split = async (): Promise<void> => {
    if (!piece || !picture || (!piece.cutout && !(await runLift()))) return;
    setActivity({ doing: 'Parting the things', share: null });
    const { document, dispatch } = useProject.getState();
    const made = await splitByObject({ document: document!, picture: picture.id }, piece.id).answer;
    setActivity(null);
    if (!made) return;
    if (made.parts.length < 2) return notify('done', 'It is one thing already; nothing was parted.');
    const parts = await Promise.all(
      made.parts.map(async ({ cutout, alpha, bounds }) => ({
        id: newId('piece'),
        layer: newId('layer'),
        file: await uploadPixels(cutout),
        alphaFile: await uploadPixels(alpha),
        bounds,
      })),
    );
    dispatch(splitPiece(piece.id, parts));
    notify('done', `Parted into ${parts.length} pieces, each with its own layer.`);
  };

  const findGround = async (from: 'median' | 'frame'): Promise<string | null> => {
    if (!clip || !picture?.clip || !client.current) return null;
    setActivity({ doing: 'Looking for the still ground', share: 0 });
    try {
      const only = from === 'frame' ? clipFrame : null;
      const ground = await client.current.ground(clip, picture.clip.frames, only, {
        progress: (doing, share) => setActivity({ doing, share }),
      });
      return ground && (await uploadPixels(ground));
    } finally {
      setActivity(null);
    }
  };

  return {
    clipFrame,
    showClipFrame: setClipFrame,
    findGround,
    pixels,
    version,
    activity,
    covered,
    ...facts,
    shadowSeen: shadowOf !== null && shadowOf === piece?.id,
    lift: (first) => guarded(runLift(first)),
    wire: async (from, to, strength) => (await client.current?.wire(from, to, strength)) ?? [from, to],
    line: async (way, widest) => (await client.current?.line(way, widest)) ?? null,
    check: () => client.current?.check() ?? Promise.resolve([]),
    split: () => guarded(split()),
  };
}

function clear(pixels: CutPixels): void {
  for (const canvas of [pixels.alpha, pixels.cutout])
    canvas.getContext('2d')!.clearRect(0, 0, canvas.width, canvas.height);
}

const hasShadow = (document: Document, { id }: Piece): boolean =>
  document.pieces.some(({ recipe }) => recipe.kind === 'shadow' && recipe.of === id);

/** What is said of a piece that takes nothing, and how it comes to something. */
const emptyStory = (recipe: Recipe): string =>
  recipe.kind === 'subject'
    ? 'Nothing stood out. Paint Keep strokes over what you want.'
    : 'Nothing of the picture is taken this way. Undo, or change how it is cut.';

/** What is said when a shadow was lifted. @param lost share of it under which nothing of the ground could be seen */
const shadowStory = (lost: number): string =>
  lost < 0.01
    ? 'Its shadow is lifted too.'
    : `Its shadow is lifted too. Where it is deepest (${Math.round(lost * 100)} % of it) nothing of the ground can be seen: it is continued from around.`;

/** Looks once, after the first lift, whether a shadow would stay behind. */
async function shadowBeside(document: Document, piece: Piece): Promise<ShadowRecipe['region'] | null> {
  const moving = document.pictures.find((p) => p.id === piece.picture)?.clip;
  if (hasShadow(document, piece) || moving || piece.cutout || !standsInPicture(piece.recipe)) return null;
  const found = await lookForShadow({ document, picture: piece.picture }, piece.id).answer;
  return found?.region ?? null;
}
