import type { Progress } from '../../core/pixels/progress.ts';

/** Lets messages that arrived meanwhile be read. */
export const breathe = (): Promise<void> =>
  new Promise((resolve) => {
    const channel = new MessageChannel();
    channel.port1.onmessage = () => {
      channel.port1.close();
      resolve();
    };
    channel.port2.postMessage(null);
  });

/** Milliseconds a computation may run before messages are read again. */
const longestBreath = 25;

/** Progress that is sent on, and cancelled once `isCancelled` says so; messages are read now and then. */
export function progressFor(
  report: (doing: string, share: number) => void,
  isCancelled: () => boolean,
): Required<Progress> {
  let last = performance.now();
  return {
    report,
    cancelled: async () => {
      if (performance.now() - last > longestBreath) {
        await breathe();
        last = performance.now();
      }
      return isCancelled();
    },
  };
}
