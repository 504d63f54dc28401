import { arrivalKind } from '../arrive/arrivals.ts';
import { unitsBy } from '../arrive/course.ts';
import { newArrival, type ArrivalSetting, type LeaveSetting } from '../document/arrival-setting.ts';
import type { Document } from '../document/document.ts';
import type { Layer, Pen } from '../document/layer.ts';
import { storedFrom } from '../settings/setting.ts';
import { defineEdit } from './edit.ts';
import { layerIn } from './layer-edits.ts';

/** Lets layers arrive in a way; `null` lets them just be there. One that arrived before keeps how long and in what order. */
export const setArrival = defineEdit(
  'Change arrival',
  (draft: Document, shot: string, layers: string[], kind: string | null) => {
    for (const id of layers) {
      const layer = layerIn(draft, shot, id);
      if (kind === null) {
        layer.arrive = null;
        if (layer.leave?.mirrors) layer.leave = null;
        continue;
      }
      layer.arrive = ofKind(draft, layer.arrive, kind, comesInLetters(layer));
    }
  },
);

/** Lets layers leave: the way they came, in another way, or not at all. */
export const setLeaving = defineEdit(
  'Change leaving',
  (draft: Document, shot: string, layers: string[], kind: string | 'mirrors' | null) => {
    for (const id of layers) {
      const layer = layerIn(draft, shot, id);
      const { arrive, leave } = layer;
      if (kind === null) layer.leave = null;
      else if (kind === 'mirrors') layer.leave = arrive && { ...arrive, ...leave, mirrors: true };
      else layer.leave = { ...ofKind(draft, leave, kind, comesInLetters(layer)), mirrors: false };
    }
  },
);

/** Words come letter by letter unless a bubble holds them together. */
const comesInLetters = ({ source }: Layer): boolean => source.kind === 'text' && !source.bubble;

function ofKind(draft: Document, before: ArrivalSetting | null, kind: string, text: boolean): ArrivalSetting {
  const fresh = newArrival(kind, text ? 'letter' : 'whole', draft.frame.rate);
  const writes = !!arrivalKind(kind)?.writes;
  // From or to writing, what was set for the other makes no sense.
  if (!before || writes || arrivalKind(before.kind)?.writes) return fresh;
  const { by, order, overlap, easing, seed, length } = before;
  return { ...fresh, by, order, overlap, easing, seed, length };
}

type Side = 'arrive' | 'leave';

/** Changes settings of how a layer arrives or leaves. */
export const changeArrival = defineEdit(
  'Change arrival',
  (draft: Document, shot: string, layer: string, side: Side, change: Partial<LeaveSetting>) => {
    const found = layerIn(draft, shot, layer)[side];
    if (found) Object.assign(found, change, { settings: { ...found.settings, ...change.settings } });
  },
);

/** Sets settings of an arrival's kind to plain values. */
export const setArrivalValues = defineEdit(
  'Change arrival',
  (draft: Document, shot: string, layer: string, side: Side, values: Record<string, unknown>) => {
    const found = layerIn(draft, shot, layer)[side];
    const settings = found && arrivalKind(found.kind)?.settings;
    if (!found || !settings) return;
    const stored = storedFrom(settings, values);
    for (const key of Object.keys(values)) if (stored[key] !== undefined) found.settings[key] = stored[key];
  },
);

/** Lets a layer follow the writing of another with its pivot, or lets it go. */
export const setPen = defineEdit(
  'Follow the writing',
  (draft: Document, shot: string, layer: string, pen: Pen | null) => {
    layerIn(draft, shot, layer).pen = pen;
  },
);

/** What of a layer can arrive as one. */
export const unitsFor = (text: boolean): readonly (typeof unitsBy)[number][] => (text ? unitsBy : ['whole']);
