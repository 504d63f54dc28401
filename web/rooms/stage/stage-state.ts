import { create } from 'zustand';
import type { Animated } from '../../../core/scene/layer-edits.ts';

export type Selection = { kind: 'layer'; id: string } | { kind: 'camera' } | null;
export interface SelectedKey {
  property: Animated;
  frame: number;
}

interface StageState {
  frame: number;
  playing: boolean;
  loop: boolean;
  selection: Selection;
  key: SelectedKey | null;
  setFrame(frame: number): void;
  setPlaying(playing: boolean): void;
  setLoop(loop: boolean): void;
  select(selection: Selection): void;
  selectKey(key: SelectedKey | null): void;
}

/** What the Stage is looking at; not part of the document. */
export const useStage = create<StageState>((set) => ({
  frame: 0,
  playing: false,
  loop: true,
  selection: null,
  key: null,
  setFrame: (frame) => set({ frame }),
  setPlaying: (playing) => set({ playing }),
  setLoop: (loop) => set({ loop }),
  select: (selection) => set({ selection, key: null }),
  selectKey: (key) => set({ key }),
}));
