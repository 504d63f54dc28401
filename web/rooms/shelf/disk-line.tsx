import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { clearDeleted, getDisk, getUsage } from '../../data/api.ts';
import { notify, notifyError } from '../../data/notices.ts';
import { Button } from '../../parts/button.tsx';
import { sizeOf } from '../../parts/file-size.ts';
import { Sheet } from '../../parts/sheet.tsx';

/** What Clyvo takes on this disk, in a line; pressed it says what fills it. */
export function DiskLine() {
  const [open, setOpen] = useState(false);
  const disk = useQuery({ queryKey: ['disk'], queryFn: getDisk });
  if (!disk.data) return null;
  return (
    <>
      <button
        type="button"
        onClick={() => setOpen(true)}
        className="mt-6 rounded-md px-1.5 py-1 text-[13px] text-ink-2 hover:bg-paper-2"
      >
        {sizeOf(disk.data.taken)} on this disk, {sizeOf(disk.data.free)} free
      </button>
      {open && <DiskDialog onClose={() => setOpen(false)} />}
    </>
  );
}

function DiskDialog({ onClose }: { onClose(): void }) {
  const client = useQueryClient();
  const usage = useQuery({ queryKey: ['disk', 'usage'], queryFn: getUsage });
  if (!usage.data) return null;
  const { projects, files, exports, earlier, clearable } = usage.data;
  const clear = (): void => {
    clearDeleted().then((freed) => {
      notify('done', `${sizeOf(freed)} were cleared.`);
      void client.invalidateQueries({ queryKey: ['disk'] });
    }, notifyError);
  };
  const most = Math.max(1, ...projects.map((project) => project.files + project.exports));
  return (
    <Sheet title="What fills the disk" size="w-[560px]" onClose={onClose}>
      <div className="overflow-auto px-4 py-3 text-[13px]">
        <dl className="mb-4 grid grid-cols-[1fr_auto] gap-y-1">
          <Part name="Pictures, clips, sounds, cutouts and fonts of projects" bytes={files} />
          <Part name="Earlier exports" bytes={exports} />
          <Part name="What only earlier states need, kept so that a damaged project can be recovered" bytes={earlier} />
          <Part name="Deleted projects and exports, and what nothing needs" bytes={clearable} />
        </dl>
        <Button disabled={clearable === 0} onClick={clear}>
          {clearable === 0 ? 'Nothing to clear' : `Clear ${sizeOf(clearable)}`}
        </Button>
        <p className="mt-1 mb-4 text-[12px] text-ink-2">
          Clearing removes what was deleted for good. No project on the Shelf loses anything.
        </p>
        <ul aria-label="Projects by size" className="flex flex-col gap-1.5">
          {projects.map((project) => (
            <li key={project.id} className="grid grid-cols-[1fr_auto] gap-x-3">
              <span className="truncate">{project.name}</span>
              <span className="font-mono text-[12px] text-ink-2">{sizeOf(project.files + project.exports)}</span>
              <span className="col-span-2 flex h-1.5 overflow-hidden rounded-full bg-paper-2" aria-hidden>
                <span className="bg-pine" style={{ width: `${(project.files / most) * 100}%` }} />
                <span className="bg-saffron" style={{ width: `${(project.exports / most) * 100}%` }} />
              </span>
            </li>
          ))}
        </ul>
        <p className="mt-2 text-[12px] text-ink-2">
          <span className="mr-1 inline-block size-2 rounded-full bg-pine" aria-hidden />
          what the project needs
          <span className="mr-1 ml-3 inline-block size-2 rounded-full bg-saffron" aria-hidden />
          its exports; files that several projects share count with each
        </p>
      </div>
    </Sheet>
  );
}

function Part({ name, bytes }: { name: string; bytes: number }) {
  return (
    <>
      <dt className="pr-4 text-ink-2">{name}</dt>
      <dd className="text-right font-mono text-[12px]">{sizeOf(bytes)}</dd>
    </>
  );
}
