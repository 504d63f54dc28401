import { createCanvas } from '@napi-rs/canvas';
import { expect } from 'chai';
import sharp from 'sharp';
import type { Document } from '../document/document.ts';
import { addDrawing, recolourDrawing, takeDrawingApart } from '../edits/drawing-edits.ts';
import { setLayer, setProperty } from '../edits/layer-edits.ts';
import { addShape } from '../edits/shape-edits.ts';
import { apply, empty, height as frameHeight, layerOf, shotOf, width as frameWidth } from '../edits/test-cards.ts';
import { boundsOfNode, coloursOf, partAt, partsOf } from '../formats/svg/drawing.ts';
import { loadDrawing } from '../formats/svg/drawing-list.ts';
import { svgOfLayer } from '../formats/svg/layer-drawing.ts';
import { readDrawing } from '../formats/svg/read-drawing.ts';
import { writeDrawing } from '../formats/svg/write-drawing.ts';
import { evaluateFrame } from '../scene/evaluate.ts';
import { paintFrame } from './painter.ts';
import { contextOf, testStudio } from './test-studio.ts';

const [width, height] = [240, 180];
const svg = (body: string, attributes = `width="${width}" height="${height}"`): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" ${attributes}>${body}</svg>`;

/** Drawings that use what drawings use, by what they are about. */
const samples: Record<string, string> = {
  'basic shapes': svg(
    '<rect x="10" y="12" width="90" height="60" rx="14" fill="#0e5b50"/><circle cx="170" cy="50" r="38" fill="tomato"/>' +
      '<ellipse cx="60" cy="130" rx="48" ry="30" fill="rgb(68,100,138)"/><polygon points="140,170 230,170 185,100" fill="#D99A00"/>',
  ),
  'strokes with caps, joins and dashes': svg(
    '<g fill="none" stroke="#1c2a30"><polyline points="20,40 80,20 140,60 220,30" stroke-width="12" stroke-linejoin="round" stroke-linecap="round"/>' +
      '<path d="M20 100 L60 70 L100 110 L140 80" stroke-width="10" stroke-linejoin="bevel"/>' +
      '<line x1="20" y1="150" x2="220" y2="150" stroke-width="8" stroke-dasharray="24 10" stroke-dashoffset="6"/>' +
      '<path d="M170 120 L190 80 L210 120" stroke-width="9" stroke-miterlimit="8"/></g>',
  ),
  'holes by both rules': svg(
    '<path fill-rule="evenodd" fill="#ae3b27" d="M20 20H110V110H20Z M45 45H85V85H45Z"/>' +
      '<path fill="#44648a" d="M130 20H220V110H130Z M155 45V85H195V45Z"/>',
  ),
  'curves and arcs': svg(
    '<path fill="#0e5b50" d="M20 90 C40 10 100 10 120 90 S200 170 220 90 L220 170 H20 Z"/>' +
      '<path fill="none" stroke="#d99a00" stroke-width="7" d="M30 40 A40 25 20 1 1 110 60 q30 -40 60 0 t50 10"/>',
  ),
  'transforms in transforms': svg(
    '<g transform="translate(120 90) rotate(25)"><g transform="scale(1.4 .8) skewX(12)">' +
      '<rect x="-50" y="-40" width="100" height="80" fill="#777b7c" stroke="#1c2a30" stroke-width="6"/></g></g>',
  ),
  'linear gradients, by box and in the drawing, turned': svg(
    '<defs><linearGradient id="a"><stop offset="0" stop-color="#0e5b50"/><stop offset="60%" stop-color="#f5f2eb"/><stop offset="1" stop-color="#d99a00"/></linearGradient>' +
      '<linearGradient id="b" xlink:href="#a" gradientUnits="userSpaceOnUse" x1="130" y1="100" x2="220" y2="170" gradientTransform="rotate(12 170 130)"/></defs>' +
      '<rect x="10" y="10" width="220" height="70" fill="url(#a)"/><rect x="120" y="90" width="110" height="80" fill="url(#b)"/>' +
      '<circle cx="60" cy="130" r="40" fill="url(#a)"/>',
  ),
  'radial gradients with a focus, stretched': svg(
    '<defs><radialGradient id="r" fx=".3" fy=".3"><stop offset="0" stop-color="white"/><stop offset="1" stop-color="#44648a" stop-opacity=".9"/></radialGradient></defs>' +
      '<rect width="240" height="180" fill="#222"/><ellipse cx="120" cy="90" rx="110" ry="70" fill="url(#r)"/>',
  ),
  'opacity of groups and figures': svg(
    '<rect width="240" height="180" fill="#f5f2eb"/><g opacity=".5"><rect x="20" y="20" width="120" height="100" fill="#ae3b27"/><rect x="80" y="60" width="130" height="100" fill="#0e5b50"/></g>' +
      '<circle cx="180" cy="50" r="40" fill="#44648a" fill-opacity=".4" stroke="#44648a" stroke-width="12" opacity=".6"/>',
  ),
  clips: svg(
    '<defs><clipPath id="c"><circle cx="120" cy="90" r="70"/></clipPath></defs><g clip-path="url(#c)">' +
      '<rect width="240" height="90" fill="#d99a00"/><rect y="90" width="240" height="90" fill="#0e5b50"/></g>',
  ),
  'symbols that are used': svg(
    '<symbol id="s" viewBox="0 0 10 10"><path d="M0 0H10L5 10Z"/></symbol><g id="g" fill="#ae3b27"><rect width="30" height="30"/></g>' +
      '<use href="#s" x="20" y="20" width="60" height="60" fill="#44648a"/><use xlink:href="#g" x="120" y="40"/><use href="#g" transform="translate(120 100) rotate(20)"/>',
  ),
  'style sheets, style attributes and inheritance': svg(
    '<style>.quay{fill:#0e5b50;stroke:#d99a00} #tide{stroke-width:9px} circle, .x { fill: currentColor }</style>' +
      '<g color="#ae3b27" stroke-width="5"><rect class="quay" x="15" y="15" width="90" height="70"/><rect class="quay" id="tide" x="130" y="20" width="80" height="60" style="fill:#44648a"/>' +
      '<circle cx="60" cy="135" r="32"/><rect style="display:none" width="240" height="180"/><rect visibility="hidden" width="240" height="180"/></g>',
  ),
  'a view box of other proportions': svg(
    '<rect width="100" height="100" fill="#44648a"/><circle cx="50" cy="50" r="40" fill="#f5f2eb"/>',
    `width="${width}" height="${height}" viewBox="0 0 100 100"`,
  ),
  'a view box that fills the size': svg(
    '<circle cx="50" cy="50" r="45" fill="#0e5b50"/>',
    `width="${width}" height="${height}" viewBox="0 0 100 100" preserveAspectRatio="none"`,
  ),
};

