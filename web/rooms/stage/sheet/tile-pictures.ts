import { useEffect, useMemo, useState } from 'react';
import { seenBox } from '../../../../core/scene/seen-box.ts';
import type { Document } from '../../../../core/document/document.ts';
import type { Shot } from '../../../../core/document/shot.ts';
import { StillClient } from '../../../workers/still-client.ts';
import { tileSize } from './tile.tsx';

const [width, height] = tileSize.map((side) => 2 * side) as [number, number];

/** A scene to be painted for a tile, at one frame or several. */
export interface TileScene {
  id: string;
  document: Document;
  frames: readonly number[];
}

type View = { width: number; height: number; scale: number; x: number; y: number };

/** Pictures of scenes as they get ready; nothing is painted any more once they are not looked at. */
export function useTilePictures(
  scenes: readonly TileScene[],
  shot: string,
  view: View,
): ReadonlyMap<string, readonly ImageBitmap[]> {
  const [pictures, setPictures] = useState<ReadonlyMap<string, readonly ImageBitmap[]>>(new Map());
  useEffect(() => {
    const client = new StillClient();
    const made: ImageBitmap[] = [];
    for (const { id, document, frames } of scenes) {
      const painted = frames.map((frame) => client.paint({ document, shot, frame, ...view }));
      void Promise.all(painted).then((found) => {
        const own = found.filter((picture) => picture !== null);
        made.push(...own);
        if (own.length > 0) setPictures((before) => new Map(before).set(id, own));
      });
    }
    return () => {
      client.close();
      for (const picture of made) picture.close();
    };
  }, [scenes, shot, view]);
  return pictures;
}

/** The part of the frame around layers, as large as a tile in twice its pixels. @param layers their ids, with spaces between */
export function useViewOf(document: Document, shot: Shot, layers: string, frame: number, room = 1.25): View {
  return useMemo(() => viewOf(document, shot, layers.split(' '), frame, room), [document, shot, layers, frame, room]);
}

function viewOf(document: Document, shot: Shot, layers: readonly string[], frame: number, room: number): View {
  const { width: fw, height: fh } = document.frame;
  const whole = { left: 0, top: 0, right: fw, bottom: fh };
  const boxes = shot.layers
    .filter((layer) => layers.includes(layer.id))
    .map((layer) => seenBox(document, shot, layer, frame) ?? whole);
  const [left, top] = [boxes.map((box) => box.left), boxes.map((box) => box.top)].map((all) =>
    Math.max(0, Math.min(...all)),
  ) as [number, number];
  const right = Math.min(fw, Math.max(...boxes.map((box) => box.right)));
  const bottom = Math.min(fh, Math.max(...boxes.map((box) => box.bottom)));
  const [w, h] = [Math.max(20, right - left) * room, Math.max(20, bottom - top) * room];
  // As large as it goes with what is added around it, but no tile shows more than the frame.
  const fitted = Math.min(width / w, height / h);
  const scale = Math.max(fitted, width / fw, height / fh);
  const within = (at: number, tile: number, side: number): number =>
    Math.max(tile - side * scale, Math.min(0, tile / 2 - at * scale));
  return {
    width,
    height,
    scale,
    x: within((left + right) / 2, width, fw),
    y: within((top + bottom) / 2, height, fh),
  };
}
