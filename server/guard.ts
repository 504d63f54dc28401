import type { RequestHandler } from 'express';
import helmet from 'helmet';
import { UserError } from './errors.ts';

/**
 * Answers only to this machine's own names, and only to pages it served itself: without this, any web page open in the
 * same browser could reach the projects (DNS rebinding, cross-site requests).
 */
export function guardHost(): RequestHandler {
  const own = /^(127\.0\.0\.1|localhost|\[::1\])(:\d+)?$/;
  return (request, _response, next) => {
    const host = request.headers.host ?? '';
    if (!own.test(host)) return next(new UserError(403, 'Clyvo answers only on this machine.'));
    const { origin } = request.headers;
    if (origin !== undefined && origin !== `http://${host}`) {
      return next(new UserError(403, 'This request came from another page and was refused.'));
    }
    next();
  };
}

/** Everything the application loads comes from itself. */
export function strictHeaders(): RequestHandler {
  return helmet({
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'self'"],
        // The kernels are WebAssembly, built with the application.
        scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
        styleSrc: ["'self'"],
        styleSrcAttr: ["'unsafe-inline'"],
        imgSrc: ["'self'", 'blob:', 'data:'],
        mediaSrc: ["'self'", 'blob:'],
        fontSrc: ["'self'"],
        connectSrc: ["'self'", 'blob:'],
        workerSrc: ["'self'"],
        objectSrc: ["'none'"],
        frameAncestors: ["'none'"],
        baseUri: ["'none'"],
        formAction: ["'self'"],
      },
    },
    strictTransportSecurity: false,
  });
}
