import { expect } from 'chai';
import sharp from 'sharp';
import { ellipse, rectangle } from '../../path/forms.ts';
import { alphaOfShapes, plainShape } from '../../path/shapes.ts';
import { readSvg, writeSvg, type SvgOutline } from './outlines.ts';
import { UnreadableSvg } from './tree.ts';

const [width, height] = [120, 90];

const alphaOfOutlines = (outlines: readonly SvgOutline[]): Uint8Array =>
  alphaOfShapes(
    outlines.map(({ path, how }, k) => ({ ...plainShape, id: `s${k}`, path, how })),
    width,
    height,
  ).data;

/** What a renderer of SVG makes of a file. */
async function rendered(svg: string): Promise<Uint8Array> {
  const { data } = await sharp(Buffer.from(svg)).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  return Uint8Array.from({ length: width * height }, (_, i) => data[i * 4 + 3]!);
}

function meanDifference(a: Uint8Array, b: Uint8Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += Math.abs(a[i]! - b[i]!);
  return sum / a.length;
}

const file = (inside: string, box = `0 0 ${width} ${height}`): string =>
  `<?xml version="1.0"?><svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="${box}">${inside}</svg>`;

describe('SVG outlines', () => {
  const files: Record<string, string> = {
    'basic shapes': file(
      '<rect x="5" y="6" width="30" height="20" rx="6"/><circle cx="60" cy="30" r="17"/><ellipse cx="95" cy="60" rx="20" ry="11"/><polygon points="10,80 40,45 50,85"/>',
    ),
    'curves, arcs, shorthands and relative commands': file(
      '<path d="M10 40 q20 -40 40 0 t40 0 v20 h-80 z"/><path d="M20 70 a15 10 20 1 1 30 8 l5 8 z"/><path d="M70 75 c5 -20 20 -20 25 0 s15 10 20 0 l0 10 h-45 z"/>',
    ),
    'nested transforms and a shifted viewBox': file(
      '<g transform="translate(12 4) rotate(14)"><rect width="40" height="30" transform="scale(1.4 .8)"/></g>',
      '-6 -4 100 75',
    ),
    'holes by winding': file('<path d="M10 10h80v60h-80z M30 20v40h40v-40z"/>'),
  };
  for (const [name, svg] of Object.entries(files)) {
    it(`are read as a renderer draws them: ${name}`, async () => {
      expect(meanDifference(alphaOfOutlines(readSvg(svg, width, height)), await rendered(svg))).below(0.6);
    });
  }

  it('are written so that a renderer and ourselves read them back', async () => {
    const outlines: SvgOutline[] = [
      { path: ellipse({ x: 8, y: 5, width: 90, height: 70 }), how: 'add' },
      { path: rectangle({ x: 30, y: 20, width: 20, height: 25 }, 5), how: 'take' },
    ];
    const svg = writeSvg(outlines, width, height);
    const back = readSvg(svg, width, height);
    expect(back.map((o) => o.how)).to.deep.equal(['add', 'take']);
    expect(meanDifference(alphaOfOutlines(back), alphaOfOutlines(outlines))).below(0.01);
    const first = writeSvg(outlines.slice(0, 1), width, height);
    expect(meanDifference(alphaOfOutlines(outlines.slice(0, 1)), await rendered(first))).below(0.6);
  });

  it('say in a sentence that there is nothing to read', () => {
    for (const text of ['not a drawing', file('<text>Wendle Quay</text>'), file('<defs><path d="M0 0h9v9z"/></defs>')])
      expect(() => readSvg(text, width, height)).to.throw(UnreadableSvg, 'No outline could be read');
  });
});
