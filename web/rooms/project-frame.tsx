import { Redo2, Undo2 } from 'lucide-react';
import { Suspense, useEffect, useState } from 'react';
import { Link, NavLink, Outlet, useLocation, useNavigate, useParams } from 'react-router';
import { renameProject } from '../../core/edits/project-edits.ts';
import { sentenceOf } from '../data/notices.ts';
import { useProject } from '../data/project.ts';
import { Unreachable } from '../data/api.ts';
import { HelpButton } from '../help/help-button.tsx';
import { Button, IconButton } from '../parts/button.tsx';
import { MakingProgress } from '../parts/making-progress.tsx';
import { ExportProgress } from '../parts/export-progress.tsx';
import { useKeys } from '../parts/keys.ts';
import { NameField } from '../parts/name-field.tsx';
import { RoomBoundary } from '../parts/room-boundary.tsx';
import { forgetInRested } from '../workers/prepared.ts';
import { endIdleStills } from '../workers/still-client.ts';
import { prepareRoom } from './room-modules.ts';

const rooms = [
  { path: 'pictures', name: 'Pictures' },
  { path: 'cut', name: 'Cut' },
  { path: 'stage', name: 'Stage' },
  { path: 'deliver', name: 'Deliver' },
] as const;

const savedWords = { saved: 'Saved', saving: 'Saving', waiting: 'Waiting for Clyvo to answer' } as const;
const savedHints = {
  saved: 'Everything is stored on this machine',
  saving: 'What you did is being stored',
  waiting: 'What you did is kept in this browser, and stored as soon as Clyvo answers',
} as const;

/** The slim bar and the room under it. */
export function ProjectFrame() {
  const { id = '' } = useParams();
  const room = useLocation().pathname.split('/')[3];
  const { document, open, id: openId } = useProject();
  const [problem, setProblem] = useState<string | null>(null);
  const [attempt, setAttempt] = useState(0);
  useEffect(() => {
    let wanted = true;
    let again = 0;
    if (useProject.getState().id !== id) prepareRoom(location.pathname);
    open(id).then(
      () => wanted && setProblem(null),
      (error: unknown) => {
        if (!wanted) return;
        setProblem(sentenceOf(error));
        // What cannot be reached now may be in a moment; everything else waits for the button.
        if (error instanceof Unreachable) again = window.setTimeout(() => setAttempt((n) => n + 1), 2000);
      },
    );
    return () => {
      wanted = false;
      clearTimeout(again);
    };
  }, [id, open, attempt]);
  // From the Stage one comes back to the Cut room, and from its benches; who looks at pictures or exports is done with it.
  useEffect(() => {
    if (room !== 'cut' && room !== 'stage') forgetInRested(['cut']);
    if (room !== 'deliver') forgetInRested(['export']);
  }, [room]);
  useEffect(() => forgetProject, []);
  const name = document?.name;
  useEffect(() => {
    if (!name) return;
    window.document.title = `${name} - Clyvo`;
    return () => void (window.document.title = 'Clyvo');
  }, [name]);
  if (problem) {
    return (
      <main className="flex h-full flex-col items-center justify-center gap-4">
        <p role="alert">{problem}</p>
        <div className="flex items-center gap-4">
          <Button look="primary" onClick={() => setAttempt((n) => n + 1)}>
            Try again
          </Button>
          <Link to="/" className="text-dusk underline">
            Back to the Shelf
          </Link>
        </div>
      </main>
    );
  }
  if (!document || openId !== id)
    return <main className="flex h-full items-center justify-center text-ink-2">Opening the project</main>;
  return (
    <div className="flex h-full flex-col">
      <ProjectBar />
      <main className="min-h-0 flex-1">
        <h1 className="sr-only">
          {document.name}, {rooms.find(({ path }) => path === room)?.name ?? 'Stage'}
        </h1>
        <RoomBoundary key={`${id}${room}`}>
          <Suspense fallback={null}>
            <Outlet />
          </Suspense>
        </RoomBoundary>
      </main>
    </div>
  );
}

/**
 * Has the workers let go of the project, once the rooms have left them waiting. They wait a while for the next project, which then
 * answers sooner.
 */
const forgetProject = (): void =>
  queueMicrotask(() => {
    forgetInRested();
    endIdleStills();
  });

function ProjectBar() {
  const { id, document, past, future, saved, trouble, dispatch, undo, redo } = useProject();
  const navigate = useNavigate();
  const room = useLocation().pathname.split('/')[3];
  useKeys((event) => {
    const key = event.key.toLowerCase();
    if ((event.ctrlKey || event.metaKey) && key === 'z') {
      event.preventDefault();
      if (event.shiftKey) redo();
      else undo();
    } else if (event.altKey && key >= '1' && key <= '4') {
      event.preventDefault();
      void navigate(`/project/${id}/${rooms[Number(key) - 1]!.path}`);
    }
  });
  const shot = document!.shots[0]!;
  const counts = {
    pictures: document!.pictures.length,
    cut: document!.pieces.length,
    stage: shot.layers.length,
    deliver: null,
  };
  return (
    <header className="grid h-12 shrink-0 grid-cols-[1fr_auto_1fr] items-center border-b border-line bg-paper px-3">
      <div className="flex min-w-0 items-center gap-1">
        <Link
          to="/"
          className="flex shrink-0 items-center rounded-md p-1.5 hover:bg-paper-2"
          aria-label="Shelf"
          title="Back to the Shelf"
        >
          <img src="/mark.svg" alt="" className="size-5" />
        </Link>
        <NameField
          label="Project name"
          value={document!.name}
          onChange={(name) => dispatch(renameProject(name))}
          className="max-w-44 shrink font-semibold"
        />
        <span
          className={`truncate text-[12px] ${trouble ? 'text-brick' : 'text-ink-2'}`}
          aria-live="polite"
          data-testid="saved"
          title={trouble ?? savedHints[saved]}
        >
          {trouble ? `Not saved: ${trouble}` : savedWords[saved]}
        </span>
        <IconButton
          label={past.length > 0 ? `Undo: ${past.at(-1)!.name}` : 'Undo'}
          shortcut="Ctrl Z"
          disabled={past.length === 0}
          onClick={undo}
        >
          <Undo2 size={16} />
        </IconButton>
        <IconButton
          label={future.length > 0 ? `Redo: ${future[0]!.name}` : 'Redo'}
          shortcut="Ctrl Shift Z"
          disabled={future.length === 0}
          onClick={redo}
        >
          <Redo2 size={16} />
        </IconButton>
      </div>
      <nav aria-label="Rooms" className="flex items-center">
        {rooms.map((room, index) => (
          <div key={room.path} className="flex items-center">
            {index > 0 && <span className="h-px w-7 bg-line" aria-hidden />}
            <NavLink
              to={`/project/${id}/${room.path}`}
              title={`${room.name} (Alt ${index + 1})`}
              className={({ isActive }) =>
                `flex items-center gap-1.5 border-b-2 px-2 pt-2 pb-1.5 text-[13px] font-medium ${isActive ? 'border-pine text-pine' : 'border-transparent text-ink hover:text-pine'}`
              }
            >
              {room.name}
              {counts[room.path] !== null && (
                <span className="font-mono text-[11px] text-ink-2">{counts[room.path]}</span>
              )}
            </NavLink>
          </div>
        ))}
      </nav>
      <div className="flex items-center justify-end gap-2">
        {room !== 'deliver' && <ExportProgress />}
        <MakingProgress />
        <HelpButton />
        <div id="main-action" className="flex items-center gap-2" />
      </div>
    </header>
  );
}
