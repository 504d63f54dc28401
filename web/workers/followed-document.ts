import { z } from 'zod';
import { changeSchema } from '../../core/document/change-schema.ts';
import { differenceBetween, withChanges } from '../../core/document/difference.ts';
import { documentSchema, type Document } from '../../core/document/document.ts';

/** What a worker is told so that it has the document as it is: all of it at first, then what changed. */
export const documentNewsSchema = z.union([
  z.object({ document: documentSchema }),
  z.object({ changes: z.array(changeSchema) }),
]);
export type DocumentNews = z.infer<typeof documentNewsSchema>;

/** The page's side: knows what the worker has. */
export class ToldDocument {
  private told: Document | null = null;

  /** What is to be told next; it has to be told, and in this order. */
  newsOf(document: Document): DocumentNews {
    const before = this.told;
    this.told = document;
    return before ? { changes: differenceBetween(before, document) } : { document };
  }
}

/**
 * The worker's side. What an edit left alone stays the same object, so that what was computed for it can be found again.
 */
export class FollowedDocument {
  private known: Document | null = null;

  get document(): Document | null {
    return this.known;
  }

  follow(news: DocumentNews): Document {
    if ('document' in news) this.known = news.document;
    else if (this.known) this.known = withChanges(this.known, news.changes).document;
    else throw new Error('changes came before the document they change');
    return this.known;
  }
}
