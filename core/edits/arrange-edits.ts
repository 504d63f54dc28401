import { withEveryValue, withValueAt } from '../motion/keys.ts';
import { valueAt, type Point } from '../motion/property.ts';
import { viewOfPlane } from '../depth/camera.ts';
import type { Document } from '../document/document.ts';
import { defineEdit, find } from './edit.ts';
import { namesIn } from '../document/layer-names.ts';
import { plainLayer, type Layer, type LayerSource } from '../document/layer.ts';
import { layerIn, setDepth, shotIn } from './layer-edits.ts';
import { freeName } from './lift-edit.ts';
import { dropLayers } from './project-edits.ts';
import { cameraAt, farToNear } from '../scene/place.ts';
import { layerValue } from '../scene/values.ts';
import { seenBox } from '../scene/seen-box.ts';
import type { Shot } from '../document/shot.ts';

/** Where a new layer hangs and lies. */
interface NewPlace {
  id: string;
  name: string;
  depth: number;
  position?: Point;
}

/** What a new layer shows, with what that needs: its colour, its points, the point it turns about. */
export interface NewContent {
  source: LayerSource;
  colour?: number[];
  points?: number[];
  pivot?: Point;
}

/** Hangs a new layer in front of others at its distance: a shape, a text, a colour, a carrier. */
export const addLayer = defineEdit('New layer', (draft, shotId: string, place: NewPlace, content: NewContent) => {
  shotIn(draft, shotId).layers.unshift({
    ...plainLayer,
    id: place.id,
    name: freeName(draft, place.name),
    source: content.source,
    depth: { value: place.depth },
    pivot: { value: content.pivot ?? [0, 0] },
    position: { value: place.position ?? [0, 0] },
    colour: content.colour ? { value: content.colour } : null,
    points: content.points ? { value: content.points } : null,
  });
});

/** Copies of groups take copies of what is in them along, whose ids follow from the group's. */
export function withMembers(shot: Shot, copies: readonly { of: string; id: string }[]): { of: string; id: string }[] {
  const all = [...copies];
  for (let k = 0; k < all.length; k++) {
    const { of, id } = all[k]!;
    const members = shot.layers.filter((layer) => layer.group === of && !all.some((copy) => copy.of === layer.id));
    members.forEach((layer, n) => all.push({ of: layer.id, id: `${id.slice(0, 32)}-m${n}` }));
  }
  return all;
}

/** Copies of layers, right in front of them, a little aside; what was fastened among them stays so among the copies. */
export const duplicateLayers = defineEdit(
  'Duplicate',
  (draft, shotId: string, wanted: { of: string; id: string }[]) => {
    const shot = shotIn(draft, shotId);
    const copies = withMembers(shot, wanted);
    const names = new Map(copies.map(({ of, id }) => [of, id]));
    const made = (id: string): string => names.get(id) ?? id;
    for (const { of, id } of copies) {
      const layer = find(shot.layers, 'layer', of);
      const copy: Layer = structuredCloneOf(layer);
      const inside = copies.some((c) => c.of === layer.group);
      Object.assign(copy, {
        id,
        name: freeName(draft, layer.name),
        group: layer.group && made(layer.group),
        // A copy waves like the first, half a period ahead.
        sways: layer.sways.map((sway, k) => ({
          ...sway,
          id: `${id}-s${k}`.slice(0, 40),
          like: sway.like ?? sway.id,
          phase: sway.phase + 0.5,
        })),
      });
      for (const { to, put } of namesIn(copy)) put(made(to));
      if (!inside && !copies.some((c) => c.of === layer.fastened?.to)) shiftPosition(copy, [24, 24]);
      shot.layers.splice(shot.layers.indexOf(layer), 0, copy);
    }
  },
);

const structuredCloneOf = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;

function shiftPosition(layer: Layer, [dx, dy]: Point): void {
  layer.position = withEveryValue<Point>(layer.position, ([x, y]) => [x + dx, y + dy]);
}

