import { config } from 'zod/v4/core';

/*
 * Pages and workers may not make code out of text (content security policy). Schemas try to, once in each of them; that is
 * refused and reported, and to say where, the whole script is parsed again. So this stands before everything else.
 */
config({ jitless: true });
