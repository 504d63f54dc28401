import type { Document } from '../../../../core/document/document.ts';
import type { Shot } from '../../../../core/document/shot.ts';
import { copyToShot } from '../../../../core/edits/copy-to-shot.ts';
import { notify } from '../../../data/notices.ts';
import { newId, useProject } from '../../../data/project.ts';
import { frameNow, openShot, useStage } from '../stage-state.ts';

interface CopyToShotProps {
  document: Document;
  shot: Shot;
  ids: readonly string[];
}

/** Puts copies of layers into another shot; nothing where there is no other. */
export function CopyToShot({ document, shot, ids }: CopyToShotProps) {
  const { dispatch } = useProject();
  const others = document.shots.filter(({ id }) => id !== shot.id);
  if (others.length === 0) return null;
  const copy = (to: string): void => {
    const wanted = ids.map((of) => ({ of, id: newId('layer') }));
    dispatch(copyToShot(shot.id, to, wanted, frameNow()));
    const open = (): void => {
      openShot(to);
      useStage.getState().select({ kind: 'layers', ids: wanted.map(({ id }) => id) });
    };
    const { name } = others.find(({ id }) => id === to)!;
    notify('done', `Copied to ${name}.`, { label: `Open ${name}`, run: open });
  };
  return (
    <label className="flex h-7 items-center gap-2 text-[13px]">
      <span className="min-w-0 flex-1 truncate text-ink-2">Copy to shot</span>
      <select
        aria-label="Copy to shot"
        className="w-28 rounded-md border border-line bg-white px-1.5 py-0.5 text-[12px]"
        value=""
        onChange={(event) => copy(event.target.value)}
      >
        <option value="" disabled>
          Choose
        </option>
        {others.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </select>
    </label>
  );
}
