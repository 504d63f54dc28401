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

async function run(): Promise<void> {
  const [name = '', ...args] = process.argv.slice(2);
  const command = commands[name];
  if (!command) throw new UsageError(`Say what to do: ${Object.keys(commands).join(', ')}.`);
  console.log(JSON.stringify({ command: name, ...(await (await command())(args)) }));
}

run().catch((error: unknown) => {
  const known =
    error instanceof UsageError ||
    (error instanceof Error && 'code' in error && String(error.code).startsWith('ERR_PARSE_ARGS'));
  console.error(
    known
      ? (error as Error).message
      : `Something went wrong inside Clyvo: ${error instanceof Error ? error.message : String(error)}`,
  );
  process.exitCode = known ? 2 : 1;
});
