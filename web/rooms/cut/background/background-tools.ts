import { create } from 'zustand';
import { noPad, type Pad } from '../../../../core/rebuild/widen.ts';
import { emptyGuides, type PlateStep } from '../../../../core/document/plate.ts';
import { notify } from '../../../data/notices.ts';
import type { BrushStroke } from '../../../parts/brush.tsx';

/** What the pointer does on the background. */
export type BackgroundTool = 'region' | 'from' | 'never' | 'line' | 'gone' | 'clone' | 'heal' | 'level' | 'mix';

export type Chapter = 'rebuild' | 'retouch' | 'widen' | 'behind';

type Guides = Extract<PlateStep, { kind: 'rebuild' }>['guides'];
type Touch = Extract<PlateStep, { kind: 'retouch' }>['touches'][number];

/** How each brush looks in the hand. */
export const brushes: Partial<Record<BackgroundTool, { colour: string; mark: 'plus' | 'minus' | 'dot' }>> = {
  region: { colour: '#44648a', mark: 'dot' },
  from: { colour: '#0e5b50', mark: 'plus' },
  never: { colour: '#ae3b27', mark: 'minus' },
  gone: { colour: '#44648a', mark: 'dot' },
  clone: { colour: '#d99a00', mark: 'dot' },
  heal: { colour: '#d99a00', mark: 'dot' },
  mix: { colour: '#0e5b50', mark: 'plus' },
};

interface BackgroundTools {
  chapter: Chapter;
  tool: BackgroundTool | null;
  radius: number;
  soft: number;
  /** The step that is open; null while a new one is prepared. */
  step: string | null;
  /** What is painted and not made yet. */
  region: BrushStroke[];
  guides: Guides;
  pad: Pad;
  /** Source of clone and heal, in picture pixels, and the offset once the first stroke was made. */
  source: [number, number] | null;
  offset: [number, number] | null;
  mixing: number | null;
  set(change: Partial<BackgroundTools>): void;
  /** Begins afresh: nothing painted, no step open. */
  clear(): void;
}

const fresh = { step: null, region: [], guides: emptyGuides, pad: noPad, mixing: null };

/** Tools and unfinished marks of the background bench; not part of the document until something is made of them. */
export const useBackgroundTools = create<BackgroundTools>((set) => ({
  chapter: 'rebuild',
  tool: 'region',
  radius: 28,
  soft: 0.5,
  source: null,
  offset: null,
  ...fresh,
  set: (change) => set(change),
  clear: () => set(fresh),
}));

export const touchNames: Record<Touch['kind'], string> = { gone: 'Brush away', clone: 'Clone', heal: 'Heal' };

/** What a stroke of a retouching brush does; null where its source has yet to be told. The distance to it is kept. */
export function touchOf(tools: BackgroundTools, stroke: BrushStroke): Touch | null {
  const { tool, source, soft } = tools;
  if (tool === 'gone') return { kind: 'gone', stroke, seed: 1 };
  if (tool !== 'clone' && tool !== 'heal') return null;
  if (!source) {
    notify('problem', 'Hold Alt and press where to copy from first.');
    return null;
  }
  const [x, y] = stroke.points[0]!;
  const offset: [number, number] = tools.offset ?? [source[0] - x, source[1] - y];
  tools.set({ offset });
  return { kind: tool, stroke, offset, soft };
}
