import { useMaking } from '../data/making.ts';
import { Working } from './working.tsx';

/** A photo that is being made to move: which step it is at, and a way to stop it. */
export function MakingProgress() {
  const { running } = useMaking();
  if (!running) return null;
  return (
    <div className="pointer-events-none fixed inset-x-0 bottom-6 z-30 flex justify-center">
      <div className="pointer-events-auto">
        <Working doing={running.doing} share={running.share} detail={running.name} onCancel={running.cancel} />
      </div>
    </div>
  );
}
