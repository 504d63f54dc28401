import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react';
import { useQueryClient } from '@tanstack/react-query';
import { Copy, Ellipsis, FileArchive, Pencil, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { renameProject } from '../../../core/edits/project-edits.ts';
import { deleteProject, duplicateProject, restoreProject, type Project } from '../../data/api.ts';
import { notify, notifyError } from '../../data/notices.ts';
import { editProject } from '../../data/project.ts';
import { BundleDialog } from './bundle-dialog.tsx';
import { Thumbnail } from './thumbnail.tsx';

/** A project as it lies on the Shelf. */
export function ProjectCard({ project }: { project: Project }) {
  const { id, document } = project;
  const navigate = useNavigate();
  const client = useQueryClient();
  const [renaming, setRenaming] = useState(false);
  const [bundling, setBundling] = useState(false);
  const [pointedAt, setPointedAt] = useState(false);
  const still = window.matchMedia('(prefers-reduced-motion: reduce)').matches;
  const refresh = () => client.invalidateQueries({ queryKey: ['projects'] });
  const attempt = (work: () => Promise<unknown>) => () => {
    work().then(refresh, (error: unknown) => notifyError(error));
  };
  const remove = async (): Promise<void> => {
    await deleteProject(id);
    notify('done', `"${document.name}" was deleted.`, { label: 'Undo', run: attempt(() => restoreProject(id)) });
  };
  const rename = async (name: string): Promise<void> => {
    setRenaming(false);
    await editProject(id, renameProject(name));
  };
  const room = document.shots[0]!.layers.length > 0 ? 'stage' : document.pictures.length > 0 ? 'cut' : 'pictures';
  // What nobody has changed yet is there to be looked at first; finishes would make it stutter the first time through.
  const asMade = project.revision === 1 && document.shots[0]!.layers.every(({ finishes }) => finishes.length === 0);
  const seconds = document.shots.reduce((sum, shot) => sum + shot.length, 0) / document.frame.rate;
  return (
    <li
      className="relative overflow-hidden rounded-lg border border-line bg-white/60 hover:border-pine"
      onPointerEnter={() => setPointedAt(true)}
      onPointerLeave={() => setPointedAt(false)}
      onFocus={() => setPointedAt(true)}
      onBlur={() => setPointedAt(false)}
    >
      <button
        type="button"
        // All of the card is pressed, but for what has a press of its own.
        className="block w-full after:absolute after:inset-0"
        aria-label={`Open ${document.name}`}
        onClick={() => void navigate(`/project/${id}/${room}`, { state: { play: asMade && !still } })}
      >
        <Thumbnail document={document} playing={pointedAt && !still} />
      </button>
      <div className="flex items-center gap-2 px-3 py-2">
        <div className="min-w-0 flex-1">
          {renaming ? (
            <input
              autoFocus
              aria-label="Project name"
              defaultValue={document.name}
              className="relative z-10 w-full rounded border border-pine bg-white px-1 font-semibold"
              onBlur={(event) => attempt(() => rename(event.target.value))()}
              onKeyDown={(event) => {
                if (event.key === 'Enter') event.currentTarget.blur();
                if (event.key === 'Escape') setRenaming(false);
              }}
            />
          ) : (
            <div className="truncate font-semibold">{document.name}</div>
          )}
          <div className="font-mono text-[11px] text-ink-2">
            {document.frame.width} × {document.frame.height}, {Number(seconds.toFixed(1))} s
          </div>
        </div>
        <Menu>
          <MenuButton
            aria-label={`More for ${document.name}`}
            className="relative z-10 flex size-7 items-center justify-center rounded-md hover:bg-paper-2"
          >
            <Ellipsis size={16} />
          </MenuButton>
          <MenuItems
            anchor="bottom end"
            className="z-30 w-40 rounded-lg border border-line bg-paper p-1 shadow-lg outline-none"
          >
            <CardAction icon={<Pencil size={14} />} label="Rename" run={() => setRenaming(true)} />
            <CardAction icon={<Copy size={14} />} label="Duplicate" run={attempt(() => duplicateProject(id))} />
            <CardAction icon={<FileArchive size={14} />} label="Save a bundle" run={() => setBundling(true)} />
            <CardAction icon={<Trash2 size={14} />} label="Delete" run={attempt(remove)} danger />
          </MenuItems>
        </Menu>
        {bundling && <BundleDialog project={project} onClose={() => setBundling(false)} />}
      </div>
    </li>
  );
}

function CardAction({
  icon,
  label,
  run,
  danger,
}: {
  icon: React.ReactNode;
  label: string;
  run(): void;
  danger?: boolean;
}) {
  return (
    <MenuItem>
      <button
        type="button"
        onClick={run}
        className={`flex w-full items-center gap-2 rounded-md px-2 py-1.5 text-[13px] data-focus:bg-paper-2 ${danger ? 'text-brick' : ''}`}
      >
        {icon}
        {label}
      </button>
    </MenuItem>
  );
}
