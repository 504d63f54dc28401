import { Music } from 'lucide-react';
import { useMemo, type KeyboardEvent, type PointerEvent } from 'react';
import type { Document } from '../../../../core/document/document.ts';
import type { Sound } from '../../../../core/document/sound.ts';
import { changeSound, trimSoundEnd, trimSoundStart } from '../../../../core/edits/sound-edits.ts';
import { loudnessAt } from '../../../../core/sound/mix.ts';
import { useProject } from '../../../data/project.ts';
import { FileButton } from '../../../parts/file-button.tsx';
import { drag } from '../../../parts/zoom.ts';
import { peakRate } from '../../../workers/sound-messages.ts';
import { frameNow, useStage } from '../stage-state.ts';
import { TrackRow, type Track } from '../time/track.tsx';
import { soundFrom } from './add-sound.ts';
import { framesHeard, useSoundFacts } from './use-sound-facts.ts';

interface SoundRowsProps {
  document: Document;
  filmStart: number;
  track: Track;
}

/** What is heard under the shots, each with its waveform. */
export function SoundRows({ document, filmStart, track }: SoundRowsProps) {
  const { selection, select } = useStage();
  if (document.sounds.length === 0) return null;
  return (
    <div role="group" aria-label="Sound" className="mt-auto shrink-0 border-t border-line bg-paper">
      {document.sounds.map((sound) => (
        <TrackRow
          key={sound.id}
          name={sound.name}
          chosen={selection?.kind === 'sound' && selection.id === sound.id}
          onName={() => select({ kind: 'sound', id: sound.id })}
        >
          <SoundBar sound={sound} rate={document.frame.rate} filmStart={filmStart} track={track} />
        </TrackRow>
      ))}
    </div>
  );
}

/** Brings in a sound: the first lies under everything, later ones begin where the playhead is. */
export function AddSound({ document, filmStart }: Omit<SoundRowsProps, 'track'>) {
  const { dispatch } = useProject();
  const { select } = useStage();
  const add = async (file: File): Promise<void> => {
    const at = document.sounds.length === 0 ? 0 : (filmStart + frameNow()) / document.frame.rate;
    const { id, edit } = await soundFrom(file, at);
    dispatch(edit);
    select({ kind: 'sound', id });
  };
  return (
    <FileButton
      label="Sound"
      name="Add sound"
      accept="audio/*,.wav,.mp3,.m4a,.ogg,.flac"
      icon={<Music size={13} />}
      className="!h-6 !gap-1 !px-1.5 !text-[12px]"
      onFile={add}
    >
      Sound
    </FileButton>
  );
}

interface SoundBarProps {
  sound: Sound;
  rate: number;
  filmStart: number;
  track: Track;
}

