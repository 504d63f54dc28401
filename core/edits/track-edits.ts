import equal from 'fast-deep-equal';
import type { Document } from '../document/document.ts';
import { plainLayer, type Layer, type Steady } from '../document/layer.ts';
import { placeInClip, type Track } from '../document/track.ts';
import type { Point } from '../motion/property.ts';
import { transform } from '../scene/matrix.ts';
import { restMatrix, standingOf, standingOfPoint } from '../scene/place.ts';
import { pointAt } from '../scene/points-of-clip.ts';
import { layerValue } from '../scene/values.ts';
import { defineEdit, find, type Edit } from './edit.ts';
import { layerIn, shotIn } from './layer-edits.ts';
import { dropTracks } from './project-edits.ts';

/* Points followed through clips, and what holds on to them. */

export const addTrack = defineEdit('Mark point', (draft, track: Track) => {
  find(draft.pictures, 'picture', track.picture);
  draft.tracks.push(track);
});

export const renameTrack = defineEdit('Rename point', (draft, track: string, name: string) => {
  const found = find(draft.tracks, 'point', track);
  found.name = name.trim() || found.name;
});

export const setTrackRadius = defineEdit('Change point', (draft, track: string, radius: number) => {
  find(draft.tracks, 'point', track).radius = Math.max(3, Math.min(200, radius));
});

export const removeTrack = defineEdit('Delete point', (draft, track: string) => {
  dropTracks(draft, ({ id }) => id === find(draft.tracks, 'point', track).id);
});

/** Says by hand where a point is in a frame of its clip; the frames around it keep theirs until they are followed again. */
export const markTrack = defineEdit('Mend point', (draft, trackId: string, frame: number, at: Point) => {
  const track = find(draft.tracks, 'point', trackId);
  const others = track.marks.filter((mark) => mark.frame !== frame);
  track.marks = [...others, { frame, at }].sort((a, b) => a.frame - b.frame);
  if (track.points.length > frame * 3) track.points.splice(frame * 3, 3, ...at, 0);
});

/** Takes back what was said by hand about a frame; the last mark stays. */
export const unmarkTrack = defineEdit('Take mark back', (draft, trackId: string, frame: number) => {
  const track = find(draft.tracks, 'point', trackId);
  const others = track.marks.filter((mark) => mark.frame !== frame);
  if (others.length > 0) track.marks = others;
});

/**
 * Lays in where a point was found, from a frame of its clip on. Nothing happens where it is gone, or was marked otherwise
 * meanwhile.
 * @param marks those it was followed by
 * @param frames how many frames the clip has
 */
export const layTrack = (
  trackId: string,
  marks: Track['marks'],
  frames: number,
  from: number,
  points: readonly number[],
): Edit =>
  defineEdit('Follow point', (draft: Document) => {
    const track = draft.tracks.find((one) => one.id === trackId);
    if (!track || !equal(track.marks, marks)) return;
    const all =
      track.points.length === frames * 3
        ? track.points.slice()
        : Array.from({ length: frames }, (_, frame) => [...placeInClip(track, frame), 1]).flat();
    all.splice(from * 3, points.length, ...points.map((v) => Math.round(v * 1000) / 1000));
    track.points = all;
  })();

/** The frames of a clip that have to be followed again where something was said about one of them: up to the marks around it. */
export function framesAround({ marks, points }: Track, frame: number, count: number): [number, number] {
  if (points.length === 0) return [0, count];
  const before = marks.filter((mark) => mark.frame < frame).at(-1);
  const after = marks.find((mark) => mark.frame > frame);
  return [before?.frame ?? 0, (after?.frame ?? count - 1) + 1];
}

/** Fastens a layer to a followed point of a clip as both are at `frame`: it goes its way from there, under any camera. */
export function fastenToPoint(
  shotId: string,
  layerId: string,
  to: string,
  point: string,
  second: string | null,
  frame: number,
): Edit {
  return defineEdit('Fasten layer', (draft: Document) => {
    const shot = shotIn(draft, shotId);
    const layer = layerIn(draft, shotId, layerId);
    const owner = find(shot.layers, 'layer', to);
    const whole = standingOf(shot, owner, frame, draft);
    const named = { point, second };
    const at = standingOfPoint(shot, layer, owner, named, frame, draft, new Set([layerId]), whole);
    layer.fastened = {
      to,
      ...named,
      place: at.place,
      rotation: at.rotation,
      scale: Math.max(1e-6, Math.abs(at.scale)),
      follow: [1, 1],
      turn: second ? 1 : 0,
      grow: second ? 1 : 0,
      fade: 0,
      shrink: 0,
      touching: true,
    };
  })();
}

/** Hangs a carrier on a followed point; whatever is fastened to it goes along. */
export function addCarrierAt(
  shotId: string,
  ownerId: string,
  point: string,
  second: string | null,
  frame: number,
  carrier: { id: string; name: string },
): Edit {
  return {
    name: 'Add carrier',
    apply: (document) => {
      const shot = shotIn(document, shotId);
      const owner = find(shot.layers, 'layer', ownerId);
      const at = pointAt(document, owner, point, frame);
      if (!at) return document;
      const layer: Layer = {
        ...plainLayer,
        ...carrier,
        source: { kind: 'carrier' },
        depth: { value: layerValue(shot, owner, 'depth', frame) },
        pivot: { value: [0, 0] },
        position: { value: transform(restMatrix(document, shot, owner, frame), ...at) },
      };
      const added = defineEdit('Add carrier', (draft: Document) => {
        const { layers } = shotIn(draft, shotId);
        layers.splice(
          layers.findIndex((l) => l.id === ownerId),
          0,
          layer,
        );
      })().apply(document);
      return fastenToPoint(shotId, carrier.id, ownerId, point, second, frame).apply(added);
    },
  };
}

export const steadyLayer = defineEdit('Steady clip', (draft, shot: string, layer: string, steady: Steady | null) => {
  layerIn(draft, shot, layer).steady = steady;
});
