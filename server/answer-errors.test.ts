import { expect } from 'chai';
import express from 'express';
import type { AddressInfo } from 'node:net';
import { pino } from 'pino';
import { UnreadableDocument } from '../core/document/document.ts';
import { answerErrors } from './answer-errors.ts';
import { UserError } from './errors.ts';

/** What is answered where a route throws this, and what was written down of it. */
async function answerTo(error: unknown): Promise<{ status: number; message: string; logged: string[] }> {
  const logged: string[] = [];
  const app = express();
  app.get('/', () => {
    throw error;
  });
  app.use(answerErrors(pino({ level: 'error' }, { write: (line: string) => void logged.push(line) })));
  const server = app.listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
  try {
    const answer = await fetch(`http://127.0.0.1:${(server.address() as AddressInfo).port}/`);
    expect(answer.headers.get('cache-control')).to.equal('no-store');
    return { status: answer.status, message: ((await answer.json()) as { message: string }).message, logged };
  } finally {
    server.closeAllConnections();
    server.close();
  }
}

const outside = (status: number, type?: string): Error => Object.assign(new Error('inner words'), { status, type });

describe('errors of the server', () => {
  it('that are meant for the user leave as they are, and are not written down', async () => {
    expect(await answerTo(new UserError(404, 'There is no such file.'))).to.deep.equal({
      status: 404,
      message: 'There is no such file.',
      logged: [],
    });
    const unreadable = await answerTo(new UnreadableDocument('layers: expected a list'));
    expect([unreadable.status, unreadable.logged]).to.deep.equal([422, []]);
    expect(unreadable.message).to.match(/The Shelf offers its last state that can be read\.$/);
  });

  it('of a request that could not be read are told by their kind, never in inner words', async () => {
    const large = await answerTo(outside(413, 'entity.too.large'));
    expect([large.status, large.message]).to.deep.equal([
      413,
      'This change is larger than 32 MB and could not be stored.',
    ]);
    for (const [status, type] of [
      [400, 'something.new'],
      [499, undefined],
    ] as const) {
      const other = await answerTo(outside(status, type));
      expect(other).to.deep.equal({ status, message: 'This request cannot be answered as it is.', logged: [] });
    }
  });

  it('of our own are written down whole and called a fault of ours, whatever status they carry', async () => {
    for (const error of [new Error('inner words'), outside(500), outside(302), outside(399), 'text']) {
      const { status, message, logged } = await answerTo(error);
      expect(status).to.equal(500);
      expect(message).to.match(/^Clyvo failed to do this/);
      expect(message).to.not.contain('inner words');
      expect(logged).to.have.length(1);
      if (error instanceof Error) expect(logged[0]).to.contain('inner words');
    }
  });
});
