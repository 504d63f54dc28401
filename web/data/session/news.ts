import { z } from 'zod';

const newsSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('project'), project: z.string(), revision: z.number(), change: z.string() }),
  z.object({ kind: z.literal('shelf') }),
  z.object({ kind: z.literal('demo'), doing: z.string().nullable() }),
  /** The line was interrupted: anything may have happened. */
  z.object({ kind: z.literal('resumed') }),
]);
export type News = z.infer<typeof newsSchema>;

const listeners = new Set<(news: News) => void>();
let started = false;

/** Hears what happens to projects, whoever does it: in this tab, in another one, or from elsewhere. */
export function onNews(listener: (news: News) => void): () => void {
  if (!started) start();
  started = true;
  listeners.add(listener);
  return () => void listeners.delete(listener);
}

/**
 * A browser keeps few lines open to one server, so only one of its tabs listens there and passes on what it hears; when
 * it is closed, the lock goes to the next one.
 */
function start(): void {
  const channel = new BroadcastChannel('clyvo-news');
  const hear = (data: unknown): News | null => {
    const news = newsSchema.safeParse(data);
    if (news.success) for (const listener of listeners) listener(news.data);
    return news.success ? news.data : null;
  };
  channel.onmessage = ({ data }) => void hear(data);
  const passOn = (data: unknown): void => {
    const news = hear(data);
    if (news) channel.postMessage(news);
  };
  void navigator.locks.request('clyvo-news', () => {
    const source = new EventSource('/api/news');
    source.onmessage = ({ data }: MessageEvent<string>) => passOn(JSON.parse(data));
    // Also the first time: between the tab that listened before and this one something may have been missed.
    source.onopen = () => passOn({ kind: 'resumed' });
    return new Promise(() => undefined);
  });
}
