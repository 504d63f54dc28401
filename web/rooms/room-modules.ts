import { prepareWorker, type PreparedKind } from '../workers/prepared.ts';
import { placeOf } from './address.ts';

/** The rooms whose code is large: each is loaded when it is first entered. */
export const roomModules = {
  cut: () => import('./cut/cut-room.tsx'),
  stage: () => import('./stage/stage-room.tsx'),
  deliver: () => import('./deliver/deliver-room.tsx'),
};

/** The worker that makes the first thing a room shows. */
const workerOf: Record<keyof typeof roomModules, PreparedKind> = { cut: 'cut', stage: 'paint', deliver: 'paint' };

/**
 * Fetches what a room needs to be shown, while the project itself is still on its way.
 * @param address the path of the page, as /project/pier-4f2a/stage
 */
export function prepareRoom(address: string): void {
  const { project, room } = placeOf(address);
  if (!project || !isLarge(room)) return;
  prepareWorker(workerOf[room]);
  // Whatever hinders it is met again, and told, when the room is entered.
  roomModules[room]().catch(() => undefined);
}

const isLarge = (room: string): room is keyof typeof roomModules => Object.hasOwn(roomModules, room);
