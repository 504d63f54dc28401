import { expect } from 'chai';
import { apply, composed, transformOf } from './affine.ts';
import { coloursOf, figuresOf, partAt, partsOf } from './drawing.ts';
import { readDrawing } from './read-drawing.ts';
import { lengthOf, styleSheetOf } from './style.ts';
import { svgTree, UnreadableSvg } from './tree.ts';
import { writeDrawing } from './write-drawing.ts';

const svg = (body: string, attributes = 'width="100" height="80"'): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" ${attributes}>${body}</svg>`;
const square = '<rect width="10" height="10"/>';

const refused = (text: string): string => {
  try {
    readDrawing(text);
  } catch (error) {
    expect(error).to.be.instanceOf(UnreadableSvg);
    return (error as Error).message;
  }
  throw new Error('it was read');
};

describe('SVG files from strangers', () => {
  it('what cannot be shown is listed by name, the rest is there', () => {
    const { left, root } = readDrawing(
      svg(
        `${square}<text>Quay</text><image href="a.png"/><script>alert(1)</script><g filter="url(#f)">${square}</g>` +
          `<filter id="f"/><rect width="9" height="9" fill="url(#p)"/><pattern id="p"/><use href="other.svg#a"/>` +
          `<style>g > rect { fill: red }</style>`,
      ),
    );
    expect(left).to.deep.equal(
      [
        'words (turn them into paths first)',
        'pictures',
        'scripts',
        'filters',
        'patterns',
        'references to other files',
        'some rules of its style sheet',
      ].sort(),
    );
    expect([...figuresOf(root)]).to.have.length(2);
  });

  it('nothing of what runs or is fetched is left in what is stored', () => {
    const hostile = svg(
      `<script>fetch("//evil")</script><rect width="10" height="10" onload="alert(1)" fill="red"/><a href="javascript:alert(1)">${square}</a>` +
        `<image href="https://evil/x.png"/><foreignObject><iframe src="https://evil"/></foreignObject><style>@import "https://evil/x.css"; rect { fill: url(https://evil#a) }</style>` +
        `<g id="&quot;&gt;&lt;script&gt;">${square}</g>`,
    );
    const { root, width, height } = readDrawing(hostile);
    const stored = writeDrawing(root, width, height);
    // The one address is that of the standard itself.
    expect(stored.replace('http://www.w3.org/2000/svg', '')).to.not.match(
      /script>|javascript|https?:|onload|import|iframe|foreign/i,
    );
    expect(readDrawing(stored).left).to.deep.equal([]);
  });

  it('entities of its own, also from outside, are refused with a sentence', () => {
    const external = `<!DOCTYPE svg [<!ENTITY x SYSTEM "file:///etc/passwd">]>${svg('<text>&x;</text>')}`;
    expect(refused(external)).to.contain('entities');
    const laughs = `<!DOCTYPE svg [<!ENTITY a "ha"><!ENTITY b "&a;&a;&a;">]>${svg(square)}`;
    expect(refused(laughs)).to.contain('entities');
  });

  it('what is too deep, too long, or grows when it is followed is refused', () => {
    expect(refused(svg('<g>'.repeat(50_000) + square + '</g>'.repeat(50_000)))).to.match(/SVG/);
    expect(refused(svg('<g>'.repeat(80) + square + '</g>'.repeat(80)))).to.contain('deep');
    expect(refused(svg(square + ' '.repeat(9_000_000)))).to.contain('large');
    expect(refused(svg('<g/>'.repeat(50_000)))).to.contain('parts');
    // Each level uses the one below it ten times.
    const levels = Array.from({ length: 9 }, (_, k) => `<g id="l${k + 1}">${`<use href="#l${k}"/>`.repeat(10)}</g>`);
    expect(refused(svg(`<g id="l0">${square}</g>${levels.join('')}`))).to.contain('references');
    const points = Array.from({ length: 450_000 }, (_, k) => `L${k % 7} ${k % 5}`).join('');
    expect(refused(svg(`<path d="M0 0${points}"/>`))).to.contain('points');
  });

  it('what uses itself is followed once', () => {
    const { root } = readDrawing(svg(`<g id="a">${square}<use href="#a"/></g>`));
    expect([...figuresOf(root)]).to.have.length(2);
  });

  it('no SVG, an empty one, and one with nothing to show are said to be so', () => {
    for (const text of ['', 'no xml', '<html><body/></html>', '<svg><g></svg>'])
      expect(refused(text), text).to.match(/^No outline could be read/);
    expect(refused(svg(''))).to.equal('This SVG file has nothing in it that can be shown.');
    expect(refused(svg('<text>Quay</text>'))).to.contain('only words');
  });
});

