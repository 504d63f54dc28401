import { ChevronDown, ChevronRight, CopyPlus, Eye, EyeOff, GripVertical, Trash2 } from 'lucide-react';
import { useState, type DragEvent, type KeyboardEvent } from 'react';
import { duplicateFinish, moveFinish, removeFinish, setFinish } from '../../../../core/edits/finish-edits.ts';
import { setProperty } from '../../../../core/edits/layer-edits.ts';
import type { Finish } from '../../../../core/document/finish-list.ts';
import { finishPath } from '../../../../core/document/properties.ts';
import { finishKind } from '../../../../core/finish/finishes.ts';
import { askedOf, isKeyed, valuesAt } from '../../../../core/settings/setting.ts';
import { heldFrame } from '../../../../core/scene/values.ts';
import { newId, useProject } from '../../../data/project.ts';
import { IconButton } from '../../../parts/button.tsx';
import type { LayerPart } from '../card/place.tsx';
import { KeyToggle } from '../card/property-field.tsx';
import { CurveFields } from './curve-fields.tsx';
import { SettingField } from '../card/setting-field.tsx';

interface FinishCardProps extends LayerPart {
  finish: Finish;
  index: number;
}

/** One finish of a layer: its fields, and its place in the order. */
export function FinishCard({ document, shot, layer, frame, finish, index }: FinishCardProps) {
  const { dispatch } = useProject();
  const [open, setOpen] = useState(true);
  const [over, setOver] = useState(false);
  const kind = finishKind(finish.kind);
  if (!kind) return null;
  const values = valuesAt(kind.settings, finish.settings, heldFrame(layer, frame));
  const shown = askedOf(kind.settings, values);
  const move = (to: number): void => dispatch(moveFinish(shot.id, layer.id, finish.id, to));
  const change = (key: string, value: unknown, gesture?: string): void => {
    const joined = gesture && `${finish.id} ${key} ${gesture}`;
    if (isKeyed(kind.settings[key]!))
      dispatch(setProperty(shot.id, layer.id, finishPath(finish.id, key), frame, value as number), joined);
    else dispatch(setFinish(shot.id, layer.id, finish.id, { settings: { [key]: value as string } }), joined);
  };
  const drop = (event: DragEvent): void => {
    event.preventDefault();
    setOver(false);
    const moved = event.dataTransfer.getData('text/finish');
    if (moved) dispatch(moveFinish(shot.id, layer.id, moved, index));
  };
  const onKey = (event: KeyboardEvent): void => {
    if (event.key !== 'ArrowUp' && event.key !== 'ArrowDown') return;
    event.preventDefault();
    event.stopPropagation();
    move(index + (event.key === 'ArrowUp' ? -1 : 1));
  };
  return (
    <li
      className={`rounded-md border bg-white/60 ${over ? 'border-saffron' : 'border-line'} ${finish.muted ? 'opacity-60' : ''}`}
      aria-label={kind.name}
      onDragOver={(event) => {
        if (!event.dataTransfer.types.includes('text/finish')) return;
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
    >
      <div className="flex h-7 items-center">
        <span
          role="button"
          tabIndex={0}
          draggable={!layer.locked}
          aria-label={`Move ${kind.name} (arrow keys)`}
          title="Drag to another place in the order, or press the arrow keys"
          className="cursor-grab px-0.5 text-ink-2"
          onKeyDown={onKey}
          onDragStart={(event) => event.dataTransfer.setData('text/finish', finish.id)}
        >
          <GripVertical size={14} />
        </span>
        <button
          type="button"
          aria-expanded={open}
          className="flex min-w-0 flex-1 items-center gap-0.5 text-left text-[13px] font-medium"
          title={kind.purpose}
          onClick={() => setOpen(!open)}
        >
          {open ? <ChevronDown size={13} /> : <ChevronRight size={13} />}
          <span className="truncate">{kind.name}</span>
        </button>
        <IconButton
          label={finish.muted ? `Use ${kind.name}` : `Mute ${kind.name}`}
          className="!size-6"
          disabled={layer.locked}
          onClick={() => dispatch(setFinish(shot.id, layer.id, finish.id, { muted: !finish.muted }))}
        >
          {finish.muted ? <EyeOff size={13} /> : <Eye size={13} />}
        </IconButton>
        <IconButton
          label={`Duplicate ${kind.name}`}
          className="!size-6"
          disabled={layer.locked}
          onClick={() => dispatch(duplicateFinish(shot.id, layer.id, finish.id, newId('finish')))}
        >
          <CopyPlus size={13} />
        </IconButton>
        <IconButton
          label={`Delete ${kind.name}`}
          className="!size-6"
          disabled={layer.locked}
          onClick={() => dispatch(removeFinish(shot.id, layer.id, finish.id))}
        >
          <Trash2 size={13} className="text-brick" />
        </IconButton>
      </div>
      {open && (
        <div className="flex flex-col gap-0.5 px-1 pb-1">
          <CurveFields document={document} layer={layer} kind={kind} values={values} onChange={change} />
          {shown.map(([key, setting]) => (
            <SettingField
              key={key}
              setting={setting}
              value={values[key]}
              disabled={layer.locked}
              onChange={(value, gesture) => change(key, value, gesture)}
              after={
                isKeyed(setting) ? (
                  <KeyToggle shot={shot} layer={layer} property={finishPath(finish.id, key)} frame={frame} />
                ) : undefined
              }
            />
          ))}
        </div>
      )}
    </li>
  );
}
