import { useEffect, useMemo, useRef } from 'react';
import { paintFrame } from '../../../core/paint/painter.ts';
import { studioOf, type Studio, type Surface2D } from '../../../core/paint/surface.ts';
import type { Document } from '../../../core/document/document.ts';
import type { Shot } from '../../../core/document/shot.ts';
import { evaluateFrame } from '../../../core/scene/evaluate.ts';
import { stillOf } from '../../../core/scene/source-pixels.ts';
import { everyImage, filesOfImage, type Draw, type EvaluatedFrame } from '../../../core/scene/draw.ts';
import { loadMadeOf } from '../../workers/drawings.ts';
import { fileUrl } from '../../data/api.ts';

const width = 320;
const height = 190;
/** Frames at which is looked what pictures are needed. */
const glances = 9;

/** The project's first shot, small: a frame of it, or playing. */
export function Thumbnail({ document, playing }: { document: Document; playing: boolean }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const shot = document.shots[0]!;
  const empty = shot.layers.length === 0;
  // What is played is what was loaded for the still frame.
  const loaded = useMemo(() => (empty ? null : loadSmall(document)), [document, empty]);

  useEffect(() => {
    const context = canvas.current?.getContext('2d');
    if (!context || empty) return;
    let stopped = false;
    let tick = 0;
    const scale = Math.min(width / document.frame.width, height / document.frame.height);
    const x = (width - document.frame.width * scale) / 2;
    const y = (height - document.frame.height * scale) / 2;
    const show = (studio: Studio<Picture>, frame: number): void => {
      context.setTransform(1, 0, 0, 1, 0, 0);
      context.clearRect(0, 0, width, height);
      context.save();
      context.beginPath();
      context.rect(x, y, document.frame.width * scale, document.frame.height * scale);
      context.clip();
      paintFrame(context as unknown as Surface2D<Picture>, stillFrame(document, shot, frame), studio, {
        scale,
        x,
        y,
        ground: '#000000',
        size: { width, height },
      });
      context.restore();
    };
    void loaded?.then((images) => {
      if (stopped) return;
      const studio = smallStudio(images);
      show(studio, Math.floor(shot.length / 2));
      if (!playing) return;
      const from = performance.now();
      const step = (now: number): void => {
        show(studio, Math.floor(((now - from) / 1000) * document.frame.rate) % shot.length);
        tick = requestAnimationFrame(step);
      };
      tick = requestAnimationFrame(step);
    });
    return () => {
      stopped = true;
      cancelAnimationFrame(tick);
    };
  }, [document, shot, playing, empty, loaded]);

  const first = document.pictures[0];
  return (
    <div className="flex h-[190px] items-center justify-center overflow-hidden bg-field">
      {!empty ? (
        <canvas ref={canvas} data-playing={playing} width={width} height={height} className="h-full" />
      ) : first ? (
        <img src={fileUrl(first.file, 480)} alt="" className="h-full w-full object-contain" />
      ) : (
        <span className="text-[13px] text-white">Nothing in it yet</span>
      )}
    </div>
  );
}

type Picture = HTMLImageElement | HTMLCanvasElement;

function smallStudio(images: Map<string, HTMLImageElement>): Studio<Picture> {
  return studioOf<Picture>(
    (file) => images.get(file),
    (w, h) => {
      const canvas = Object.assign(window.document.createElement('canvas'), { width: w, height: h });
      return { canvas, context: canvas.getContext('2d')! as unknown as Surface2D<Picture> };
    },
    (image) => (image instanceof HTMLImageElement ? { width: image.naturalWidth, height: image.naturalHeight } : image),
  );
}

async function loadSmall(document: Document): Promise<Map<string, HTMLImageElement>> {
  await loadMadeOf(document);
  const shot = document.shots[0]!;
  // What arrives later or leaves early is looked for too.
  const moments = Array.from({ length: glances }, (_, k) => Math.round((k * (shot.length - 1)) / (glances - 1)));
  const draws = moments.flatMap((frame) => stillFrame(document, shot, frame).draws);
  const files = [...everyImage(draws)].flatMap(({ image }) => Object.values(filesOfImage(image)).flat());
  const entries = [...new Set(files)].map(async (file) => {
    const image = new Image();
    image.src = fileUrl(file, 480);
    await image.decode().catch(() => undefined);
    return [file, image] as const;
  });
  return new Map((await Promise.all(entries)).filter(([, image]) => image.complete && image.naturalWidth > 0));
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