function SoundBar({ sound, rate, filmStart, track }: SoundBarProps) {
  const { dispatch } = useProject();
  const { selection, select } = useStage();
  const facts = useSoundFacts(sound.file);
  const chosen = selection?.kind === 'sound' && selection.id === sound.id;
  const frameOf = (seconds: number): number => seconds * rate - filmStart;
  const [left, right] = [track.across(frameOf(sound.at)), track.across(frameOf(sound.at + sound.length))];
  const secondsAt = (clientX: number): number => (filmStart + track.frameAt(clientX)) / rate;
  const move = (event: PointerEvent): void => {
    if (event.button !== 0) return;
    event.stopPropagation();
    select({ kind: 'sound', id: sound.id });
    const [from, gesture] = [secondsAt(event.clientX), `sound ${sound.id} ${Date.now()}`];
    drag(event, (to) => {
      const at = Math.round((sound.at + secondsAt(to.clientX) - from) * rate) / rate;
      dispatch(changeSound(sound.id, { at }), gesture);
    });
  };
  const trim = (event: PointerEvent, side: 'start' | 'end'): void => {
    event.stopPropagation();
    select({ kind: 'sound', id: sound.id });
    const gesture = `trim ${sound.id} ${Date.now()}`;
    drag(event, (to) => {
      const seconds = secondsAt(to.clientX);
      dispatch(
        side === 'start' ? trimSoundStart(sound.id, seconds) : trimSoundEnd(sound.id, seconds + 1 / rate),
        gesture,
      );
    });
  };
  const nudge = (event: KeyboardEvent): void => {
    const way = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (!way) return;
    event.preventDefault();
    event.stopPropagation();
    const at = sound.at + (way * (event.shiftKey ? 10 : 1)) / rate;
    dispatch(changeSound(sound.id, { at }), `nudge ${sound.id}`);
  };
  // A sound much longer than its shot is far wider than the window: only what is seen of it is drawn.
  const seen = { from: Math.max(left, 0), to: Math.min(right, track.width) };
  const ticks = (times: readonly number[]): number[] =>
    framesHeard(sound, times, rate, filmStart)
      .map(track.across)
      .filter((x) => x >= seen.from && x <= seen.to)
      .map((x) => x - seen.from);
  const colour = sound.muted ? 'text-ink-2/40' : 'text-dusk';
  return (
    <div
      role="group"
      tabIndex={0}
      aria-label={`${sound.name} from ${sound.at.toFixed(2)} s for ${sound.length.toFixed(2)} s`}
      data-sound={sound.id}
      onPointerDown={move}
      onKeyDown={nudge}
      className={`absolute top-0.5 bottom-0.5 cursor-grab touch-none overflow-hidden rounded-md border ${colour} ${chosen ? 'border-pine bg-dusk/25' : 'border-line bg-dusk/10'}`}
      style={{ left, width: Math.max(4, right - left) }}
    >
      {facts.data && seen.to > seen.from && (
        <svg
          className="pointer-events-none absolute inset-y-0 h-full"
          style={{ left: seen.from - left, width: seen.to - seen.from }}
          aria-hidden
          data-beats={facts.data.beats.length}
        >
          <Waveform
            sound={sound}
            peaks={facts.data.peaks}
            width={seen.to - seen.from}
            first={((seen.from - left) / (right - left)) * sound.length}
            end={((seen.to - left) / (right - left)) * sound.length}
          />
          <path
            d={ticks(facts.data.starts)
              .map((x) => `M${x.toFixed(1)} 15V20`)
              .join('')}
            stroke="#1c2a30"
            opacity={0.5}
          />
          <path
            d={ticks(facts.data.beats)
              .map((x) => `M${x.toFixed(1)} 0V6`)
              .join('')}
            stroke="#d99a00"
            strokeWidth={1.5}
          />
        </svg>
      )}
      {facts.isPending && <span className="pl-3 text-[11px] leading-5 text-ink-2">Listening to it</span>}
      {(['start', 'end'] as const).map((side) => (
        <span
          key={side}
          title={side === 'start' ? 'Start' : 'End'}
          onPointerDown={(event) => trim(event, side)}
          className={`absolute inset-y-0 w-2 cursor-ew-resize border-pine/60 ${side === 'start' ? 'left-0 border-l-2' : 'right-0 border-r-2'}`}
        />
      ))}
    </div>
  );
}

interface WaveformProps {
  sound: Sound;
  peaks: Float32Array;
  width: number;
  /** From which second of the bar to which it is drawn. */
  first: number;
  end: number;
}

/** How loud it is, with its level and fades, mirrored about the middle. */
function Waveform({ sound, peaks, width, first, end }: WaveformProps) {
  const { from, length, level, fadeIn, fadeOut } = sound;
  const path = useMemo(() => {
    const count = Math.max(2, Math.round(width));
    const secondAt = (k: number): number => first + (k / count) * (end - first);
    const heights = Array.from({ length: count }, (_, k) => {
      const most = highestOf(peaks, from + secondAt(k), from + secondAt(k + 1));
      const loud = loudnessAt({ level, length, fadeIn, fadeOut }, secondAt(k));
      // What is quiet is still seen.
      return Math.min(9, 9 * Math.sqrt(most * loud));
    });
    const x = (k: number): string => ((k * width) / count).toFixed(1);
    const over = heights.map((h, k) => `${x(k)} ${(10 - h).toFixed(1)}`);
    const under = heights.map((h, k) => `${x(k)} ${(10 + h).toFixed(1)}`).reverse();
    return `M${[...over, ...under].join('L')}Z`;
  }, [peaks, width, first, end, from, length, level, fadeIn, fadeOut]);
  return <path d={path} fill="currentColor" opacity={0.6} />;
}

/** The highest peak between two seconds of a file; one at least is looked at. */
function highestOf(peaks: Float32Array, from: number, to: number): number {
  const first = Math.floor(from * peakRate);
  let most = 0;
  for (let n = first; n < Math.max(first + 1, Math.floor(to * peakRate)); n++) most = Math.max(most, peaks[n] ?? 0);
  return most;
}
