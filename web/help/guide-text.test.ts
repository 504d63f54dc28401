import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { expect } from 'chai';
import { chapterOfRoom, chaptersOf, searchGuide } from './guide-text.ts';

describe('the guide inside', () => {
  let guide = '';
  before(async () => (guide = await readFile(join(import.meta.dirname, '../../docs/guide.md'), 'utf8')));

  it('has all chapters of the guide in their order, and one for every room', () => {
    const chapters = chaptersOf(guide);
    const headings = guide.split('\n').filter((line) => line.startsWith('## '));
    expect(chapters.map(({ title }) => `## ${title}`)).to.deep.equal(headings);
    expect(chapters.map(({ text }) => text.length).every((length) => length > 100)).to.equal(true);
    for (const id of Object.values(chapterOfRoom)) expect(chapters.map((chapter) => chapter.id)).to.include(id);
    expect(new Set(chapters.map(({ id }) => id)).size).to.equal(chapters.length);
  });

  it('is searched by words that stand together in a paragraph, read without its marks', () => {
    const chapters = chaptersOf(
      '# G\n\n## Cut it\n\nPress **Lift out** (L).\n\n- One _soft_ edge\n- Two [edges](x.md)\n\n## Edge\n\nAll of it.',
    );
    const said = (search: string): string[] =>
      searchGuide(chapters, search).map(({ chapter, paragraph }) => `${chapter.id}: ${paragraph}`);
    expect(said('lift  OUT')).to.deep.equal(['cut-it: Press Lift out (L).']);
    expect(said('edge')).to.deep.equal(['edge: All of it.', 'cut-it: One soft edge', 'cut-it: Two edges']);
    expect(said('cut soft')).to.deep.equal(['cut-it: One soft edge']);
    expect(said('nothing of the kind')).to.deep.equal([]);
    expect(said('  ')).to.deep.equal([]);
  });
});