describe('what a drawing is made of', () => {
  it('sizes follow what is said, the view box, or the one side that is given', () => {
    const size = (attributes: string): number[] => {
      const { width, height } = readDrawing(svg(square, attributes));
      return [width, height];
    };
    expect(size('width="4cm" height="30mm"')).to.deep.equal([(4 * 96) / 2.54, (30 * 96) / 25.4]);
    expect(size('viewBox="0 0 50 20"')).to.deep.equal([50, 20]);
    expect(size('viewBox="0 0 50 20" width="100"')).to.deep.equal([100, 40]);
    expect(size('viewBox="0 0 50 20" width="100%" height="100%"')).to.deep.equal([50, 20]);
    expect(size('')).to.deep.equal([300, 150]);
  });

  it('transforms are those of the standard, the last one first', () => {
    const at = apply(transformOf('translate(10 5) rotate(90) scale(2)'), [3, 1]);
    [10 - 2, 5 + 6].forEach((v, k) => expect(at[k]).to.be.closeTo(v, 1e-9));
    const about = apply(transformOf('rotate(180, 4, 6)'), [1, 1]);
    [7, 11].forEach((v, k) => expect(about[k]).to.be.closeTo(v, 1e-9));
    expect(transformOf('nothing(1)')).to.deep.equal(composed([1, 0, 0, 1, 0, 0], [1, 0, 0, 1, 0, 0]));
    expect(apply(transformOf('skewX(45)'), [0, 2])[0]).to.be.closeTo(2, 1e-9);
    expect(apply(transformOf('skewY(45)'), [2, 0])[1]).to.be.closeTo(2, 1e-9);
  });

  it('lengths have their units, and what is none is none', () => {
    expect(['12', '12px', '1in', '9pt', '1pc', '50%', '-.5e1'].map((text) => lengthOf(text, 80))).to.deep.equal([
      12, 12, 96, 12, 16, 40, -5,
    ]);
    expect(['', 'auto', '1 2', '3furlongs'].map((text) => lengthOf(text, 80))).to.deep.equal([null, null, null, null]);
  });

  it('a style sheet gives ids the last word, then classes, then names, whatever their order', () => {
    const text = svg(
      '<style><![CDATA[#a{fill:#010101} .b{fill:#020202} rect{fill:#030303} /* .b{fill:red} */]]></style>' +
        '<rect id="a" class="b" width="9" height="9"/><rect class="c b" width="9" height="9" fill="red"/><rect width="9" height="9"/>' +
        '<rect class="b" style="fill:#040404" width="9" height="9"/>',
    );
    const fills = [...figuresOf(readDrawing(text).root)].map(({ fill }) => fill?.kind === 'colour' && fill.colour[0]);
    expect(fills).to.deep.equal([1, 2, 3, 4]);
    expect(styleSheetOf(svgTree(text)).skipped).to.equal(0);
  });

  it('comes apart at the first group that has several, down to single figures', () => {
    const drawing = readDrawing(
      svg(`<g><g id="wrap"><g id="one">${square}${square}</g><g id="two">${square}</g></g></g>`),
    );
    const parts = partsOf(drawing, []);
    expect(parts.map((part) => partAt(drawing, part)!.name)).to.deep.equal(['one', 'two']);
    expect(partsOf(drawing, parts[0]!)).to.have.length(2);
    expect(partsOf(drawing, parts[1]!)).to.deep.equal([]);
    expect(partAt(drawing, [9, 9])).to.equal(null);
  });

  it('colours come by how often they are used, those of gradients too', () => {
    const { root } = readDrawing(
      svg(
        `<linearGradient id="g"><stop stop-color="#0000ff"/><stop offset="1" stop-color="#00ff00"/></linearGradient>` +
          `<rect width="9" height="9" fill="url(#g)"/><rect width="9" height="9" fill="#f00" stroke="#ff0000"/>`,
      ),
    );
    expect(coloursOf(root)).to.deep.equal([
      [255, 0, 0, 1],
      [0, 0, 255, 1],
      [0, 255, 0, 1],
    ]);
  });
});
