import { Dialog, DialogPanel, DialogTitle } from '@headlessui/react';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { X } from 'lucide-react';
import { useState } from 'react';
import { clearDeleted, getDisk } from '../../data/api.ts';
import { notify, notifyError } from '../../data/notices.ts';
import { Button, IconButton } from '../../parts/button.tsx';
import { sizeOf } from '../../parts/file-size.ts';

/** What Clyvo takes on this disk, in a line; pressed it says what fills it. */
export function DiskLine() {
  const [open, setOpen] = useState(false);
  const disk = useQuery({ queryKey: ['disk'], queryFn: getDisk });
  if (!disk.data) return null;
  const { files, exports, earlier, clearable, free } = disk.data;
  return (
    <>
      <button
        type="button"
        onClick={() => setOpen(true)}
        className="mt-6 rounded-md px-1.5 py-1 text-[13px] text-ink-2 hover:bg-paper-2"
      >
        {sizeOf(files + exports + earlier + clearable)} on this disk, {sizeOf(free)} free
      </button>
      {open && <DiskDialog onClose={() => setOpen(false)} />}
    </>
  );
}

function DiskDialog({ onClose }: { onClose(): void }) {
  const client = useQueryClient();
  const disk = useQuery({ queryKey: ['disk'], queryFn: getDisk });
  if (!disk.data) return null;
  const { projects, files, exports, earlier, clearable } = disk.data;
  const clear = (): void => {
    clearDeleted().then((freed) => {
      notify('done', `${sizeOf(freed)} were cleared.`);
      void client.invalidateQueries({ queryKey: ['disk'] });
    }, notifyError);
  };
  const most = Math.max(1, ...projects.map((project) => project.files + project.exports));
  return (
    <Dialog open onClose={onClose} className="relative z-40">
      <div className="fixed inset-0 bg-ink/30" aria-hidden />
      <div className="fixed inset-0 flex items-center justify-center p-6">
        <DialogPanel className="flex max-h-full w-[560px] flex-col rounded-xl border border-line bg-paper shadow-xl">
          <div className="flex items-center border-b border-line px-4 py-3">
            <DialogTitle className="flex-1 font-semibold">What fills the disk</DialogTitle>
            <IconButton label="Close" onClick={onClose}>
              <X size={15} />
            </IconButton>
          </div>
          <div className="overflow-auto px-4 py-3 text-[13px]">
            <dl className="mb-4 grid grid-cols-[1fr_auto] gap-y-1">
              <Part name="Pictures, clips, sounds, cutouts and fonts of projects" bytes={files} />
              <Part name="Earlier exports" bytes={exports} />
              <Part
                name="What only earlier states need, kept so that a damaged project can be recovered"
                bytes={earlier}
              />
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
        </DialogPanel>
      </div>
    </Dialog>
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
