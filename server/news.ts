import type { RequestHandler } from 'express';

/** What pages are told of as it happens. */
export type NewsItem =
  | { kind: 'project'; project: string; revision: number; change: string }
  /** Projects came, went or were renamed. */
  | { kind: 'shelf' }
  /** The demo projects are being made; null once all are there. */
  | { kind: 'demo'; doing: string | null };

/** Tells every listening page, over server-sent events (HTML Living Standard). */
export class News {
  private readonly listeners = new Set<(item: NewsItem) => void>();
  private demo: NewsItem = { kind: 'demo', doing: null };

  tell(item: NewsItem): void {
    if (item.kind === 'demo') this.demo = item;
    for (const listener of this.listeners) listener(item);
  }

  /** Answers with a stream that stays open. */
  readonly stream: RequestHandler = (request, response) => {
    response.writeHead(200, { 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store' });
    const send = (item: NewsItem): void => void response.write(`data: ${JSON.stringify(item)}\n\n`);
    send(this.demo);
    this.listeners.add(send);
    request.once('close', () => this.listeners.delete(send));
  };
}
