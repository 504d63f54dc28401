import { ChevronLeft, ChevronRight, CopyPlus, Plus, Trash2 } from 'lucide-react';
import type { Document } from '../../../core/document/document.ts';
import { addShot, duplicateShot, moveShot, removeShot } from '../../../core/edits/shot-edits.ts';
import type { Shot } from '../../../core/document/shot.ts';
import { newId, useProject } from '../../data/project.ts';
import { IconButton } from '../../parts/button.tsx';
import { transitionNames } from './card/transition-names.ts';
import { openShot } from './stage-state.ts';

function transitionName({ transition }: Shot, rate: number): string {
  const name = transitionNames[transition.kind];
  const seconds = Number((transition.frames / rate).toFixed(2));
  return transition.kind === 'cut' ? name : `${name} ${seconds} s`;
}

/** The shots of the project in order; one is worked on. */
export function ShotStrip({ document, shot }: { document: Document; shot: Shot }) {
  const { dispatch } = useProject();
  const { rate } = document.frame;
  const index = document.shots.indexOf(shot);
  const several = document.shots.length > 1;
  return (
    <div
      className="flex h-8 min-w-0 items-center gap-1 overflow-x-auto px-2 text-[12px]"
      role="group"
      aria-label="Shots"
    >
      {document.shots.map((one, k) => (
        <span key={one.id} className="flex items-center gap-1">
          <button
            type="button"
            aria-pressed={one === shot}
            onClick={() => openShot(one.id)}
            className={`h-6 rounded-md border px-2 ${one === shot ? 'border-pine bg-white text-pine' : 'border-line hover:bg-paper-2'}`}
          >
            {one.name} <span className="font-mono text-ink-2">{(one.length / rate).toFixed(1)} s</span>
          </button>
          {k < document.shots.length - 1 && (
            <button
              type="button"
              aria-label={`Transition after ${one.name}: ${transitionName(one, rate)}`}
              title="Press to change how it goes over into the next shot"
              className="h-6 min-w-6 rounded-md px-1.5 text-ink-2 hover:bg-paper-2 hover:text-pine"
              onClick={() => openShot(one.id)}
            >
              {one.transition.kind === 'cut' ? '|' : transitionName(one, rate)}
            </button>
          )}
        </span>
      ))}
      <IconButton
        label="New shot"
        className="!size-6"
        onClick={() => {
          const id = newId('shot');
          dispatch(addShot(shot.id, id));
          openShot(id);
        }}
      >
        <Plus size={14} />
      </IconButton>
      <IconButton
        label="Duplicate shot"
        className="!size-6"
        onClick={() => {
          const id = newId('shot');
          dispatch(duplicateShot(shot.id, id));
          openShot(id);
        }}
      >
        <CopyPlus size={13} />
      </IconButton>
      {several && (
        <>
          <IconButton
            label="Shot earlier"
            className="!size-6"
            disabled={index === 0}
            onClick={() => dispatch(moveShot(shot.id, index - 1))}
          >
            <ChevronLeft size={14} />
          </IconButton>
          <IconButton
            label="Shot later"
            className="!size-6"
            disabled={index === document.shots.length - 1}
            onClick={() => dispatch(moveShot(shot.id, index + 1))}
          >
            <ChevronRight size={14} />
          </IconButton>
          <IconButton
            label="Delete shot"
            className="!size-6"
            onClick={() => {
              dispatch(removeShot(shot.id));
              openShot(document.shots[index === 0 ? 1 : index - 1]!.id);
            }}
          >
            <Trash2 size={13} />
          </IconButton>
        </>
      )}
    </div>
  );
}
