import { expect } from 'chai';
import { markdownOf, type Section } from './report.ts';

const section = (title: string, measured: string, reached: boolean): Section => ({
  title,
  bars: [{ what: 'speed', wanted: '10 x', measured, reached }],
  table: { head: ['a'], rows: [['1']] },
  notes: ['A note.'],
});

describe('report', () => {
  it('says of every bar whether it is reached', () => {
    const text = markdownOf([section('Cut', '12 x', true), section('Paint', '3 x', false)], 'two cores', '');
    expect(text)
      .to.contain('| speed | 10 x | 12 x | reached |')
      .and.contain('| speed | 10 x | 3 x | **not reached** |');
  });

  it('shows the pictures of a section with their captions', () => {
    const pictures = [{ file: 'sheet.jpg', caption: 'Left to right' }];
    const text = markdownOf([{ ...section('Cut', '12 x', true), pictures }], 'two cores', '');
    expect(text).to.contain('![Left to right](sheet.jpg)');
  });

  it('replaces the sections that ran and keeps the others', () => {
    const first = markdownOf([section('Cut', '12 x', true), section('Paint', '3 x', false)], 'two cores', '');
    const second = markdownOf([section('Paint', '11 x', true)], 'two cores', first);
    expect(second).to.contain('12 x').and.contain('11 x').and.not.contain('3 x |');
    expect(markdownOf([], 'two cores', second)).to.equal(second);
  });
});
