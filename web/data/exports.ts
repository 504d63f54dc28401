import { create } from 'zustand';
import { exportFormats } from '../../core/formats/exports.ts';
import { givenUp } from '../../core/formats/fit-size.ts';
import { loopMixOf } from '../sound/mixing.ts';
import { sizeOf } from '../parts/file-size.ts';
import { startExport } from '../workers/export-client.ts';
import type { ExportOrder } from '../workers/export-messages.ts';
import { storeOutput } from './api.ts';
import { notify, notifyError } from './notices.ts';
import { queryClient } from './query-client.ts';

/** An export on its way. It belongs to no room: whoever walks on finds it where the exports are kept. */
export interface RunningExport {
  project: string;
  name: string;
  wanted: ExportWanted;
  /** Which time the file is written: to fit under a size it may take several. */
  pass: number;
  done: number;
  total: number;
  /** When this pass began. */
  started: number;
  cancel(): void;
}

/** An export that waits for its turn, of the project as it was when it was asked for. */
export interface WaitingExport {
  id: number;
  project: string;
  name: string;
  wanted: ExportWanted;
}

export const useExports = create<{ running: RunningExport | null; waiting: readonly WaitingExport[] }>(() => ({
  running: null,
  waiting: [],
}));

/** What is to be exported, and whether it is to be heard. */
export type ExportWanted = Omit<ExportOrder, 'kind' | 'sound'> & { sound: boolean };

const askBeforeLeaving = (event: BeforeUnloadEvent): void => event.preventDefault();
let working = false;
let next = 1;

/**
 * Makes a file of a project as it is now, and keeps it with the project's exports. They are made one after the other: two at
 * once would share what the machine has, and both come later.
 * @param name of the file, without its ending
 */
export function queueExport(project: string, name: string, wanted: ExportWanted): void {
  useExports.setState(({ waiting }) => ({ waiting: [...waiting, { id: next++, project, name, wanted }] }));
  if (!working) void workOff();
}

/** Takes an export out that has not begun. */
export const dropExport = (id: number): void =>
  useExports.setState(({ waiting }) => ({ waiting: waiting.filter((one) => one.id !== id) }));

async function workOff(): Promise<void> {
  working = true;
  window.addEventListener('beforeunload', askBeforeLeaving);
  try {
    for (let first = useExports.getState().waiting[0]; first; first = useExports.getState().waiting[0])
      await makeExport(first).catch(notifyError);
  } finally {
    working = false;
    window.removeEventListener('beforeunload', askBeforeLeaving);
  }
}

async function makeExport({ id, project, name, wanted }: WaitingExport): Promise<void> {
  const { format } = wanted;
  const begun = { project, name, wanted, pass: 1, done: 0, total: 1, started: performance.now() };
  const stop = new AbortController();
  // Both at once: whatever goes wrong from here on, it has had its turn.
  useExports.setState(({ waiting }) => ({
    running: { ...begun, cancel: () => stop.abort() },
    waiting: waiting.filter((one) => one.id !== id),
  }));
  try {
    const order = await withSound(wanted);
    const work = startExport(order, (pass, done, total) =>
      useExports.setState(({ running }) => {
        if (!running) return {};
        const began = pass === running.pass ? running.started : performance.now();
        return { running: { ...running, pass, done, total, started: began } };
      }),
    );
    stop.signal.addEventListener('abort', work.cancel);
    if (stop.signal.aborted) work.cancel();
    const result = await work.result;
    if (!result) return notify('done', 'The export was cancelled; nothing was kept.');
    const { data, ...made } = result;
    await storeOutput(project, { name, format, ...made }, data);
    await queryClient.invalidateQueries({ queryKey: ['outputs', project] });
    const less = givenUp(order, { ...made, bitrate: 0 });
    const fitted = less && `, at ${less} to fit`;
    notify('done', `${name}: ${exportFormats[format].name} is ready in Deliver, ${sizeOf(data.size)}${fitted}.`);
  } finally {
    useExports.setState({ running: null });
  }
}

/** The order with what is heard in its frames. */
export async function withSound({ sound, ...order }: ExportWanted): Promise<Omit<ExportOrder, 'kind'>> {
  const { document, first, end, format } = order;
  return { ...order, sound: sound && exportFormats[format].sound ? await loopMixOf(document, { first, end }) : null };
}

/** How long an export will still take, in words. */
export function timeLeft({ pass, done, total, started }: RunningExport, now = performance.now()): string {
  if (done < 3) return pass > 1 ? `Too large; making it smaller, try ${pass}` : 'Starting';
  const seconds = ((now - started) / 1000 / done) * (total - done);
  return seconds < 1.5 ? 'Nearly done' : `About ${Math.round(seconds)} s left, frame ${done} of ${total}`;
}
