import { useQuery, useQueryClient } from '@tanstack/react-query';
import { FileArchive, ImagePlus, Sparkles } from 'lucide-react';
import { useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import { getProject, listProjects } from '../../data/api.ts';
import { projectFromPictures } from '../../data/bring-in.ts';
import { isLayered, projectFromLayers } from '../../data/bring-in-layers.ts';
import { startMaking, useMaking } from '../../data/making.ts';
import { onNews } from '../../data/session/news.ts';
import { notify, notifyError, sentenceOf } from '../../data/notices.ts';
import { GuideLink, HelpButton } from '../../help/help-button.tsx';
import { ExportProgress } from '../../parts/export-progress.tsx';
import { Button } from '../../parts/button.tsx';
import { FileButton } from '../../parts/file-button.tsx';
import { MakingProgress } from '../../parts/making-progress.tsx';
import { DropArea } from '../../parts/drop-area.tsx';
import { Working } from '../../parts/working.tsx';
import { isBundle, takeBundle } from './bundles.ts';
import { DiskLine } from './disk-line.tsx';
import { ProjectCard } from './project-card.tsx';
import { shownProjects, type ShelfOrder } from './shown.ts';
import { UnreadableCard } from './unreadable-card.tsx';

/** Where projects are kept. */
export function Shelf() {
  const projects = useQuery({ queryKey: ['projects'], queryFn: listProjects });
  const making = useShelfNews();
  const [bringing, setBringing] = useState(false);
  const [search, setSearch] = useState('');
  const [order, setOrder] = useState<ShelfOrder>('changed');
  const all = projects.data ?? [];
  const shown = shownProjects(all, search, order);
  const navigate = useNavigate();
  const start = async (given: File[]): Promise<void> => {
    setBringing(true);
    try {
      const files = [];
      for (const file of given)
        if (await isBundle(file)) await takeBundle(file, navigate).catch(notifyError);
        else if (isLayered(file)) await navigate(`/project/${await projectFromLayers(file)}/stage`);
        else files.push(file);
      const made = files.length > 0 && (await projectFromPictures(files));
      if (made) await navigate(`/project/${made.project}/cut/${made.picture}`);
    } catch (error) {
      notifyError(error);
    }
    setBringing(false);
  };
  const bringBundle = async (file: File): Promise<void> => {
    setBringing(true);
    await takeBundle(file, navigate).finally(() => setBringing(false));
  };
  const { running } = useMaking();
  const makeMove = async (file: File): Promise<void> => {
    const made = await projectFromPictures([file]);
    if (!made) return;
    const { document } = await getProject(made.project);
    const picture = document.pictures[0]!;
    const show = (): void => {
      if (window.location.pathname === '/') void navigate(`/project/${made.project}/stage`, { state: { play: true } });
      else notify('done', `${picture.name} moves now; it is on the Shelf.`);
    };
    await startMaking({ project: made.project, document, picture, ownProject: true, show });
  };
  return (
    <DropArea
      onFiles={(files) => void start(files)}
      hint="Drop to start a project"
      className="flex h-full flex-col overflow-auto"
    >
      {(choose) => (
        <>
          <header className="flex h-14 shrink-0 items-center justify-between border-b border-line px-6">
            <h1 className="flex items-center gap-2 text-lg font-semibold">
              <img src="/mark.svg" alt="" className="size-6" />
              Clyvo
            </h1>
            <div className="flex items-center gap-2">
              <ExportProgress />
              <HelpButton />
              <FileButton
                label="Photo to make move"
                accept="image/jpeg,image/png,image/webp,image/avif,image/tiff"
                icon={<Sparkles size={15} />}
                disabled={running !== null}
                onFile={makeMove}
              >
                Make a photo move
              </FileButton>
              <FileButton
                label="Bundle"
                accept=".zip,application/zip"
                icon={<FileArchive size={15} />}
                onFile={bringBundle}
              >
                Open a bundle
              </FileButton>
              <Button look="primary" icon={<ImagePlus size={15} />} onClick={choose}>
                New from a picture
              </Button>
            </div>
          </header>
          <main className="px-6 py-5">
            <div className="mb-3 flex min-h-8 flex-wrap items-center gap-3">
              <h2 className="flex-1 text-[13px] text-ink-2">
                Shelf. Drop a picture anywhere here to start a project with it.
              </h2>
              {all.length > 1 && <Finder {...{ search, setSearch, order, setOrder }} />}
            </div>
            {projects.isError && <p className="text-brick">{sentenceOf(projects.error)}</p>}
            {making && (
              <p className="mb-3 text-[13px] text-ink-2" role="status">
                {making}. You can begin meanwhile.
              </p>
            )}
            {shown.length === 0 && all.length > 0 && (
              <p className="py-20 text-center text-ink-2">No project and no picture in one is called that.</p>
            )}
            {projects.data?.length === 0 && !making && (
              <p className="py-20 text-center text-ink-2">
                No projects yet. Drop a photo here, and cut something out of it;{' '}
                <GuideLink chapter="start-with-a-photo">how it begins</GuideLink>.
              </p>
            )}
            <ul className="grid grid-cols-[repeat(auto-fill,minmax(250px,1fr))] gap-5">
              {shown.map((project) =>
                'document' in project ? (
                  <ProjectCard key={project.id} project={project} />
                ) : (
                  <UnreadableCard key={project.id} project={project} />
                ),
              )}
            </ul>
            {all.length > 0 && <DiskLine />}
          </main>
          <MakingProgress />
          {bringing && (
            <div className="fixed inset-x-0 bottom-6 flex justify-center">
              <Working doing="Bringing it in" share={null} />
            </div>
          )}
        </>
      )}
    </DropArea>
  );
}

interface FinderProps {
  search: string;
  setSearch(search: string): void;
  order: ShelfOrder;
  setOrder(order: ShelfOrder): void;
}

/** Finds projects by name, and says in which order they stand. */
function Finder({ search, setSearch, order, setOrder }: FinderProps) {
  return (
    <>
      <input
        type="search"
        aria-label="Search projects"
        placeholder="Search"
        className="w-52 rounded-md border border-line bg-white px-2 py-1 text-[13px]"
        value={search}
        onChange={(event) => setSearch(event.target.value)}
      />
      <select
        aria-label="Order of projects"
        className="rounded-md border border-line bg-white px-2 py-1 text-[13px]"
        value={order}
        onChange={(event) => setOrder(event.target.value as ShelfOrder)}
      >
        <option value="changed">Changed last</option>
        <option value="name">By name</option>
      </select>
    </>
  );
}

/** Keeps the list true to what happens elsewhere; gives what is being made for the Shelf just now. */
function useShelfNews(): string | null {
  const client = useQueryClient();
  const [making, setMaking] = useState<string | null>(null);
  useEffect(
    () =>
      onNews((news) => {
        if (news.kind === 'demo') setMaking(news.doing);
        else {
          void client.invalidateQueries({ queryKey: ['projects'] });
          // Only what comes and goes as a whole is worth counting again.
          if (news.kind === 'shelf') void client.invalidateQueries({ queryKey: ['disk'] });
        }
      }),
    [client],
  );
  return making;
}
