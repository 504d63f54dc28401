import type { Document } from '../../../../core/document/document.ts';
import { setFrameRate, setShotLength } from '../../../../core/edits/project-edits.ts';
import { renameShot, setMotionBlur, setTransition } from '../../../../core/edits/shot-edits.ts';
import { transitions, type Shot } from '../../../../core/document/shot.ts';
import { useProject } from '../../../data/project.ts';
import { NameField } from '../../../parts/name-field.tsx';
import { NumberField } from '../../../parts/number-field.tsx';
import { SmallSelect } from '../../../parts/small-select.tsx';
import { useStage } from '../stage-state.ts';
import { transitionNames } from './transition-names.ts';
import { PoseList } from './poses.tsx';
import { Section } from './section.tsx';

/** The shot as a whole: how long it is, what it goes over into, and its poses. */
export function ShotCard({ document, shot }: { document: Document; shot: Shot }) {
  const { dispatch } = useProject();
  const { light } = useStage();
  const { rate } = document.frame;
  const last = document.shots.at(-1) === shot;
  return (
    <>
      <NameField
        label="Shot name"
        value={shot.name}
        onChange={(name) => dispatch(renameShot(shot.id, name))}
        className="mb-1 -ml-1.5 w-full font-semibold"
      />
      <NumberField
        label="Length"
        unit="s"
        digits={2}
        step={0.5}
        min={1 / rate}
        max={120}
        value={shot.length / rate}
        onChange={(v) => dispatch(setShotLength(shot.id, v * rate))}
      />
      <NumberField
        label="Frames per second"
        digits={2}
        min={1}
        max={120}
        value={rate}
        onChange={(v) => dispatch(setFrameRate(v))}
      />
      {!last && (
        <>
          <SmallSelect
            label="Into the next shot"
            value={shot.transition.kind}
            options={transitions.map((value) => ({ value, name: transitionNames[value].toLowerCase() }))}
            onChange={(kind) => dispatch(setTransition(shot.id, { kind }))}
          />
          {shot.transition.kind !== 'cut' && (
            <NumberField
              label="Duration"
              unit="s"
              digits={2}
              step={0.1}
              min={1 / rate}
              max={20}
              value={shot.transition.frames / rate}
              onChange={(v) => dispatch(setTransition(shot.id, { frames: Math.max(1, Math.round(v * rate)) }))}
            />
          )}
          {shot.transition.kind === 'wipe' && (
            <NumberField
              label="Direction"
              unit="°"
              value={shot.transition.angle}
              onChange={(angle) => dispatch(setTransition(shot.id, { angle }))}
            />
          )}
        </>
      )}
      <MotionBlurSection shot={shot} />
      <Section name="Poses" note={shot.poses.length > 0 ? String(shot.poses.length) : null}>
        <PoseList document={document} shot={shot} />
      </Section>
      <p className="mt-3 text-[12px] text-ink-2">
        {light
          ? 'Heavy effects are left out while you work; exports have them.'
          : 'Select a layer on the rack or in the view to place it, or the lens to frame the move.'}
      </p>
    </>
  );
}

/** Things are smeared by how far they move while the shutter is open. */
function MotionBlurSection({ shot }: { shot: Shot }) {
  const { dispatch } = useProject();
  const { motionBlur } = shot;
  const samples = motionBlur?.samples ?? 8;
  return (
    <Section name="Motion blur" note={motionBlur ? `${motionBlur.angle}°` : null}>
      <NumberField
        label="Shutter angle"
        unit="°"
        min={0}
        max={720}
        value={motionBlur?.angle ?? 0}
        onChange={(angle) => dispatch(setMotionBlur(shot.id, angle >= 1 ? { angle, samples } : null))}
      />
      <NumberField
        label="Samples"
        min={2}
        max={32}
        value={samples}
        disabled={!motionBlur}
        onChange={(v) => dispatch(setMotionBlur(shot.id, { angle: motionBlur!.angle, samples: Math.round(v) }))}
      />
      {motionBlur && (
        <p className="text-[12px] text-ink-2">Each layer can leave it out under Look. What rests costs nothing.</p>
      )}
    </Section>
  );
}
