import { expect } from 'chai';
import type { About } from './plate-client.ts';
import { sharedShadowSearch, type ShadowJob } from './shadow-search.ts';

/** A project whose only piece was lifted to this file. */
const lifted = (file: string): About =>
  ({
    picture: 'quay',
    document: { pictures: [{ id: 'quay', file: 'photo' }], pieces: [{ id: 'float', cutout: { file } }] },
  }) as unknown as About;

type Answer = Awaited<ShadowJob['answer']>;

/** A search that says how often it was begun and cancelled, and ends when it is told to. */
function watched() {
  const seen = { begun: 0, cancelled: 0 };
  let end: { resolve(answer: Answer): void; reject(error: Error): void };
  const look = sharedShadowSearch(() => {
    seen.begun++;
    return {
      answer: new Promise<Answer>((resolve, reject) => (end = { resolve, reject })),
      cancel: () => void seen.cancelled++,
    };
  });
  return { seen, look, finish: (answer: Answer) => end.resolve(answer), fail: () => end.reject(new Error('worn out')) };
}

const found: Answer = { kind: 'shadow', request: 1, region: [] };

describe('a search for a shadow that several wait for', () => {
  it('is begun once for a piece as it was lifted, also after it ended, and anew when it was lifted again', async () => {
    const { seen, look, finish } = watched();
    const both = [look(lifted('a'), 'float'), look(lifted('a'), 'float')];
    finish(found);
    for (const { answer } of both) expect(await answer).to.equal(found);
    expect(await look(lifted('a'), 'float').answer).to.equal(found);
    expect(seen.begun).to.equal(1);
    look(lifted('b'), 'float');
    expect(seen.begun).to.equal(2);
  });

  it('is cancelled when the last of them leaves; each that leaves has no answer', async () => {
    const { seen, look, finish } = watched();
    const [one, two] = [look(lifted('a'), 'float'), look(lifted('a'), 'float')];
    one.cancel();
    one.cancel();
    expect(await one.answer).to.equal(null);
    expect(seen.cancelled).to.equal(0);
    finish(found);
    expect(await two.answer).to.equal(found);
    const third = watched();
    third.look(lifted('a'), 'float').cancel();
    expect(third.seen).to.deep.equal({ begun: 1, cancelled: 1 });
    third.look(lifted('a'), 'float');
    expect(third.seen.begun).to.equal(2);
  });

  it('is tried again after it failed, and the failure is told to all', async () => {
    const { seen, look, fail } = watched();
    const both = [look(lifted('a'), 'float'), look(lifted('a'), 'float')];
    fail();
    for (const { answer } of both)
      expect(await answer.then(String, (error: Error) => error.message)).to.equal('worn out');
    look(lifted('a'), 'float');
    expect(seen.begun).to.equal(2);
  });
});
