import { homedir } from 'node:os';
import { join } from 'node:path';

/** Where everything a user makes is kept. */
export const dataFolder = process.env.CLYVO_DATA ?? join(homedir(), '.clyvo');
