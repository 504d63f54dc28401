import { finishKind } from '../finish/finishes.ts';
import { storedFrom } from '../settings/setting.ts';
import type { Document } from '../document/document.ts';
import type { Layer } from '../document/layer.ts';
import { mostFinishes, type Finish } from '../document/finish-list.ts';
import { defineEdit, find } from './edit.ts';
import { layerIn } from './layer-edits.ts';

/** An id for a finish that no other finish of a layer has. */
export function freeFinishId({ finishes }: Pick<Layer, 'finishes'>, wanted: string): string {
  const taken = new Set(finishes.map((finish) => finish.id));
  let id = wanted;
  for (let n = 2; taken.has(id); n++) id = `${wanted}-${n}`;
  return id;
}

/** Puts a finish at the end of a layer's list, set as it starts but for `values`. */
export const addFinish = defineEdit(
  'Add finish',
  (draft: Document, shot: string, layer: string, kind: string, id: string, values?: Record<string, unknown>) => {
    const { finishes } = layerIn(draft, shot, layer);
    const settings = storedFrom(finishKind(kind)!.settings, values);
    if (finishes.length < mostFinishes) finishes.push({ id, kind, muted: false, settings });
  },
);

export const removeFinish = defineEdit('Delete finish', (draft, shot: string, layer: string, finish: string) => {
  const { finishes } = layerIn(draft, shot, layer);
  finishes.splice(finishes.indexOf(find(finishes, 'finish', finish)), 1);
});

export const setFinish = defineEdit(
  'Change finish',
  (draft, shot: string, layer: string, finish: string, change: { muted?: boolean; settings?: Finish['settings'] }) => {
    const found = find(layerIn(draft, shot, layer).finishes, 'finish', finish);
    if (change.muted !== undefined) found.muted = change.muted;
    Object.assign(found.settings, change.settings);
  },
);

/** Moves a finish to another place in the order they are applied in. */
export const moveFinish = defineEdit(
  'Reorder finishes',
  (draft, shot: string, layer: string, finish: string, to: number) => {
    const { finishes } = layerIn(draft, shot, layer);
    const [moved] = finishes.splice(finishes.indexOf(find(finishes, 'finish', finish)), 1);
    finishes.splice(Math.max(0, Math.min(finishes.length, to)), 0, moved!);
  },
);

const copyOf = (finish: Finish, id: string): Finish => ({ ...(JSON.parse(JSON.stringify(finish)) as Finish), id });

/** A copy right behind the finish it is of. */
export const duplicateFinish = defineEdit(
  'Duplicate finish',
  (draft, shot: string, layer: string, finish: string, id: string) => {
    const { finishes } = layerIn(draft, shot, layer);
    const found = find(finishes, 'finish', finish);
    if (finishes.length < mostFinishes) finishes.splice(finishes.indexOf(found) + 1, 0, copyOf(found, id));
  },
);

/** Puts copies of finishes behind those that layers have; `ids` are new ones, one for each copy. */
export const pasteFinishes = defineEdit(
  'Paste finishes',
  (draft, shot: string, layers: string[], copied: readonly Finish[], ids: string[]) => {
    let next = 0;
    for (const layer of layers) {
      const { finishes } = layerIn(draft, shot, layer);
      for (const finish of copied)
        if (finishes.length < mostFinishes && next < ids.length) finishes.push(copyOf(finish, ids[next++]!));
    }
  },
);
