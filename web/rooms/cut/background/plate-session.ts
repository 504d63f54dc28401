import { finishedStep, storeTake } from '../../../data/stored-plate.ts';
import { useRef, useState } from 'react';
import type { Document, Picture } from '../../../../core/document/document.ts';
import { addTake, replaceWorkingPicture, setPlate } from '../../../../core/edits/plate-edits.ts';
import type { PlateOrder, PlateStep } from '../../../../core/document/plate.ts';
import { nextSeeds } from '../../../../core/rebuild/takes.ts';
import { uploadPixels } from '../../../data/api.ts';
import { notify, notifyError } from '../../../data/notices.ts';
import { newId, useProject } from '../../../data/project.ts';
import { levelPicture, makePlateStep, makeStepsAgain, type PlateJob } from '../../../workers/plate-client.ts';
import type { MadeStepFile } from '../../../workers/plate-messages.ts';
import type { Activity } from '../../../parts/working.tsx';

/** A take that is being made. */
export interface LiveTake {
  seed: number;
  share: number;
  /** The whole plate with this take as far as it is. */
  preview: ImageBitmap | null;
}

export interface PlateSession {
  activity: Activity | null;
  /** Takes in the making, and the step they belong to. */
  live: { step: string; takes: LiveTake[] } | null;
  /** Adds a step; where a step has takes, four are made at once. */
  make(order: PlateOrder, name: string): void;
  /** Four further takes of a step. */
  more(step: PlateStep): void;
  /** Puts changed steps in place and makes them again from the first that changed. */
  change(name: string, steps: PlateStep[], from: number): void;
  level(degrees: number): void;
}

const withSteps = (document: Document, pictureId: string, steps: PlateStep[]): Document => ({
  ...document,
  pictures: document.pictures.map((p) =>
    p.id === pictureId ? { ...p, background: steps.length > 0 ? { steps } : null } : p,
  ),
});

