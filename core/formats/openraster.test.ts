import { expect } from 'chai';
import { readStack, UnreadableStack, writeStack, type Stack } from './openraster.ts';

const stack: Stack = {
  width: 640,
  height: 360,
  layers: [
    { name: 'Lamp & "float" <1>', src: 'data/001.png', x: 20, y: -5, opacity: 0.5, visible: true, blend: 'screen' },
    { name: 'Glow', src: 'data/002.png', x: 0, y: 0, opacity: 1, visible: false, blend: 'plus-lighter' },
    { name: 'Quay', src: 'data/003.png', x: 0, y: 0, opacity: 1, visible: true, blend: 'normal' },
  ],
};

describe('pictures in layers', () => {
  it('are read as they were written, whatever they are called', () => {
    const xml = writeStack(stack);
    expect(xml).to.contain('composite-op="svg:src-over"').and.contain('composite-op="svg:plus"');
    expect(readStack(xml)).to.deep.equal(stack);
  });

  it('of others may have groups, which are taken apart, and modes nobody knows, which are normal', () => {
    const xml = `<image w="300" h="200"><stack><stack x="10" y="4" opacity="0.5" visibility="hidden">
      <layer name="A" src="data/a.png" x="3" y="2" opacity="0.5" composite-op="svg:dst-atop"/></stack>
      <filter type="x"/><layer src="data/b.png"/></stack></image>`;
    expect(readStack(xml)).to.deep.equal({
      width: 300,
      height: 200,
      layers: [
        { name: 'A', src: 'data/a.png', x: 13, y: 6, opacity: 0.25, visible: false, blend: 'normal' },
        { name: 'Layer', src: 'data/b.png', x: 0, y: 0, opacity: 1, visible: true, blend: 'normal' },
      ],
    });
  });

  it('that are none, or are meant to do harm, are refused', () => {
    const deep = `${'<stack>'.repeat(60)}<layer src="a"/>${'</stack>'.repeat(60)}`;
    for (const text of [
      '',
      'a letter',
      '<svg/>',
      '<image w="10" h="10"/>',
      '<image w="10" h="10"><stack/></image>',
      '<image w="0" h="10"><stack><layer src="a"/></stack></image>',
      '<image w="1e9" h="10"><stack><layer src="a"/></stack></image>',
      '<!DOCTYPE x [<!ENTITY a "b">]><image w="1" h="1"><stack><layer src="a"/></stack></image>',
      `<image w="10" h="10">${deep}</image>`,
    ])
      expect(() => readStack(text), text.slice(0, 40)).to.throw(UnreadableStack);
  });
});
