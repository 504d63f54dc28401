import type { PlainSettings, Setting } from '../settings/setting.ts';

/** What every layer has that can have keys: how it is called, counted and limited. */
export const layerSettings = {
  /** Where the pivot is at rest, from the centre of the frame. */
  position: { kind: 'point', name: 'Position', axes: ['X', 'Y'], digits: 1, start: [0, 0] },
  /** Distance from the lens; larger is further. */
  depth: { kind: 'number', name: 'Depth', unit: '', least: 0.2, most: 100, digits: 2, step: 0.1, start: 1 },
  /** Frame pixels per source pixel. */
  scale: { kind: 'number', name: 'Scale', unit: '%', least: -20, most: 20, digits: 1, start: 1 },
  rotation: { kind: 'angle', name: 'Rotation', digits: 1, start: 0 },
  /** The point of the source, in its pixels, that position names and rotation and scale keep in place. */
  pivot: { kind: 'point', name: 'Pivot', axes: ['Pivot X', 'Pivot Y'], digits: 1, start: [0, 0] },
  opacity: { kind: 'number', name: 'Opacity', unit: '%', least: 0, most: 1, start: 1 },
  /** Standard deviation. */
  blur: { kind: 'number', name: 'Blur', unit: 'px', least: 0, most: 400, digits: 1, start: 0 },
  /** Offsets of the four corners, x and y from top left clockwise, in source pixels. */
  corners: { kind: 'numbers', name: 'Corners', count: 8, start: [0, 0, 0, 0, 0, 0, 0, 0] },
  colour: { kind: 'colour', name: 'Colour', start: [0, 0, 0, 1] },
  /** Of shapes: for each point x, y, and the handles in x, y and out x, y. */
  points: { kind: 'numbers', name: 'Points', count: null, start: [] },
  /** Of clips: the second of the clip that is shown. */
  clipTime: { kind: 'number', name: 'Clip time', unit: '', least: 0, most: Infinity, digits: 2, start: 0 },
} satisfies Record<string, Setting>;

/** The waves of a sway. */
export const swaySettings = {
  /** Furthest push, and pixels from crest to crest. */
  strength: { kind: 'number', name: 'Strength', unit: 'px', least: 0, most: 2000, start: 0 },
  size: { kind: 'number', name: 'Size', unit: 'px', least: 4, most: 20_000, start: 120 },
  /** Degrees in which things are pushed: 0 sideways, 90 up and down. */
  direction: { kind: 'angle', name: 'Direction', start: 90 },
  /** Frames for a wave to pass. */
  period: { kind: 'number', name: 'Wave period', unit: 's', least: 2, most: 100_000, digits: 2, step: 0.1, start: 36 },
  /** A side that stays, the push growing away from it. */
  pinned: { kind: 'choice', name: 'Pinned', options: ['none', 'left', 'right', 'top', 'bottom'], start: 'left' },
  /** Share of the region over which it fades in from its edge. */
  soft: { kind: 'number', name: 'Soft edge', unit: '%', least: 0, most: 1, start: 0 },
  /** How far slopes of the waves are lit and shaded. */
  shade: { kind: 'number', name: 'Shading', unit: '%', least: 0, most: 1, start: 0.3 },
  /** Whether the period is fitted so that the shot ends as it began. */
  loops: { kind: 'switch', name: 'Loops with the shot', start: true },
} as const satisfies PlainSettings;

/** Of each sway, also where its waves are those of another: the share of a period it is ahead. */
export const ownSwaySettings = {
  phase: { kind: 'number', name: 'Phase', unit: '%', least: -100, most: 100, start: 0 },
} as const satisfies PlainSettings;
