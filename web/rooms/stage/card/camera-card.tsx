import { ArrowLeftRight, Clapperboard } from 'lucide-react';
import { useState } from 'react';
import { valueAt } from '../../../../core/motion/property.ts';
import {
  setCamera,
  setCameraEasing,
  setFocus,
  setFocusKey,
  setFraming,
  swapFramings,
} from '../../../../core/edits/camera-edits.ts';
import {
  framedPlane,
  framingSettings,
  lensSettings,
  shakeSettings,
} from '../../../../core/document/camera-settings.ts';
import type { Document } from '../../../../core/document/document.ts';
import { layerSettings } from '../../../../core/document/layer-settings.ts';
import type { Framing, Shot } from '../../../../core/document/shot.ts';
import { useProject } from '../../../data/project.ts';
import { Button, IconButton } from '../../../parts/button.tsx';
import { Slider } from '../../../parts/slider.tsx';
import { SwitchRow } from '../../../parts/switch-row.tsx';
import { EasingChoice } from './easing-choice.tsx';
import { JitterFields } from './jitter-fields.tsx';
import { MoveSheet } from './move-sheet.tsx';
import { PlainFields } from './plain-fields.tsx';
import { KeyTab } from './property-field.tsx';
import { Section } from './section.tsx';
import { SettingField } from './setting-field.tsx';

/** The lens: its Framings, how near and far move, what is sharp, how steady it is held. */
export function CameraCard({ document, shot, frame }: { document: Document; shot: Shot; frame: number }) {
  const { dispatch } = useProject();
  const { camera } = shot;
  const [choosing, setChoosing] = useState(false);
  return (
    <>
      <h2 className="mb-1 font-semibold">Lens</h2>
      <Button className="mb-1 w-full" icon={<Clapperboard size={14} />} onClick={() => setChoosing(true)}>
        Moves to start from
      </Button>
      {choosing && <MoveSheet document={document} shot={shot} onClose={() => setChoosing(false)} />}
      <FramingFields shot={shot} which="first" />
      <FramingFields shot={shot} which="last" />
      <section className="border-t border-line py-1.5">
        <EasingChoice value={camera.easing} onChange={(next) => dispatch(setCameraEasing(shot.id, next))} />
        <SwitchRow
          label="There and back"
          hint="At its last Framing in the middle of the shot, and back from there: a loop has no seam then"
          on={camera.returns}
          onChange={(returns) => dispatch(setCamera('Change camera return', shot.id, { returns }))}
        />
        <PlainFields
          settings={framedPlane}
          values={camera}
          onChange={(change) => dispatch(setCamera('Change framed plane', shot.id, change))}
        />
        <Button
          className="mt-1 w-full"
          icon={<ArrowLeftRight size={14} />}
          onClick={() => dispatch(swapFramings(shot.id))}
        >
          Swap first and last
        </Button>
      </section>
      <section className="flex flex-col gap-1 border-t border-line py-2">
        <h3 className="text-[13px] font-semibold text-pine">Near and far</h3>
        <Slider
          label="Parallax"
          name="How differently near and far move"
          min={-100}
          max={400}
          value={Math.round(camera.parallax * 100)}
          shown={`${Math.round(camera.parallax * 100)} %`}
          onChange={(v) => dispatch(setCamera('Change parallax', shot.id, { parallax: v / 100 }), 'parallax')}
        />
        <Slider
          label="Counter-move"
          name="How far near and far go opposite ways"
          min={0}
          max={100}
          value={Math.round(camera.hold * 100)}
          shown={`${Math.round(camera.hold * 100)} %`}
          onChange={(v) => dispatch(setCamera('Change opposite move', shot.id, { hold: v / 100 }), 'hold')}
        />
      </section>
      <Focus shot={shot} frame={frame} />
      <Shake shot={shot} rate={document.frame.rate} />
    </>
  );
}

function FramingFields({ shot, which }: { shot: Shot; which: 'first' | 'last' }) {
  const { dispatch } = useProject();
  const framing = shot.camera[which];
  const change = (part: Partial<Framing>): void => dispatch(setFraming(shot.id, which, { ...framing, ...part }));
  return (
    <section className="mb-1 border-t border-line pt-1.5">
      <h3 className="text-[13px] font-semibold text-pine">
        {which === 'first' ? 'First frame' : shot.camera.returns ? 'Middle frame' : 'Last frame'}
      </h3>
      <PlainFields settings={framingSettings} values={framing} onChange={change} />
    </section>
  );
}

function Focus({ shot, frame }: { shot: Shot; frame: number }) {
  const { dispatch } = useProject();
  const { focus, aperture } = shot.camera;
  const keys = 'keys' in focus ? focus.keys : [];
  const there = keys.some((key) => key.frame === frame);
  const value = valueAt(focus, frame);
  return (
    <Section name="Depth of field" note={aperture > 0 ? `${aperture} px` : null}>
      <PlainFields
        settings={lensSettings}
        values={shot.camera}
        besideMarks
        onChange={(change) => dispatch(setCamera('Change aperture', shot.id, change))}
      />
      <SettingField
        setting={{ ...layerSettings.depth, name: 'Focus distance' }}
        value={value}
        disabled={aperture === 0}
        onChange={(v) => dispatch(setFocus(shot.id, frame, v as number))}
        after={
          <IconButton
            label={there ? 'Delete Focus keyframe here' : 'Focus keyframe here'}
            pressed={there}
            disabled={aperture === 0}
            className="!size-6"
            onClick={() => dispatch(setFocusKey(shot.id, frame, there ? null : value))}
          >
            <KeyTab filled={there} animated={keys.length > 0} />
          </IconButton>
        }
      />
    </Section>
  );
}

function Shake({ shot, rate }: { shot: Shot; rate: number }) {
  const { dispatch } = useProject();
  const { shake } = shot.camera;
  const now = shake ?? { amount: 0, period: rate / 4, seed: 1, roll: 0 };
  const set = (part: Partial<typeof now>): void => {
    const next = { ...now, ...part };
    const still = next.amount === 0 && next.roll === 0;
    dispatch(setCamera('Change shake', shot.id, { shake: still ? null : next }));
  };
  return (
    <Section name="Shake" note={shake ? `${shake.amount} px` : null}>
      <PlainFields settings={shakeSettings} values={now} onChange={set} />
      <JitterFields jitter={now} rate={rate} onChange={set} />
    </Section>
  );
}
