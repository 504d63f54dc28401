import { create } from 'zustand';
import type { Document } from '../../../core/document/document.ts';
import type { Finish } from '../../../core/document/finish-list.ts';
import type { CutLine } from '../../../core/edits/strip-edits.ts';
import type { CopiedKeys, KeyRef } from '../../../core/edits/key-edits.ts';
import type { Layer } from '../../../core/document/layer.ts';
import type { Shot } from '../../../core/document/shot.ts';

export type Selection = { kind: 'layers'; ids: string[] } | { kind: 'camera' } | { kind: 'sound'; id: string } | null;

/** What a drag in the view does: moves layers, draws a path, pins corners, moves the points of a shape, paints depth, marks where a prop is thicker, draws cuts, or marks a point of a clip. */
export type Tool = 'move' | 'path' | 'corners' | 'points' | 'depth' | 'marks' | 'cut' | 'follow';

export type TimelineMode = 'keys' | 'bars' | 'graph';

/** Heights the timeline can have, CSS pixels. */
export const [leastTimeline, mostTimeline] = [196, 520];

interface StageState {
  /** The shot that is looked at; null for the first. */
  shot: string | null;
  /** Where the playhead stands; while it plays, where it stood last. */
  frame: number;
  playing: boolean;
  loop: boolean;
  /** Whether what is heard under the shots is heard while they play. */
  heard: boolean;
  selection: Selection;
  keys: KeyRef[];
  copied: CopiedKeys[];
  /** Finishes to be pasted onto other layers, also in another shot or project. */
  copiedFinishes: readonly Finish[];
  /** While held, selected layers are shown without their finishes. */
  unfinished: boolean;
  /** Waits for a colour to be taken from the view. */
  pick: ((colour: [number, number, number]) => void) | null;
  /** The text layer that is typed in the view, and which of its letters are selected there. */
  writing: string | null;
  letters: { from: number; to: number } | null;
  tool: Tool;
  /** The followed point of a clip whose way is shown. */
  point: string | null;
  /** What the next depth stroke says, 1 near to 0 far, and its width in CSS pixels. */
  closeness: number;
  depthBrush: number;
  /** Cuts drawn through the selected layer, in pixels of its source. */
  cutLines: CutLine[];
  /** Pixels a drawn path may be smoothed by. */
  smoothing: number;
  timeline: TimelineMode;
  timelineHeight: number;
  /** The frames the timeline shows; null for all of the shot. */
  timeView: { first: number; span: number } | null;
  overlays: { safe: boolean; thirds: boolean; onion: boolean; snap: boolean };
  /** Whether a layer taken to another distance looks at rest as it did; otherwise it grows smaller as it goes away. */
  keepLook: boolean;
  /** Whether blurs and sways are left out while working. */
  light: boolean;
  /** Sections of the card that are open. */
  sections: string[];
  setFrame(frame: number): void;
  setPlaying(playing: boolean): void;
  setLoop(loop: boolean): void;
  select(selection: Selection): void;
  /** Selects one layer, or with `more` adds it to those selected or takes it out. */
  selectLayer(id: string, more?: boolean): void;
  /** Selects what lies in `order` from the layer that was selected first to this one. */
  selectRange(order: readonly string[], id: string): void;
  selectKeys(keys: KeyRef[]): void;
  setTool(tool: Tool): void;
  toggleOverlay(which: keyof StageState['overlays']): void;
  toggleSection(name: string): void;
}

/**
 * The frame that is shown while it plays, null while it stands. In a store of its own: only view, playhead and clock follow it,
 * everything else on the Stage stays as it was when play began.
 */
export const usePlayed = create<{ frame: number | null }>(() => ({ frame: null }));

/** The frame at the playhead, also while it plays. */
export const frameNow = (): number => usePlayed.getState().frame ?? useStage.getState().frame;
/** The same for what follows it. */
export function useFrameNow(): number {
  const standing = useStage((state) => state.frame);
  return usePlayed((played) => played.frame) ?? standing;
}

/** With another selection nothing of the one before stays in the hand. */
const nothingHeld = { keys: [], tool: 'move', writing: null, point: null } satisfies Partial<StageState>;

/** What the Stage is looking at; not part of the document. */
export const useStage = create<StageState>((set) => ({
  shot: null,
  frame: 0,
  playing: false,
  loop: true,
  heard: true,
  selection: null,
  keys: [],
  copied: [],
  copiedFinishes: [],
  unfinished: false,
  pick: null,
  writing: null,
  letters: null,
  tool: 'move',
  point: null,
  closeness: 1,
  depthBrush: 28,
  cutLines: [],
  smoothing: 6,
  timeline: 'keys',
  timelineHeight: leastTimeline,
  timeView: null,
  overlays: { safe: false, thirds: false, onion: false, snap: true },
  keepLook: true,
  light: false,
  sections: ['Text', 'Prop', 'Shape', 'Drawing', 'Place', 'Look', 'Finish', 'Arrive & Leave'],
  setFrame: (frame) => set({ frame }),
  setPlaying: (playing) => {
    set({ playing, frame: frameNow() });
    if (!playing) usePlayed.setState({ frame: null });
  },
  setLoop: (loop) => set({ loop }),
  select: (selection) => set({ selection, ...nothingHeld }),
  selectLayer: (id, more = false) =>
    set(({ selection }) => {
      const before = selection?.kind === 'layers' ? selection.ids : [];
      const ids = !more ? [id] : before.includes(id) ? before.filter((other) => other !== id) : [...before, id];
      return { selection: ids.length > 0 ? { kind: 'layers', ids } : null, ...nothingHeld };
    }),
  selectRange: (order, id) =>
    set(({ selection }) => {
      const before = selection?.kind === 'layers' ? selection.ids : [];
      const to = order.indexOf(id);
      // What is selected may not be in sight, such as a member of a folded group.
      const first = order.indexOf(before[0] ?? id);
      const from = first < 0 ? to : first;
      const ids = order.slice(Math.min(from, to), Math.max(from, to) + 1);
      // The one the range started from stays first, so that another Shift press starts there too.
      return {
        selection: { kind: 'layers', ids: from <= to ? ids : ids.reverse() },
        ...nothingHeld,
      };
    }),
  selectKeys: (keys) => set({ keys }),
  setTool: (tool) => set({ tool }),
  toggleOverlay: (which) => set(({ overlays }) => ({ overlays: { ...overlays, [which]: !overlays[which] } })),
  toggleSection: (name) =>
    set(({ sections }) => ({
      sections: sections.includes(name) ? sections.filter((s) => s !== name) : [...sections, name],
    })),
}));

/** Goes to a shot, to its beginning. */
export function openShot(id: string): void {
  const { setFrame, select } = useStage.getState();
  useStage.setState({ shot: id, timeView: null });
  setFrame(0);
  select(null);
}

/** The shot that is looked at; the first one when the chosen one is gone. */
export function useShot(document: Document): Shot {
  const chosen = useStage((state) => state.shot);
  return document.shots.find((shot) => shot.id === chosen) ?? document.shots[0]!;
}

/** The layers of a shot that are selected, in the order they were. */
export function selectedLayers(shot: Shot, selection: Selection): Layer[] {
  if (selection?.kind !== 'layers') return [];
  return selection.ids.flatMap((id) => shot.layers.find((layer) => layer.id === id) ?? []);
}
