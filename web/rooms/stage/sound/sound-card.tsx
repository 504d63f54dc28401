import { Flag, Trash2 } from 'lucide-react';
import type { Document } from '../../../../core/document/document.ts';
import type { Shot } from '../../../../core/document/shot.ts';
import type { Sound } from '../../../../core/document/sound.ts';
import { setMarkers } from '../../../../core/edits/shot-edits.ts';
import { changeSound, removeSound } from '../../../../core/edits/sound-edits.ts';
import { filmStartOf } from '../../../../core/scene/sequence.ts';
import { useProject } from '../../../data/project.ts';
import { Button, IconButton } from '../../../parts/button.tsx';
import { NameField } from '../../../parts/name-field.tsx';
import { NumberField } from '../../../parts/number-field.tsx';
import { SwitchRow } from '../../../parts/switch-row.tsx';
import { useStage } from '../stage-state.ts';
import { framesHeard, useSoundFacts } from './use-sound-facts.ts';

/** A sound under the shots: when and how loud it is heard. */
export function SoundCard({ document, shot, sound }: { document: Document; shot: Shot; sound: Sound }) {
  const { dispatch } = useProject();
  const { select } = useStage();
  const facts = useSoundFacts(sound.file);
  const { rate } = document.frame;
  const set = (change: Parameters<typeof changeSound>[1]): void => dispatch(changeSound(sound.id, change));
  const filmStart = filmStartOf(document, shot.id);
  const beats = framesHeard(sound, facts.data?.beats ?? [], rate, filmStart)
    .map(Math.round)
    .filter((frame) => frame >= 0 && frame < shot.length && !shot.markers.some((marker) => marker.frame === frame));
  const seconds = (label: string, value: number, least: number, most: number, change: (v: number) => void) => (
    <NumberField label={label} unit="s" digits={2} step={0.1} min={least} max={most} value={value} onChange={change} />
  );
  const { at, from, length, fadeIn, fadeOut, level, muted } = sound;
  return (
    <>
      <div className="mb-1 flex items-center">
        <NameField
          label="Sound name"
          value={sound.name}
          onChange={(name) => set({ name })}
          className="-ml-1.5 min-w-0 flex-1 font-semibold"
        />
        <IconButton
          label="Delete sound"
          shortcut="Del"
          onClick={() => {
            dispatch(removeSound(sound.id));
            select(null);
          }}
        >
          <Trash2 size={15} className="text-brick" />
        </IconButton>
      </div>
      {seconds('Start', at, -sound.seconds, 3600, (v) => set({ at: v }))}
      {seconds('From, in the file', from, 0, sound.seconds, (v) => set({ from: v, length: length + from - v }))}
      {seconds('Duration', length, 0.05, sound.seconds - from, (v) => set({ length: v }))}
      <NumberField
        label="Level"
        unit="%"
        min={0}
        max={400}
        value={level * 100}
        onChange={(v) => set({ level: v / 100 })}
      />
      {seconds('Fade in', fadeIn, 0, length, (v) => set({ fadeIn: v }))}
      {seconds('Fade out', fadeOut, 0, length, (v) => set({ fadeOut: v }))}
      <SwitchRow label="Muted" on={muted} onChange={(on) => set({ muted: on })} />
      <p className="mt-3 text-[12px] text-ink-2">
        {facts.isPending && 'Listening to it.'}
        {facts.isError && facts.error.message}
        {facts.data &&
          (facts.data.tempo
            ? `${Math.round(facts.data.tempo)} beats a minute (yellow), ${facts.data.starts.length} loud starts. Keyframes catch them while they are dragged.`
            : `No steady beat, ${facts.data.starts.length} loud starts. Keyframes catch them while they are dragged.`)}
      </p>
      {beats.length > 0 && (
        <Button
          className="mt-2"
          icon={<Flag size={14} />}
          onClick={() => {
            const added = beats.map((frame, k) => ({ frame, name: String(shot.markers.length + k + 1) }));
            dispatch(setMarkers(shot.id, [...shot.markers, ...added]));
          }}
        >
          Markers on {beats.length} beats
        </Button>
      )}
    </>
  );
}
