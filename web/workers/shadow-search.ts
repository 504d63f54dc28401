import type { About, PlateJob } from './plate-client.ts';
import type { PlateAnswer } from './plate-messages.ts';

export type ShadowJob = PlateJob<Extract<PlateAnswer, { kind: 'shadow' }>>;

interface Search {
  /** What it looks at: the picture, and the piece as it was lifted. */
  of: string;
  job: ShadowJob;
  /** How many wait for it. */
  waiting: number;
}

/**
 * A search that is begun once for a piece as it was lifted, however many ask for it: the notice after a lift and the bench that
 * is opened meanwhile wait for the same one, and what was found last is known at once. It is cancelled when nobody waits any
 * more.
 */
export function sharedShadowSearch(begin: (about: About, piece: string) => ShadowJob) {
  let last: Search | null = null;
  return (about: About, piece: string): ShadowJob => {
    const of = JSON.stringify([
      about.document.pictures.find((p) => p.id === about.picture)?.file,
      about.document.pieces.find((p) => p.id === piece)?.cutout,
    ]);
    if (last?.of !== of) last = begun(of, begin(about, piece));
    const search = last;
    search.waiting++;
    let leave = (): void => undefined;
    const left = new Promise<null>((resolve) => (leave = () => resolve(null)));
    let waits = true;
    return {
      answer: Promise.race([search.job.answer, left]),
      cancel: () => {
        if (!waits) return;
        waits = false;
        leave();
        search.waiting--;
        if (search.waiting > 0) return;
        search.job.cancel();
        forget(search);
      },
    };
  };

  function begun(of: string, job: ShadowJob): Search {
    const search: Search = { of, job, waiting: 0 };
    // What failed is tried anew when it is asked for again.
    job.answer.catch(() => forget(search));
    return search;
  }

  function forget(search: Search): void {
    if (last === search) last = null;
  }
}
