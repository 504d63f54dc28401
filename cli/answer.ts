import { UsageError } from './pictures.ts';

type Command = (args: string[]) => Promise<Record<string, unknown>>;

/** Each reads only what it needs: all of them together take seconds to load. */
const commands: Record<string, () => Promise<Command>> = {
  cut: async () => (await import('./cut.ts')).cut,
  key: async () => (await import('./key.ts')).key,
  rebuild: async () => (await import('./rebuild.ts')).rebuild,
  widen: async () => (await import('./widen.ts')).widen,
  shadow: async () => (await import('./shadow.ts')).shadow,
  project: async () => (await import('./project.ts')).project,
  frames: async () => (await import('./frames.ts')).frames,
};

/** What the command line answers: with status 0 facts as one line of JSON, else one sentence on what is wrong. */
export interface Answer {
  /** 0: done, 1: a fault of Clyvo, 2: a fault in what was asked. */
  status: 0 | 1 | 2;
  said: string;
}

/** Does what the words after the program's name ask for. */
export async function answer([name = '', ...args]: string[]): Promise<Answer> {
  try {
    const command = commands[name];
    if (!command) throw new UsageError(`Say what to do: ${Object.keys(commands).join(', ')}.`);
    return { status: 0, said: JSON.stringify({ command: name, ...(await (await command())(args)) }) };
  } catch (error) {
    return refusal(error);
  }
}

function refusal(error: unknown): Answer {
  const said = error instanceof Error ? error.message : String(error);
  const unread = error instanceof Error && 'code' in error && String(error.code).startsWith('ERR_PARSE_ARGS');
  // By its name: a loader that serves two ways of importing may have read the class twice.
  const misused = error instanceof Error && error.name === 'UsageError';
  if (misused || unread) return { status: 2, said };
  return { status: 1, said: `Something went wrong inside Clyvo: ${said}` };
}
