import type { Document } from '../document/document.ts';
import { defineEdit, find } from './edit.ts';
import { namesIn } from '../document/layer-names.ts';
import { shotIn } from './layer-edits.ts';
import { plainShot, type Shot, type Transition } from '../document/shot.ts';

/** A new, empty shot after another one. */
export const addShot = defineEdit('New shot', (draft, after: string, id: string) => {
  const at = draft.shots.findIndex((shot) => shot.id === after);
  const length = shotIn(draft, after).length;
  draft.shots.splice(at + 1, 0, { ...plainShot, id, name: freeShotName(draft), length });
});

/** A copy of a shot right after it; everything in the copy has ids of its own, made from `id`. */
export const duplicateShot = defineEdit('Duplicate shot', (draft, of: string, id: string) => {
  const at = draft.shots.findIndex((shot) => shot.id === of);
  const copy = JSON.parse(JSON.stringify(shotIn(draft, of))) as Shot;
  const names = new Map<string, string>();
  const inside = [...copy.layers, ...copy.layers.flatMap((l) => l.sways), ...copy.poses];
  inside.forEach((thing, k) => names.set(thing.id, `${id}-${k}`.slice(0, 40)));
  const renamed = JSON.parse(JSON.stringify(copy), (key, value: unknown) =>
    ['id', 'to', 'group', 'like', 'layer', 'next'].includes(key) && typeof value === 'string'
      ? (names.get(value) ?? value)
      : value,
  ) as Shot;
  for (const layer of renamed.layers) for (const { to, put } of namesIn(layer)) put(names.get(to) ?? to);
  draft.shots.splice(at + 1, 0, { ...renamed, id, name: freeShotName(draft) });
});

function freeShotName(document: Document): string {
  const taken = new Set(document.shots.map((shot) => shot.name));
  for (let n = document.shots.length + 1; ; n++) if (!taken.has(`Shot ${n}`)) return `Shot ${n}`;
}

/** Takes a shot away; the last one stays. */
export const removeShot = defineEdit('Delete shot', (draft, id: string) => {
  find(draft.shots, 'shot', id);
  if (draft.shots.length > 1) draft.shots = draft.shots.filter((shot) => shot.id !== id);
});

export const moveShot = defineEdit('Move shot', (draft, id: string, to: number) => {
  const shot = shotIn(draft, id);
  const rest = draft.shots.filter((s) => s.id !== id);
  rest.splice(Math.max(0, Math.min(rest.length, to)), 0, shot);
  draft.shots = rest;
});

export const renameShot = defineEdit('Rename shot', (draft, id: string, name: string) => {
  const shot = shotIn(draft, id);
  shot.name = name.trim() || shot.name;
});

/** How a shot goes over into the next one; both are seen for no longer than the shorter of them lasts. */
export const setTransition = defineEdit('Change transition', (draft, id: string, change: Partial<Transition>) => {
  const shot = shotIn(draft, id);
  const next = draft.shots[draft.shots.indexOf(shot) + 1];
  const most = Math.min(shot.length, next?.length ?? shot.length, 600);
  const transition = { ...shot.transition, ...change };
  if (transition.kind !== 'cut' && transition.frames === 0) transition.frames = Math.round(draft.frame.rate);
  shot.transition = { ...transition, frames: transition.kind === 'cut' ? 0 : Math.min(most, transition.frames) };
});

export const setMarkers = defineEdit('Change markers', (draft, id: string, markers: Shot['markers']) => {
  shotIn(draft, id).markers = [...markers].sort((a, b) => a.frame - b.frame);
});

/** Says that a shot is meant to be partly empty, or that its frame is to be covered. */
export const setBareMeant = defineEdit('Change bare check', (draft, id: string, meant: boolean) => {
  find(draft.shots, 'shot', id).bareMeant = meant;
});

export const setMotionBlur = defineEdit('Change motion blur', (draft, id: string, blur: Shot['motionBlur']) => {
  find(draft.shots, 'shot', id).motionBlur = blur;
});

export const setWorkArea = defineEdit('Change work area', (draft, id: string, area: Shot['workArea']) => {
  const shot = shotIn(draft, id);
  if (!area) shot.workArea = null;
  else {
    const first = Math.max(0, Math.min(shot.length - 1, Math.round(area.first)));
    shot.workArea = { first, end: Math.max(first + 1, Math.min(shot.length, Math.round(area.end))) };
  }
});

export const setGuides = defineEdit('Change guides', (draft, id: string, guides: Shot['guides']) => {
  shotIn(draft, id).guides = guides;
});