let files = 0;
/** A document that shows a drawing pixel for pixel, its corner in that of the frame. */
async function showing(text: string): Promise<{ document: Document; file: string }> {
  const file = (++files).toString(16).padStart(64, 'd');
  const drawing = await loadDrawing(file, () => Promise.resolve(text));
  const box = boundsOfNode(drawing.root)!;
  const document = apply(
    empty(),
    addDrawing('shot', { id: 'quay', name: 'Quay', depth: 3 }, file, box),
    setLayer('At rest', 'shot', 'quay', { scale: { value: 1 }, pivot: { value: [0, 0] } }),
    setProperty('shot', 'quay', 'position', 0, [-frameWidth / 2, -frameHeight / 2]),
  );
  return { document, file };
}

function painted(document: Document): Uint8ClampedArray {
  const canvas = createCanvas(width, height);
  const context = contextOf(canvas);
  const missing = paintFrame(context, evaluateFrame(document, shotOf(document), 0), testStudio({}), {
    scale: 1,
    ground: '#ffffff',
    size: { width, height },
  });
  expect(missing).to.deep.equal([]);
  return context.getImageData(0, 0, width, height).data;
}

/** The same by a public renderer (librsvg). */
const rendered = async (text: string): Promise<Buffer> =>
  sharp(Buffer.from(text)).flatten({ background: '#ffffff' }).ensureAlpha().raw().toBuffer();

/** Share of pixels whose channels all are within `most` of one another. */
function alike(a: ArrayLike<number>, b: ArrayLike<number>, most = 3): number {
  let same = 0;
  for (let i = 0; i < width * height * 4; i += 4)
    if ([0, 1, 2].every((n) => Math.abs(a[i + n]! - b[i + n]!) <= most)) same++;
  return same / (width * height);
}

