import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react';
import { useMemo } from 'react';
import { useNavigate } from 'react-router';
import { enlargeToCover, moveToCover, withHair } from '../../../../core/edits/bare-cures.ts';
import { setBareMeant } from '../../../../core/edits/shot-edits.ts';
import { bareStretches, enlargementToCover, shiftToCover, toBlame } from '../../../../core/scene/bare.ts';
import type { Document } from '../../../../core/document/document.ts';
import { padToCover } from '../../../../core/scene/seen.ts';
import type { Shot } from '../../../../core/document/shot.ts';
import { boxOf } from '../../../../core/scene/source-pixels.ts';
import { useProject } from '../../../data/project.ts';
import { Button } from '../../../parts/button.tsx';
import { frameNow, useStage } from '../stage-state.ts';

/** Where it is bare, which layer should cover it, and what of each cure would be enough. */
function curesOf(document: Document, shot: Shot, bare: number[]) {
  const blamed = toBlame(shot, bare.indexOf(Math.max(...bare)));
  const picture = blamed && 'picture' in blamed.source ? blamed.source.picture : null;
  const box = blamed && boxOf(document, blamed);
  const pad = picture && box && blamed.source.kind === 'background' ? padToCover(document, shot, picture, box) : null;
  return {
    stretches: bareStretches(bare),
    blamed,
    picture,
    enlarge: blamed ? enlargementToCover(document, shot, blamed) : 1,
    shift: blamed ? shiftToCover(document, shot, blamed) : null,
    widest: pad ? Math.max(pad.left, pad.right, pad.top, pad.bottom) : 0,
  };
}

/** Whether the frame is covered all the time; where not, which layer is to blame, and what cures it. */
export function BareCheck({ document, shot, bare }: { document: Document; shot: Shot; bare: number[] }) {
  const { id, dispatch } = useProject();
  const { setFrame, setPlaying, selectLayer } = useStage();
  const navigate = useNavigate();
  const worst = Math.max(0, ...bare);
  // Cures look at every frame of the shot; the playhead moves far more often than they change.
  const cures = useMemo(() => (worst > 0 ? curesOf(document, shot, bare) : null), [document, shot, bare, worst]);
  if (shot.layers.length === 0) return null;
  if (worst > 0 && shot.bareMeant) {
    return (
      <button
        type="button"
        className="ml-auto text-[13px] whitespace-nowrap text-ink-2 underline"
        data-testid="bare-check"
        title="This shot is meant to be partly empty. Press to check it again."
        onClick={() => dispatch(setBareMeant(shot.id, false))}
      >
        Bare check set aside
      </button>
    );
  }
  if (!cures) {
    return (
      <div className="ml-auto text-[13px] whitespace-nowrap text-ink-2" data-testid="bare-check">
        {bare.length > 0 ? 'No bare frame' : 'Looking for bare frames'}
      </div>
    );
  }
  const { stretches, blamed, enlarge, shift, picture, widest } = cures;
  const jump = (): void => {
    const frame = frameNow();
    const next = stretches.find((s) => s.worst > frame) ?? stretches[0]!;
    setPlaying(false);
    setFrame(next.worst);
    if (blamed) selectLayer(blamed.id);
  };
  const further = [
    { name: 'It is meant to be empty there', act: () => dispatch(setBareMeant(shot.id, true)) },
    ...(shift
      ? [
          {
            name: `Move it by ${Math.round(shift[0])}, ${Math.round(shift[1])} px`,
            act: () => dispatch(moveToCover(shot.id, blamed!.id)),
          },
        ]
      : []),
    ...(widest > 0
      ? [
          {
            name: `Widen its picture by up to ${widest} px`,
            act: () => void navigate(`/project/${id}/cut/${picture}/background`),
          },
        ]
      : []),
  ];
  return (
    <div className="ml-auto flex min-w-0 items-center gap-1.5 text-[13px] whitespace-nowrap" data-testid="bare-check">
      <button
        type="button"
        className="truncate text-brick underline"
        title="Go to the next bare stretch"
        onClick={jump}
      >
        Bare in {bare.filter((b) => b > 0).length} frames, up to {(worst * 100).toFixed(worst < 0.1 ? 1 : 0)} %
      </button>
      {blamed && enlarge > 1 && Number.isFinite(enlarge) && (
        <Button onClick={() => dispatch(enlargeToCover(shot.id, blamed.id))} title={`${blamed.name} does not reach`}>
          <span className="max-w-28 truncate">Enlarge {blamed.name}</span> by{' '}
          {((withHair(enlarge) - 1) * 100).toFixed(1)} %
        </Button>
      )}
      {further.length > 0 && (
        <Menu>
          <MenuButton className="h-8 rounded-md border border-line px-2 font-medium hover:bg-paper-2">
            Other cures
          </MenuButton>
          <MenuItems
            anchor="top end"
            className="z-20 rounded-md border border-line bg-paper p-1 text-[13px] shadow-lg outline-none"
          >
            {further.map(({ name, act }) => (
              <MenuItem key={name}>
                <button
                  type="button"
                  onClick={act}
                  className="flex h-8 w-full items-center rounded-md px-2 data-focus:bg-paper-2"
                >
                  {name}
                </button>
              </MenuItem>
            ))}
          </MenuItems>
        </Menu>
      )}
    </div>
  );
}
