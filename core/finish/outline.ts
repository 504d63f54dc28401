import { edgeDistance } from './operations/edge-distance.ts';
import { defineFinish, set } from './finish.ts';
import { band, layOver, layUnder } from './operations/planes.ts';

const where = ['outside', 'middle', 'inside'] as const;

export const outline = defineFinish({
  id: 'outline',
  name: 'Outline',
  family: 'edge',
  purpose: 'Draws a line round the edge; several with gaps make ring in ring.',
  settings: {
    width: set.pixels('Width', 6, 300),
    position: { kind: 'choice', name: 'Position', options: where, start: 'outside' },
    gap: set.pixels('Gap', 0, 300),
    softness: set.pixels('Softness', 0, 100),
    colour: set.colour('Colour', 245, 242, 235),
  },
  reach: ({ width, gap, softness, position }) => (position === 'inside' ? 0 : width + gap + softness) + 1,
  apply(pixels, { width, position, gap, softness, colour }, { scale }) {
    if (width === 0) return;
    const [w, g, soft] = [width * scale, gap * scale, softness * scale];
    const from = { outside: g, middle: g - w / 2, inside: -g - w }[position];
    const line = edgeDistance(pixels, Math.max(Math.abs(from), Math.abs(from + w)) + soft + 1);
    // Without a gap it begins under the edge, or a hairline of ground would show between.
    const hidden = position === 'outside' && g === 0;
    band(line, hidden ? -1e6 : from, from + w, soft);
    if (position === 'outside') layUnder(pixels, line, colour);
    else layOver(pixels, line, colour);
  },
});
