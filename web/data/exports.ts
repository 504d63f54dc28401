import { create } from 'zustand';
import { exportFormats } from '../../core/formats/exports.ts';
import { givenUp } from '../../core/formats/fit-size.ts';
import { mixOf } from '../sound/mixing.ts';
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
  order: Omit<ExportOrder, 'kind'>;
  /** Which time the file is written: to fit under a size it may take several. */
  pass: number;
  done: number;
  total: number;
  /** When this pass began. */
  started: number;
  cancel(): void;
}

export const useExports = create<{ running: RunningExport | null }>(() => ({ running: null }));

/** What is to be exported, and whether it is to be heard. */
export type ExportWanted = Omit<ExportOrder, 'kind' | 'sound'> & { sound: boolean };

const askBeforeLeaving = (event: BeforeUnloadEvent): void => event.preventDefault();

/**
 * Makes a file of a project as it is now, and keeps it with the project's exports. One at a time: two would share what
 * the machine has, and both come later.
 * @param name of the file, without its ending
 */
export async function makeExport(project: string, name: string, wanted: ExportWanted): Promise<void> {
  if (useExports.getState().running) return;
  const order = await withSound(wanted).catch(notifyError);
  if (!order || useExports.getState().running) return;
  const work = startExport(order, (pass, done, total) =>
    useExports.setState(({ running }) => {
      if (!running) return {};
      const began = pass === running.pass ? running.started : performance.now();
      return { running: { ...running, pass, done, total, started: began } };
    }),
  );
  const started = performance.now();
  useExports.setState({ running: { project, name, order, pass: 1, done: 0, total: 1, started, cancel: work.cancel } });
  window.addEventListener('beforeunload', askBeforeLeaving);
  try {
    const result = await work.result;
    if (!result) return notify('done', 'The export was cancelled; nothing was kept.');
    const { format } = order;
    const { data, ...made } = result;
    await storeOutput(project, { name, format, ...made }, data);
    await queryClient.invalidateQueries({ queryKey: ['outputs', project] });
    const less = givenUp(order, { ...made, bitrate: 0 });
    const fitted = less && `, at ${less} to fit`;
    notify('done', `${name}: ${exportFormats[format].name} is ready in Deliver, ${sizeOf(data.size)}${fitted}.`);
  } catch (error) {
    notifyError(error);
  } finally {
    window.removeEventListener('beforeunload', askBeforeLeaving);
    useExports.setState({ running: null });
  }
}

/** The order with what is heard in its frames. */
async function withSound({ sound, ...order }: ExportWanted): Promise<Omit<ExportOrder, 'kind'>> {
  const { document, first, end, format } = order;
  return { ...order, sound: sound && exportFormats[format].sound ? await mixOf(document, first, end) : null };
}

/** How long an export will still take, in words. */
export function timeLeft({ pass, done, total, started }: RunningExport, now = performance.now()): string {
  if (done < 3) return pass > 1 ? `Too large; making it smaller, try ${pass}` : 'Starting';
  const seconds = ((now - started) / 1000 / done) * (total - done);
  return seconds < 1.5 ? 'Nearly done' : `About ${Math.round(seconds)} s left, frame ${done} of ${total}`;
}
