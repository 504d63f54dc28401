import { expect } from 'chai';
import { emptyDocument, type Document } from '../../core/document/document.ts';
import { addLayer, duplicateLayers } from '../../core/edits/arrange-edits.ts';
import type { Edit } from '../../core/edits/edit.ts';
import { removeLayer, renameLayer, setDepth, setHidden } from '../../core/edits/layer-edits.ts';
import { documentNewsSchema, FollowedDocument, ToldDocument, type DocumentNews } from './followed-document.ts';

const shot = 'shot-1';
const carrier = (id: string): Edit => addLayer(shot, { id, name: id, depth: 3 }, { source: { kind: 'carrier' } });
const edits: Edit[] = [
  carrier('a'),
  carrier('b'),
  carrier('c'),
  renameLayer(shot, 'a', 'Far mast'),
  setDepth(shot, 'b', 7),
  setHidden(shot, 'c', true),
  duplicateLayers(shot, [{ of: 'a', id: 'd' }]),
  removeLayer(shot, 'b'),
];

/** What arrives on the other side of a worker's border. */
const sent = (news: DocumentNews): DocumentNews => documentNewsSchema.parse(structuredClone(news));

describe('a document followed by a worker', () => {
  const start = (): Document => emptyDocument('Signals', { width: 640, height: 360, rate: 30 }, 2, shot);

  it('is the same there after every edit, told in less than the whole', () => {
    const [told, followed] = [new ToldDocument(), new FollowedDocument()];
    let document = start();
    expect(followed.follow(sent(told.newsOf(document)))).to.deep.equal(document);
    for (const edit of edits) {
      document = edit.apply(document);
      const news = sent(told.newsOf(document));
      expect(news).to.have.property('changes');
      expect(followed.follow(news)).to.deep.equal(document);
    }
    expect(followed.document).to.deep.equal(document);
  });

  it('keeps what an edit left alone as the same objects', () => {
    const [told, followed] = [new ToldDocument(), new FollowedDocument()];
    let document = edits.slice(0, 3).reduce((d, edit) => edit.apply(d), start());
    const before = followed.follow(sent(told.newsOf(document)));
    document = setDepth(shot, 'b', 9).apply(document);
    const after = followed.follow(sent(told.newsOf(document)));
    const layers = (d: Document, id: string) => d.shots[0]!.layers.find((layer) => layer.id === id);
    expect(layers(after, 'a')).to.equal(layers(before, 'a'));
    expect(layers(after, 'b')).to.not.equal(layers(before, 'b'));
    expect(after.pictures).to.equal(before.pictures);
  });

  it('of another project takes the place of the one before', () => {
    const [told, followed] = [new ToldDocument(), new FollowedDocument()];
    followed.follow(sent(told.newsOf(edits.slice(0, 6).reduce((d, edit) => edit.apply(d), start()))));
    const other = carrier('z').apply(emptyDocument('Other', { width: 100, height: 80, rate: 25 }, 1, shot));
    expect(followed.follow(sent(told.newsOf(other)))).to.deep.equal(other);
  });

  it('cannot be changed before it was told, and what is no document is refused', () => {
    expect(() => new FollowedDocument().follow({ changes: [] })).to.throw('before the document');
    expect(documentNewsSchema.safeParse({ document: { ...start(), shots: [] } }).success).to.equal(false);
    expect(documentNewsSchema.safeParse({ changes: [{ kind: 'burn' }] }).success).to.equal(false);
  });
});