export const flipLayers = defineEdit('Flip', (draft, shotId: string, layers: string[], way: 'sideways' | 'upright') => {
  for (const id of layers) {
    const { flip } = layerIn(draft, shotId, id);
    flip[way] = !flip[way];
  }
});

/** Puts layers into a new group at the distance of the nearest of them; nothing moves. */
export const groupLayers = defineEdit(
  'Group',
  (draft, shotId: string, layers: string[], group: { id: string; name: string }) => {
    const shot = shotIn(draft, shotId);
    const members = shot.layers.filter((layer) => layers.includes(layer.id));
    if (members.length === 0) return;
    const depth = Math.min(...members.map((m) => valueAt<number>(m.depth, 0)));
    const within = members.every((m) => m.group === members[0]!.group) ? members[0]!.group : null;
    shot.layers.splice(shot.layers.indexOf(members[0]!), 0, {
      ...plainLayer,
      id: group.id,
      name: freeName(draft, group.name),
      source: { kind: 'group', open: true },
      group: within,
      depth: { value: depth },
      pivot: { value: [0, 0] },
      position: { value: [0, 0] },
    });
    for (const member of members) member.group = group.id;
  },
);

/** Takes a group apart: its members hang where the group did. A group that was moved takes its move with it. */
export const ungroup = defineEdit('Ungroup', (draft, shotId: string, groupId: string) => {
  const shot = shotIn(draft, shotId);
  const group = layerIn(draft, shotId, groupId);
  const [gx, gy] = valueAt(group.position, 0);
  const pivot = valueAt(group.pivot, 0);
  const scale = valueAt<number>(group.scale, 0);
  const turn = valueAt<number>(group.rotation, 0);
  for (const member of shot.layers) {
    if (member.group !== groupId) continue;
    member.group = group.group;
    const [x, y] = valueAt(member.position, 0);
    const angle = (turn * Math.PI) / 180;
    const [dx, dy] = [(x - pivot[0]) * scale, (y - pivot[1]) * scale];
    const place: Point = [
      gx + dx * Math.cos(angle) - dy * Math.sin(angle),
      gy + dx * Math.sin(angle) + dy * Math.cos(angle),
    ];
    shiftPosition(member, [place[0] - x, place[1] - y]);
    if (scale !== 1) member.scale = withValueAt(member.scale, 0, valueAt<number>(member.scale, 0) * scale);
    if (turn !== 0) member.rotation = withValueAt(member.rotation, 0, valueAt<number>(member.rotation, 0) + turn);
  }
  dropLayers(draft, (layer) => layer.id === groupId);
});

/** Takes layers into a group, or out of all groups. */
export const putInGroup = defineEdit(
  'Put in group',
  (draft, shotId: string, layers: string[], group: string | null) => {
    for (const id of layers) if (id !== group) layerIn(draft, shotId, id).group = group;
  },
);

/**
 * Hangs layers between two planes: the nearest of them halfway between the planes before and behind, the others keeping
 * their distances as far as there is room. Of equal distances the one listed first is nearer, so the order is set too.
 */
export const hangBetween = defineEdit(
  'Hang between',
  (draft, shotId: string, layers: string[], before: string | null, behind: string | null) => {
    const shot = shotIn(draft, shotId);
    const depthOf = (id: string | null, otherwise: number): number =>
      id ? valueAt<number>(layerIn(draft, shotId, id).depth, 0) : otherwise;
    const near = depthOf(before, Math.max(0.2, depthOf(behind, 6) * 0.8));
    const far = depthOf(behind, near * 1.3);
    const moved = farToNear(shot.layers.filter((l) => layers.includes(l.id))).reverse();
    moved.forEach((layer, k) => {
      const depth = near + ((far - near) * (k + 1)) / (moved.length + 1);
      Object.assign(draft, setDepth(shotId, layer.id, depth).apply(draft));
    });
    const list = shotIn(draft, shotId).layers;
    const rest = list.filter((l) => !layers.includes(l.id));
    const at = before
      ? rest.findIndex((l) => l.id === before) + 1
      : behind
        ? rest.findIndex((l) => l.id === behind)
        : 0;
    const inOrder = moved.map((m) => list.find((l) => l.id === m.id)!);
    rest.splice(at, 0, ...inOrder);
    shotIn(draft, shotId).layers = rest;
  },
);

