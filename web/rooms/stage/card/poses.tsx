import { Camera, Trash2 } from 'lucide-react';
import type { Document } from '../../../../core/document/document.ts';
import { changePose, matchLayers, moveList, removePose, storePose } from '../../../../core/edits/pose-edits.ts';
import type { Pose, Shot } from '../../../../core/document/shot.ts';
import { newId, useProject } from '../../../data/project.ts';
import { Button, IconButton } from '../../../parts/button.tsx';
import { NameField } from '../../../parts/name-field.tsx';
import { NumberField } from '../../../parts/number-field.tsx';
import { frameNow, useStage } from '../stage-state.ts';
import { EasingChoice } from './easing-choice.tsx';

/** Stored arrangements of a shot; between them it says what will travel, appear and disappear. */
export function PoseList({ document, shot }: { document: Document; shot: Shot }) {
  const { dispatch } = useProject();
  const { frame, setFrame } = useStage();
  const here = shot.poses.find((pose) => pose.frame === frame);
  return (
    <div className="flex flex-col gap-1.5">
      {shot.poses.map((pose, k) => (
        <div key={pose.id}>
          <PoseRow document={document} shot={shot} pose={pose} onGo={() => setFrame(pose.frame)} here={pose === here} />
          {shot.poses[k + 1] && <MoveWords shot={shot} from={pose} to={shot.poses[k + 1]!} />}
        </div>
      ))}
      <Button
        icon={<Camera size={14} />}
        title="Stores how all layers that are shown are arranged at the playhead"
        onClick={() => dispatch(storePose(shot.id, newId('pose'), frameNow()))}
      >
        {here ? `Update ${here.name}` : 'Store a pose here'}
      </Button>
      {shot.poses.length === 1 && (
        <p className="text-[12px] text-ink-2">
          Go to a later frame, arrange again, hide what is not in it, and store the next pose.
        </p>
      )}
    </div>
  );
}

interface PoseRowProps {
  document: Document;
  shot: Shot;
  pose: Pose;
  here: boolean;
  onGo(): void;
}

function PoseRow({ document, shot, pose, here, onGo }: PoseRowProps) {
  const { dispatch } = useProject();
  const { rate } = document.frame;
  return (
    <div className={`rounded-md border p-1.5 ${here ? 'border-pine bg-white' : 'border-line'}`} data-pose={pose.name}>
      <div className="flex items-center gap-1">
        <NameField
          label="Pose name"
          value={pose.name}
          onChange={(name) => name.trim() && dispatch(changePose(shot.id, pose.id, { name: name.trim() }))}
          className="min-w-0 flex-1 text-[13px]"
        />
        <Button look="quiet" className="!h-7 !px-2" onClick={onGo}>
          Go there
        </Button>
        <IconButton label={`Delete ${pose.name}`} onClick={() => dispatch(removePose(shot.id, pose.id))}>
          <Trash2 size={13} />
        </IconButton>
      </div>
      <NumberField
        label="At"
        unit="s"
        digits={2}
        step={0.1}
        min={0}
        max={shot.length / rate}
        value={pose.frame / rate}
        onChange={(v) => dispatch(changePose(shot.id, pose.id, { frame: Math.round(v * rate) }))}
      />
      <NumberField
        label="Hold"
        unit="s"
        digits={2}
        step={0.1}
        min={0}
        max={shot.length / rate}
        value={pose.hold / rate}
        onChange={(v) => dispatch(changePose(shot.id, pose.id, { hold: Math.round(v * rate) }))}
      />
      <EasingChoice value={pose.easing} onChange={(easing) => dispatch(changePose(shot.id, pose.id, { easing }))} />
    </div>
  );
}

function MoveWords({ shot, from, to }: { shot: Shot; from: Pose; to: Pose }) {
  const { dispatch } = useProject();
  const list = moveList(from, to);
  const name = (id: string): string => shot.layers.find((layer) => layer.id === id)?.name ?? 'a deleted layer';
  const line = (word: string, ids: string[]) =>
    ids.length > 0 && (
      <li>
        <span className="text-ink-2">{word}</span> {ids.map(name).join(', ')}
      </li>
    );
  return (
    <div className="my-1 border-l-2 border-pine/40 pl-2 text-[12px]" data-testid="move-list">
      <ul>
        {line('travels:', list.travels)}
        {list.becomes.map(({ layer, next }) => (
          <li key={layer}>
            <span className="text-ink-2">becomes:</span> {name(layer)} → {name(next)}{' '}
            <button
              type="button"
              className="text-dusk underline"
              onClick={() => dispatch(matchLayers(shot.id, from.id, layer, null))}
            >
              Unlink
            </button>
          </li>
        ))}
        {line('appears:', list.appears)}
        {line('disappears:', list.disappears)}
        {line('stays:', list.stays)}
      </ul>
      {list.disappears.length > 0 && list.appears.length > 0 && (
        <label className="flex items-center gap-1">
          <span className="text-ink-2">Match</span>
          <select
            aria-label={`Match a layer of ${from.name} with one of ${to.name}`}
            className="min-w-0 flex-1 rounded-md border border-line bg-white px-1 py-0.5"
            value=""
            onChange={(event) => {
              const [layer, next] = event.target.value.split('/') as [string, string];
              dispatch(matchLayers(shot.id, from.id, layer, next));
            }}
          >
            <option value="">choose two</option>
            {list.disappears.flatMap((a) =>
              list.appears.map((b) => (
                <option key={`${a}/${b}`} value={`${a}/${b}`}>
                  {name(a)} → {name(b)}
                </option>
              )),
            )}
          </select>
        </label>
      )}
    </div>
  );
}
