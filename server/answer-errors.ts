import type { ErrorRequestHandler } from 'express';
import type { Logger } from 'pino';
import { z } from 'zod';
import { UnreadableDocument } from '../core/document/document.ts';
import { UserError } from './errors.ts';

/** What went wrong before a route could look at a request, by the type the body reader gives it. */
const sentences: Record<string, string> = {
  'entity.parse.failed': 'This request is not readable (no JSON).',
  'entity.too.large': 'This change is larger than 32 MB and could not be stored.',
  'encoding.unsupported': 'This request is packed in a way Clyvo does not read.',
  'charset.unsupported': 'This request is not in UTF-8.',
  'request.aborted': 'This request ended before all of it had arrived.',
};

/** Every error leaves as a sentence; what is not meant for the user is logged whole and called a fault of ours. */
export function answerErrors(log: Logger): ErrorRequestHandler {
  return (error: unknown, request, response, next) => {
    if (response.headersSent) return next(error);
    // What is still arriving is let in, so that the sender reads the answer instead of a broken line.
    request.resume();
    response.set('Cache-Control', 'no-store');
    if (error instanceof UserError)
      return response.status(error.status).json({ message: error.message, ...error.extra });
    if (error instanceof UnreadableDocument) {
      const message = `${error.message} The Shelf offers its last state that can be read.`;
      return response.status(422).json({ message });
    }
    if (error instanceof z.ZodError) {
      return response.status(400).json({ message: 'This request is not complete.', detail: z.prettifyError(error) });
    }
    const fault = error as { status?: unknown; type?: string } | null;
    const status = typeof fault?.status === 'number' ? fault.status : 500;
    if (status >= 400 && status < 500) {
      const message = sentences[fault?.type ?? ''] ?? 'This request cannot be answered as it is.';
      return response.status(status).json({ message });
    }
    log.error({ err: error, path: request.path }, 'request failed');
    return response.status(500).json({
      message: 'Clyvo failed to do this and wrote down why. Nothing stored was changed; try again.',
    });
  };
}
