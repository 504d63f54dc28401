import type { PlainSettings } from '../settings/setting.ts';

/** What a Framing shows of the framed plane. */
export const framingSettings = {
  x: { kind: 'number', name: 'X', unit: 'px', least: -Infinity, most: Infinity, start: 0 },
  y: { kind: 'number', name: 'Y', unit: 'px', least: -Infinity, most: Infinity, start: 0 },
  size: { kind: 'number', name: 'Size', unit: '%', least: 0.05, most: 4, digits: 1, start: 1 },
  /** How far the camera is turned clockwise. */
  roll: { kind: 'number', name: 'Roll', unit: '°', least: -3600, most: 3600, digits: 1, start: 0 },
  /** More than at rest brings near and far together, as a zoom does. */
  focal: { kind: 'number', name: 'Focal length', unit: 'mm', least: 8, most: 800, start: 35 },
} as const satisfies PlainSettings;

/** The plane on which the Framings are drawn. */
export const framedPlane = {
  depth: { kind: 'number', name: 'Framed plane', unit: '', least: 0.2, most: 100, digits: 2, step: 0.1, start: 1 },
} as const satisfies PlainSettings;

/** The circle of confusion of things infinitely far away. */
export const lensSettings = {
  aperture: { kind: 'number', name: 'Aperture', unit: 'px', least: 0, most: 400, start: 0 },
} as const satisfies PlainSettings;

/** How far an unsteady hand goes. */
export const shakeSettings = {
  amount: { kind: 'number', name: 'Amount', unit: 'px', least: 0, most: 500, digits: 1, start: 0 },
  roll: { kind: 'number', name: 'Roll', unit: '°', least: 0, most: 45, digits: 2, start: 0 },
} as const satisfies PlainSettings;
