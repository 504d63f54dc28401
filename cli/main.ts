import { cut } from './cut.ts';
import { frames } from './frames.ts';
import { key } from './key.ts';
import { project } from './project.ts';
import { UsageError } from './pictures.ts';
import { rebuild } from './rebuild.ts';
import { shadow } from './shadow.ts';
import { widen } from './widen.ts';

const commands: Record<string, (args: string[]) => Promise<Record<string, unknown>>> = {
  cut,
  key,
  rebuild,
  widen,
  shadow,
  project,
  frames,
};

async function run(): Promise<void> {
  const [name = '', ...args] = process.argv.slice(2);
  const command = commands[name];
  if (!command) throw new UsageError(`Say what to do: ${Object.keys(commands).join(', ')}.`);
  console.log(JSON.stringify({ command: name, ...(await command(args)) }));
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
