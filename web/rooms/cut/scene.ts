import { useEffect, useState } from 'react';
import { paintFrame } from '../../../core/paint/painter.ts';
import { operationOf } from '../../../core/paint/view.ts';
import type { Surface2D } from '../../../core/paint/surface.ts';
import type { Document, Piece } from '../../../core/document/document.ts';
import type { BlendMode } from '../../../core/document/blend.ts';
import { evaluateFrame } from '../../../core/scene/evaluate.ts';
import { cameraAt, layerMatrix } from '../../../core/scene/place.ts';
import { asHung } from '../../../core/edits/lift-edit.ts';
import { invert, transform, type Matrix } from '../../../core/scene/matrix.ts';
import { notifyError } from '../../data/notices.ts';
import type { ImageStore, Picture } from '../../workers/image-store.ts';
import { useStage } from '../stage/stage-state.ts';

/** What the Stage shows around a piece, without the piece itself. */
export interface Scene {
  behind: OffscreenCanvas;
  front: OffscreenCanvas;
  /** Frame pixels to picture pixels of the piece. */
  toPicture: Matrix;
  opacity: number;
  blend: BlendMode;
  /** Whether there is nothing on the Stage but this piece. */
  empty: boolean;
}

/** Made when a scene is first looked at: it brings the decoders of clips with it. */
let images: Promise<ImageStore> | null = null;
const imageStore = (): Promise<ImageStore> =>
  (images ??= import('../../workers/image-store.ts').then((module) => new module.ImageStore()));

/** The scene a piece will be seen in, at the playhead; null until it is painted, and while it is not wanted. */
export function useScene(document: Document, piece: Piece | null, wanted: boolean): Scene | null {
  const [scene, setScene] = useState<Scene | null>(null);
  const playhead = useStage((state) => state.frame);
  const id = piece?.id;
  useEffect(() => {
    if (!wanted || !id) return;
    let current = true;
    sceneAround(document, id, playhead)
      .then((painted) => {
        if (current) setScene(painted);
      })
      .catch((error: unknown) => notifyError(error));
    return () => {
      current = false;
    };
  }, [document, id, playhead, wanted]);
  return wanted ? scene : null;
}

async function sceneAround(document: Document, piece: string, playhead: number): Promise<Scene | null> {
  const hung = asHung(document, piece);
  const shot = hung.shots[0]!;
  const frame = Math.min(playhead, shot.length - 1);
  const recipe = document.pieces.find((p) => p.id === piece)?.recipe;
  const layer = shot.layers.find((l) => l.source.kind === 'piece' && l.source.piece === piece)!;
  const evaluated = evaluateFrame(hung, shot, frame);
  const matrix = layerMatrix(hung, shot, layer, cameraAt(shot, frame), frame);
  const index = evaluated.draws.findIndex((draw) => draw.layer === layer.id);
  if (!matrix || index < 0) return null;
  const { width, height } = evaluated;
  const paint = async (draws: typeof evaluated.draws, ground: string | null): Promise<OffscreenCanvas> => {
    const canvas = new OffscreenCanvas(width, height);
    const part = { ...evaluated, draws };
    const studio = await (await imageStore()).studioFor(part, 1);
    const surface = canvas.getContext('2d')! as unknown as Surface2D<Picture>;
    paintFrame(surface, part, studio, { scale: 1, ground });
    return canvas;
  };
  return {
    behind: await paint(evaluated.draws.slice(0, index), '#000000'),
    front: await paint(evaluated.draws.slice(index + 1), null),
    toPicture: invert(matrix),
    opacity: evaluated.draws[index]!.opacity,
    // What is only blended away will be so from its next lift on.
    blend: recipe?.kind === 'whole' ? recipe.blend : evaluated.draws[index]!.blend,
    empty: evaluated.draws.length === 1,
  };
}

/** How the picture lies on a surface on which the whole frame just fits. */
export function fitFrame(
  scene: Scene,
  surface: { width: number; height: number },
  picture: { width: number; height: number },
) {
  const { width, height } = scene.behind;
  const [a, b] = scene.toPicture;
  const scale = Math.min(surface.width / width, surface.height / height) / Math.hypot(a, b);
  const [x, y] = transform(scene.toPicture, width / 2, height / 2);
  return { ...picture, scale, x: surface.width / 2 - x * scale, y: surface.height / 2 - y * scale };
}

type Context = CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D;

/**
 * Draws a piece in its scene.
 * @param picture maps picture pixels to the surface  @param blend how the piece is mixed in; its layer's own by default
 */
export function drawOnScene(
  context: Context,
  scene: Scene,
  piece: CanvasImageSource & { width: number; height: number },
  picture: { scale: number; x: number; y: number; width: number; height: number },
  blend = scene.blend,
): void {
  const { scale, x, y, width, height } = picture;
  const [a, b, c, d, e, f] = scene.toPicture;
  const onFrame = (): void =>
    context.setTransform(a * scale, b * scale, c * scale, d * scale, e * scale + x, f * scale + y);
  context.save();
  onFrame();
  context.beginPath();
  context.rect(0, 0, scene.behind.width, scene.behind.height);
  context.clip();
  context.drawImage(scene.behind, 0, 0);
  context.setTransform(scale, 0, 0, scale, x, y);
  context.globalAlpha = scene.opacity;
  context.globalCompositeOperation = operationOf(blend) as GlobalCompositeOperation;
  context.drawImage(piece, 0, 0, width, height);
  context.globalAlpha = 1;
  context.globalCompositeOperation = 'source-over';
  onFrame();
  context.drawImage(scene.front, 0, 0);
  context.restore();
}
