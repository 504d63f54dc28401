import { propKind } from '../props/props.ts';
import type { Layer } from './layer.ts';

/** A place in a layer where another layer of the shot is named. */
export interface LayerName {
  to: string;
  /** What it has to do with that layer, for messages: "layer a is fastened to nothing". */
  does: string;
  /** Names another one there, or none; for drafts of edits. */
  put(id: string | null): void;
}

/** Every place in which a layer names another one of its shot, but for its group and what its sways are like. */
export function namesIn(layer: Layer): LayerName[] {
  const found: LayerName[] = [];
  const add = (to: string | null | undefined, does: string, put: LayerName['put']): void => {
    if (to) found.push({ to, does, put });
  };
  const { fastened, window, pen, timing, joined, source } = layer;
  add(fastened?.to, 'is fastened to', (id) => (layer.fastened = id === null ? null : { ...fastened!, to: id }));
  add(window?.to, 'is seen through', (id) => (layer.window = id === null ? null : { ...window!, to: id }));
  add(pen?.to, 'writes', (id) => (layer.pen = id === null ? null : { ...pen!, to: id }));
  add(joined?.to, 'is joined to', (id) => (layer.joined = id === null ? null : { ...joined!, to: id }));
  const { repeat } = layer;
  add(repeat?.path, 'stands along', (id) => (repeat!.path = id));
  add(timing.like, 'has the timing of', (id) => (timing.like = id));
  if (source.kind === 'text') {
    const { along, bubble } = source;
    if (along?.form === 'layer')
      add(along.layer, 'runs along', (id) => (source.along = id === null ? null : { ...along, layer: id }));
    const tail = bubble?.tail;
    if (tail) add(tail.to, 'points at', (id) => (bubble.tail = id === null ? null : { ...tail, to: id }));
  }
  if (source.kind === 'prop')
    for (const [key, setting] of Object.entries(propKind(source.made.prop)?.settings ?? {}))
      if (setting.kind === 'layer')
        add(source.made.settings[key] as string, 'takes from', (id) => (source.made.settings[key] = id ?? ''));
  return found;
}

/** The followed points of clips that a layer names. */
export const pointsNamedIn = ({ fastened, steady }: Layer): string[] =>
  [fastened?.point, fastened?.second, steady?.point, steady?.second].filter((id) => !!id) as string[];
