import { useEffect, useRef, useState } from 'react';
import { paintFrame } from '../../../core/paint/painter.ts';
import { studioOf, type Studio, type Surface2D } from '../../../core/paint/surface.ts';
import type { Document } from '../../../core/document/document.ts';
import type { Shot } from '../../../core/document/shot.ts';
import { evaluateFrame } from '../../../core/scene/evaluate.ts';
import { stillOf } from '../../../core/scene/source-pixels.ts';
import { everyImage, filesOfImage, type Draw, type EvaluatedFrame } from '../../../core/scene/draw.ts';
import { loadMadeOf } from '../../workers/drawings.ts';
import { fileUrl } from '../../data/api.ts';
import { inTurn } from './in-turn.ts';
import { useNear } from './use-near.ts';

const width = 320;
const height = 190;
/** Frames at which is looked what pictures playing needs. */
const glances = 9;

/** The project's first shot, small: a frame of it, or playing. It is made once it comes near to what is seen. */
export function Thumbnail({ document, playing }: { document: Document; playing: boolean }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const field = useRef<HTMLDivElement>(null);
  const [small] = useState(smallStudio);
  const shot = document.shots[0]!;
  const empty = shot.layers.length === 0;
  const near = useNear(field);

  useEffect(() => {
    const context = canvas.current?.getContext('2d');
    if (!context || empty || !near) return;
    return playing ? play(context, document, small) : showStill(context, document, small);
  }, [document, playing, empty, near, small]);

  const first = document.pictures[0];
  return (
    <div ref={field} className="flex h-[190px] items-center justify-center overflow-hidden bg-field">
      {!empty ? (
        <canvas ref={canvas} data-playing={playing} width={width} height={height} className="h-full" />
      ) : first ? (
        <img src={fileUrl(first.file, 480)} loading="lazy" alt="" className="h-full w-full object-contain" />
      ) : (
        <span className="text-[13px] text-white">Nothing in it yet</span>
      )}
    </div>
  );
}

/** A frame of each project, as long as somebody has the project: who comes back to the Shelf finds it painted. */
const stills = new WeakMap<Document, HTMLCanvasElement>();

/** @returns takes it back, where it is not painted yet */
function showStill(context: CanvasRenderingContext2D, document: Document, small: SmallStudio): () => void {
  const show = (still: HTMLCanvasElement): void => {
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.clearRect(0, 0, width, height);
    context.drawImage(still, 0, 0);
  };
  const still = stills.get(document);
  if (still) {
    show(still);
    return () => undefined;
  }
  const middle = Math.floor(document.shots[0]!.length / 2);
  let whole = false;
  return inTwoTurns(
    async () => void (whole = await loadSmall(document, [middle], small.images)),
    () => {
      const made = Object.assign(window.document.createElement('canvas'), { width, height });
      paintSmall(made.getContext('2d')!, document, middle, small);
      // With a picture missing it is tried again.
      if (whole) stills.set(document, made);
      show(made);
    },
  );
}

/** Loads, and then does the rest, each when its turn comes: many cards must not keep the page from answering. */
function inTwoTurns(load: () => Promise<unknown>, rest: () => void): () => void {
  let stopped = false;
  let takeBack = inTurn(() => {
    void load().then(() => {
      if (!stopped) takeBack = inTurn(rest);
    });
  });
  return () => {
    stopped = true;
    takeBack();
  };
}

/** @returns ends it */
function play(context: CanvasRenderingContext2D, document: Document, small: SmallStudio): () => void {
  const { length } = document.shots[0]!;
  let stopped = false;
  let tick = 0;
  // What arrives later or leaves early is looked for too.
  const moments = Array.from({ length: glances }, (_, k) => Math.round((k * (length - 1)) / (glances - 1)));
  void loadSmall(document, moments, small.images).then(() => {
    if (stopped) return;
    const from = performance.now();
    const step = (now: number): void => {
      const frame = Math.floor(((now - from) / 1000) * document.frame.rate) % length;
      paintSmall(context, document, frame, small);
      tick = requestAnimationFrame(step);
    };
    tick = requestAnimationFrame(step);
  });
  return () => {
    stopped = true;
    cancelAnimationFrame(tick);
  };
}

function paintSmall(
  context: CanvasRenderingContext2D,
  document: Document,
  frame: number,
  { studio }: SmallStudio,
): void {
  const scale = Math.min(width / document.frame.width, height / document.frame.height);
  const x = (width - document.frame.width * scale) / 2;
  const y = (height - document.frame.height * scale) / 2;
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.clearRect(0, 0, width, height);
  context.save();
  context.beginPath();
  context.rect(x, y, document.frame.width * scale, document.frame.height * scale);
  context.clip();
  const evaluated = stillFrame(document, document.shots[0]!, frame);
  paintFrame(context as unknown as Surface2D<Picture>, evaluated, studio, {
    scale,
    x,
    y,
    ground: '#000000',
    size: { width, height },
  });
  context.restore();
}

/** By file. */
type Images = Map<string, HTMLImageElement>;
type Picture = HTMLImageElement | HTMLCanvasElement;

/** What a card is painted with, kept from frame to frame. */
interface SmallStudio {
  images: Images;
  studio: Studio<Picture>;
}

function smallStudio(): SmallStudio {
  const images: Images = new Map();
  const studio = studioOf<Picture>(
    (file) => images.get(file),
    (w, h) => {
      const canvas = Object.assign(window.document.createElement('canvas'), { width: w, height: h });
      return { canvas, context: canvas.getContext('2d')! as unknown as Surface2D<Picture> };
    },
    (image) => (image instanceof HTMLImageElement ? { width: image.naturalWidth, height: image.naturalHeight } : image),
  );
  return { images, studio };
}

/** Loads what some frames of the first shot are painted with, as far as it is not there yet. @returns whether all of it is */
async function loadSmall(document: Document, frames: readonly number[], images: Images): Promise<boolean> {
  await loadMadeOf(document);
  const draws = frames.flatMap((frame) => stillFrame(document, document.shots[0]!, frame).draws);
  const files = [...everyImage(draws)].flatMap(({ image }) => Object.values(filesOfImage(image)).flat());
  const missing = [...new Set(files)].filter((file) => !images.has(file));
  await Promise.all(
    missing.map(async (file) => {
      const image = new Image();
      image.src = fileUrl(file, 480);
      await image.decode().catch(() => undefined);
      if (image.complete && image.naturalWidth > 0) images.set(file, image);
    }),
  );
  return missing.every((file) => images.has(file));
}

/** A frame in which clips stand still: on the Shelf nothing is decoded. */
function stillFrame(document: Document, shot: Shot, frame: number): EvaluatedFrame {
  const evaluated = evaluateFrame(document, { ...shot, motionBlur: null }, frame);
  const still = (draw: Draw): Draw => {
    const { content } = draw;
    if (content.kind === 'together') return { ...draw, content: { ...content, draws: content.draws.map(still) } };
    const layer = content.kind === 'image' && content.clip && shot.layers.find((l) => l.id === draw.layer);
    if (!layer || content.kind !== 'image') return draw;
    return { ...draw, content: { ...content, file: stillOf(document, layer.source)! } };
  };
  return { ...evaluated, draws: evaluated.draws.map(still) };
}