describe('SVG drawings', () => {
  for (const [about, text] of Object.entries(samples)) {
    it(`${about}: look as a public renderer draws them`, async () => {
      const { document } = await showing(text);
      expect(alike(painted(document), await rendered(text))).to.be.at.least(0.98);
      expect(readDrawing(text).left).to.deep.equal([]);
    });

    it(`${about}: written and read again they are the same, for us and for others`, async () => {
      const once = readDrawing(text);
      const written = writeDrawing(once.root, once.width, once.height);
      const twice = readDrawing(written);
      // Four digits of each number are written.
      expect(writeDrawing(twice.root, twice.width, twice.height)).to.equal(
        writeDrawing(readDrawing(writeDrawing(twice.root, twice.width, twice.height)).root, width, height),
      );
      const { document } = await showing(text);
      expect(alike(await rendered(written), painted(document))).to.be.at.least(0.98);
    });
  }

  it('one colour becomes another, its opacity going along; the rest stays', async () => {
    const text = samples['opacity of groups and figures']!;
    const { document, file } = await showing(text);
    const drawing = await loadDrawing(file, () => Promise.reject(new Error('not again')));
    expect(coloursOf(drawing.root)[0]).to.deep.equal([68, 100, 138, 1]);
    const changed = apply(document, recolourDrawing('shot', 'quay', [68, 100, 138], [10, 200, 40, 1]));
    const wanted = await rendered(text.replaceAll('#44648a', 'rgb(10,200,40)'));
    expect(alike(painted(changed), wanted)).to.be.at.least(0.98);
    const back = apply(changed, recolourDrawing('shot', 'quay', [68, 100, 138], null));
    expect(painted(back)).to.deep.equal(painted(document));
    const out = svgOfLayer(layerOf(changed, 'quay'), 0)!;
    expect(alike(await rendered(out), wanted)).to.be.at.least(0.98);
  });

  for (const about of ['basic shapes', 'opacity of groups and figures', 'clips', 'symbols that are used'])
    it(`${about}: taken apart, its parts lie exactly together, each about its own middle`, async () => {
      const { document, file } = await showing(samples[about]!);
      const drawing = await loadDrawing(file, () => Promise.reject(new Error('not again')));
      const turned = apply(
        document,
        setLayer('Larger', 'shot', 'quay', { scale: { value: 0.8 }, rotation: { value: 9 } }),
      );
      const parts = partsOf(drawing, []).map((part) => ({
        part: [...part],
        name: '',
        box: boundsOfNode(partAt(drawing, part)!)!,
      }));
      expect(parts.length).to.be.at.least(2);
      const apart = apply(turned, takeDrawingApart('shot', 'quay', parts));
      expect(shotOf(apart).layers).to.have.length(parts.length);
      const [first] = shotOf(apart).layers;
      const { pivot, source } = first!;
      if (source.kind !== 'drawing') throw new Error('a drawing');
      expect(pivot).to.deep.equal({
        value: [source.box.x + source.box.width / 2, source.box.y + source.box.height / 2],
      });
      // Parts of a group that is seen through are seen through one another.
      const least = about.startsWith('opacity') ? 0.6 : 0.995;
      expect(alike(painted(apart), painted(turned))).to.be.at.least(least);
    });

  it('one drawing taken apart twice never gives two layers the same name', async () => {
    const { document, file } = await showing(samples['basic shapes']!);
    const drawing = await loadDrawing(file, () => Promise.reject(new Error('not again')));
    const parts = partsOf(drawing, []).map((part) => ({
      part: [...part],
      name: '',
      box: boundsOfNode(partAt(drawing, part)!)!,
    }));
    const once = apply(document, takeDrawingApart('shot', 'quay', parts));
    expect(shotOf(apply(once, takeDrawingApart('shot', 'quay', parts))).layers).to.have.length(7);
  });

  it('many figures are painted once, and look the same', async () => {
    const dots = Array.from(
      { length: 400 },
      (_, k) => `<circle cx="${10 + (k % 20) * 11}" cy="${8 + Math.floor(k / 20) * 8.5}" r="3.4" fill="#44648a"/>`,
    );
    const { document } = await showing(svg(dots.join('')));
    expect(alike(painted(document), await rendered(svg(dots.join(''))), 24)).to.be.at.least(0.96);
  });

  it('a shape layer is written as it is painted', async () => {
    const document = apply(
      empty(),
      addShape('shot', 'rectangle', { id: 'panel', depth: 3, width: 120 }, { radius: 20 }),
      setProperty('shot', 'panel', 'position', 0, [100 - frameWidth / 2, 80 - frameHeight / 2]),
      setLayer('Gradient', 'shot', 'panel', {
        source: {
          kind: 'shape',
          made: { shape: 'rectangle', settings: { radius: { value: 20 } }, width: 120, height: 120 },
          closed: true,
          filled: true,
          stroke: null,
          gradient: {
            kind: 'linear',
            angle: 30,
            stops: [
              { at: 0, colour: [14, 91, 80, 1] },
              { at: 1, colour: [217, 154, 0, 1] },
            ],
          },
        },
      }),
    );
    const text = svgOfLayer(layerOf(document, 'panel'), 0)!;
    const own = sharp(Buffer.from(text)).flatten({ background: '#ffffff' });
    const placed = await own
      .extend({ top: 20, left: 40, bottom: height - 140, right: width - 160, background: '#ffffff' })
      .ensureAlpha()
      .raw()
      .toBuffer();
    expect(alike(painted(document), placed, 12)).to.be.at.least(0.98);
  });
});