/** Makes and changes the steps of a picture's plate. */
export function usePlateSession(picture: Picture): PlateSession {
  const [activity, setActivity] = useState<Activity | null>(null);
  const [live, setLive] = useState<PlateSession['live']>(null);
  const jobs = useRef<PlateJob[]>([]);
  const { dispatch, latest: stored } = useProject();

  const stop = (): void => {
    for (const job of jobs.current) job.cancel();
    setActivity({ doing: 'Stopping', share: null });
  };
  const report = (doing: string, share: number): void =>
    setActivity((now) => (now?.doing === 'Stopping' ? now : { doing, share, cancel: stop }));
  const guarded = (work: () => Promise<void>): void => {
    work()
      .catch((error: unknown) => notifyError(error))
      .finally(() => {
        jobs.current = [];
        setActivity(null);
        setLive(null);
      });
  };
  const started = <Job extends PlateJob>(job: Job): Job => {
    jobs.current.push(job);
    return job;
  };

  /** Runs one take and shows it while it comes in. */
  const runTake = async (
    step: string,
    order: PlateOrder,
    index: number,
    whole: boolean,
  ): Promise<MadeStepFile | null> => {
    const seed = 'seed' in order ? order.seed : 0;
    const show = (change: Partial<LiveTake>): void =>
      setLive((before) =>
        before?.step === step
          ? { step, takes: before.takes.map((take) => (take.seed === seed ? { ...take, ...change } : take)) }
          : before,
      );
    const job = started(
      makePlateStep({ document: stored(), picture: picture.id }, order, index, whole, {
        progress: (doing, share) => {
          show({ share });
          report(doing, share);
        },
        preview: (preview) => show({ preview }),
      }),
    );
    const made = await job.answer;
    return made?.steps[0] ?? null;
  };

  const begin = (step: string, seeds: number[]): void => {
    setLive({ step, takes: seeds.map((seed) => ({ seed, share: 0, preview: null })) });
    setActivity({ doing: 'Continuing the surroundings', share: 0, cancel: stop });
  };

  const make = (order: PlateOrder, name: string): void =>
    guarded(async () => {
      const before = stored().pictures.find((p) => p.id === picture.id)?.background?.steps ?? [];
      if (order.kind === 'retouch') {
        setActivity({ doing: 'Retouching', share: null, cancel: stop });
        const made = await runTake(order.id, order, before.length, true);
        if (made) dispatch(setPlate(name, picture.id, await joinedTouches(before, order, made), newId('layer')));
        return;
      }
      const seeds = nextSeeds([]);
      begin(order.id, seeds);
      const gesture = order.id;
      const first = runTake(order.id, { ...order, seed: seeds[0]! }, before.length, true).then(async (made) => {
        if (!made) return false;
        const step = await finishedStep({ ...order, seed: seeds[0]! }, made, []);
        dispatch(setPlate(name, picture.id, [...before, step], newId('layer')), gesture);
        return true;
      });
      await Promise.all([first, ...seeds.slice(1).map((seed) => further(order, seed, before.length, first, gesture))]);
      if (!(await first)) notify('done', 'Stopped; nothing changed.');
    });

  const further = async (
    order: PlateOrder,
    seed: number,
    index: number,
    first: Promise<boolean>,
    gesture: string,
  ): Promise<void> => {
    const made = await runTake(order.id, { ...order, seed, mix: [] } as PlateOrder, index, false);
    const [take] = made ? await storeTake(made, seed) : [];
    if (take && (await first)) dispatch(addTake(picture.id, order.id, take), gesture);
  };

  const more = (step: PlateStep): void =>
    guarded(async () => {
      if (!('takes' in step)) return;
      const steps = picture.background?.steps ?? [];
      const seeds = nextSeeds([step.seed, ...step.takes.map((t) => t.seed)]);
      begin(step.id, seeds);
      const index = steps.findIndex((s) => s.id === step.id);
      const gesture = newId('takes');
      await Promise.all(seeds.map((seed) => further(step, seed, index, Promise.resolve(true), gesture)));
    });

  const change = (name: string, steps: PlateStep[], from: number): void =>
    guarded(async () => {
      if (from >= steps.length) {
        dispatch(setPlate(name, picture.id, steps, newId('layer')));
        return;
      }
      setActivity({ doing: 'Making the background again', share: 0, cancel: stop });
      const job = started(
        makeStepsAgain({ document: withSteps(stored(), picture.id, steps), picture: picture.id }, from, {
          progress: report,
        }),
      );
      const made = await job.answer;
      if (!made) return notify('done', 'Stopped; nothing changed.');
      const again: PlateStep[] = [];
      for (const [k, file] of made.steps.entries()) {
        const step = steps[from + k]!;
        // What was chosen from stays to be chosen from; later steps stand on new ground, and their takes do not.
        again.push(await finishedStep(step, file, k === 0 && 'takes' in step ? step.takes : []));
      }
      dispatch(setPlate(name, picture.id, [...steps.slice(0, from), ...again], newId('layer')));
      const share = made.steps[0]?.share;
      if (typeof share === 'number')
        notify('done', `Rebuilt what the shot shows: ${Math.round(share * 100)} % of the hole.`);
    });

  const level = (degrees: number): void =>
    guarded(async () => {
      setActivity({ doing: 'Levelling', share: 0, cancel: stop });
      const job = started(
        levelPicture({ document: stored(), picture: picture.id }, degrees, {
          progress: report,
        }),
      );
      const made = await job.answer;
      if (!made) return notify('done', 'Stopped; nothing changed.');
      const file = await uploadPixels(made.picture);
      dispatch(replaceWorkingPicture(picture.id, { file, width: made.width, height: made.height }));
    });

  return { activity, live, make, more, change, level };
}

/** Marks of the retouching brushes that follow each other are one step. */
async function joinedTouches(
  before: PlateStep[],
  order: Extract<PlateOrder, { kind: 'retouch' }>,
  made: MadeStepFile,
): Promise<PlateStep[]> {
  const step = await finishedStep(order, made, []);
  const last = before.at(-1);
  if (last?.kind !== 'retouch' || step.kind !== 'retouch') return [...before, step];
  return [...before.slice(0, -1), { ...step, id: last.id, touches: [...last.touches, ...step.touches] }];
}