export type Alignment = 'left' | 'centre' | 'right' | 'top' | 'middle' | 'bottom';

/** Moves a layer in the view by frame pixels as seen, whatever its distance. */
function moveSeen(shot: Shot, layer: Layer, frame: number, dx: number, dy: number): void {
  const view = viewOfPlane(cameraAt(shot, frame), layerValue(shot, layer, 'depth', frame));
  if (!view || (dx === 0 && dy === 0)) return;
  const [x, y] = valueAt(layer.position, frame);
  layer.position = withValueAt(layer.position, frame, [x + dx / view.scale, y + dy / view.scale]);
}

/** Aligns layers as they are seen at a frame: one with the frame, several with the box around all of them. */
export const alignLayers = defineEdit(
  'Align',
  (draft, shotId: string, layers: string[], alignment: Alignment, frame: number) => {
    const shot = shotIn(draft, shotId);
    const boxes = boxesOf(draft, shot, layers, frame);
    const { width, height } = draft.frame;
    const around =
      boxes.length === 1
        ? { left: 0, right: width, top: 0, bottom: height }
        : {
            left: Math.min(...boxes.map((b) => b.box.left)),
            right: Math.max(...boxes.map((b) => b.box.right)),
            top: Math.min(...boxes.map((b) => b.box.top)),
            bottom: Math.max(...boxes.map((b) => b.box.bottom)),
          };
    for (const { layer, box } of boxes) {
      const dx: Partial<Record<Alignment, number>> = {
        left: around.left - box.left,
        right: around.right - box.right,
        centre: (around.left + around.right - box.left - box.right) / 2,
      };
      const dy: Partial<Record<Alignment, number>> = {
        top: around.top - box.top,
        bottom: around.bottom - box.bottom,
        middle: (around.top + around.bottom - box.top - box.bottom) / 2,
      };
      moveSeen(shot, layer, frame, dx[alignment] ?? 0, dy[alignment] ?? 0);
    }
  },
);

function boxesOf(draft: Document, shot: Shot, layers: readonly string[], frame: number) {
  return layers.flatMap((id) => {
    const layer = find(shot.layers, 'layer', id);
    const box = seenBox(draft, shot, layer, frame);
    return box ? [{ layer, box }] : [];
  });
}

/** Spreads layers so that the gaps between them are equal; the outermost stay. */
export const distributeLayers = defineEdit(
  'Distribute',
  (draft, shotId: string, layers: string[], way: 'across' | 'down', frame: number) => {
    const shot = shotIn(draft, shotId);
    const [low, high] = way === 'across' ? (['left', 'right'] as const) : (['top', 'bottom'] as const);
    const boxes = boxesOf(draft, shot, layers, frame).sort(
      (a, b) => a.box[low] + a.box[high] - b.box[low] - b.box[high],
    );
    if (boxes.length < 3) return;
    const first = boxes[0]!.box;
    const last = boxes.at(-1)!.box;
    const sizes = boxes.reduce((sum, { box }) => sum + box[high] - box[low], 0);
    const gap = (last[high] - first[low] - sizes) / (boxes.length - 1);
    let at = first[low];
    for (const { layer, box } of boxes) {
      const by = at - box[low];
      moveSeen(shot, layer, frame, way === 'across' ? by : 0, way === 'down' ? by : 0);
      at += box[high] - box[low] + gap;
    }
  },
);
