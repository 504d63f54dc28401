import { blendModes, type BlendMode } from '../../../../core/document/blend.ts';

/** Blend modes as they are called where pictures are mixed; most have the names the web standard gives them. */
const names: Partial<Record<BlendMode, string>> = { 'plus-lighter': 'add' };

export const blendOptions = blendModes.map((value) => ({ value, name: (names[value] ?? value).replaceAll('-', ' ') }));
