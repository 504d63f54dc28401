import {
  ChevronFirst,
  ChevronLast,
  ClipboardPaste,
  Copy,
  FlipHorizontal,
  Flag,
  Pause,
  Play,
  Repeat,
  StepBack,
  StepForward,
  Volume2,
  VolumeX,
} from 'lucide-react';
import type { Document } from '../../../../core/document/document.ts';
import { copiedKeys, keyFramesOf, mirrorKeys, pasteKeys } from '../../../../core/edits/key-edits.ts';
import { setMarkers } from '../../../../core/edits/shot-edits.ts';
import type { Shot } from '../../../../core/document/shot.ts';
import { useProject } from '../../../data/project.ts';
import { IconButton } from '../../../parts/button.tsx';
import { ChoiceBar } from '../../../parts/choices.tsx';
import { frameNow, selectedLayers, useFrameNow, useStage, type TimelineMode } from '../stage-state.ts';
import { BareCheck } from './bare-check.tsx';

interface TransportProps {
  document: Document;
  shot: Shot;
  bare: number[];
}

const modes: { id: TimelineMode; name: string }[] = [
  { id: 'keys', name: 'Keys' },
  { id: 'bars', name: 'Bars' },
  { id: 'graph', name: 'Graph' },
];

/** Play, go from key to key, what can be done with chosen keys, and the bare check. */
export function Transport({ document, shot, bare }: TransportProps) {
  const { frame, playing, loop, setPlaying, setLoop, setFrame, keys, copied, selection, timeline, selectKeys, heard } =
    useStage();
  const { dispatch } = useProject();
  const { rate } = document.frame;
  const layers = selectedLayers(shot, selection);
  const stops = [...new Set([...layers.flatMap(keyFramesOf), ...shot.markers.map((m) => m.frame)])].sort(
    (a, b) => a - b,
  );
  const before = (at: number): number | undefined => stops.filter((f) => f < at).at(-1);
  const after = (at: number): number | undefined => stops.find((f) => f > at);
  const go = (to: number | undefined): void => {
    if (to === undefined) return;
    setPlaying(false);
    setFrame(to);
  };
  return (
    <div className="flex h-10 shrink-0 items-center gap-1 border-b border-line px-2">
      <IconButton label="First frame" shortcut="Home" onClick={() => go(0)}>
        <ChevronFirst size={16} />
      </IconButton>
      <IconButton
        label="Previous keyframe"
        shortcut="Shift ,"
        disabled={!playing && before(frame) === undefined}
        onClick={() => go(before(frameNow()))}
      >
        <StepBack size={14} />
      </IconButton>
      <IconButton
        label={playing ? 'Stop' : 'Play'}
        shortcut="Space"
        onClick={() => setPlaying(!playing)}
        className="!size-8"
      >
        {playing ? <Pause size={17} /> : <Play size={17} />}
      </IconButton>
      <IconButton
        label="Next keyframe"
        shortcut="Shift ."
        disabled={!playing && after(frame) === undefined}
        onClick={() => go(after(frameNow()))}
      >
        <StepForward size={14} />
      </IconButton>
      <IconButton label="Last frame" shortcut="End" onClick={() => go(shot.length - 1)}>
        <ChevronLast size={16} />
      </IconButton>
      <IconButton label="Loop" pressed={loop} onClick={() => setLoop(!loop)}>
        <Repeat size={15} />
      </IconButton>
      {document.sounds.length > 0 && (
        <IconButton
          label={heard ? 'Play without sound' : 'Play with sound'}
          onClick={() => useStage.setState({ heard: !heard })}
        >
          {heard ? <Volume2 size={15} /> : <VolumeX size={15} />}
        </IconButton>
      )}
      <Clock rate={rate} length={shot.length} />
      <span className="mx-1 h-5 w-px bg-line" aria-hidden />
      <ChoiceBar
        label="Timeline shows"
        hint="what the rows show"
        choices={modes}
        chosen={timeline}
        onChoose={(mode) => useStage.setState({ timeline: mode })}
      />
      <IconButton
        label="Copy keyframes"
        shortcut="Ctrl C"
        disabled={keys.length === 0}
        onClick={() => useStage.setState({ copied: copiedKeys(shot, keys) })}
      >
        <Copy size={14} />
      </IconButton>
      <IconButton
        label="Paste keyframes at the playhead"
        shortcut="Ctrl V"
        disabled={copied.length === 0}
        onClick={() =>
          dispatch(
            pasteKeys(
              shot.id,
              copied,
              layers.map((l) => l.id),
              frameNow(),
            ),
          )
        }
      >
        <ClipboardPaste size={14} />
      </IconButton>
      <IconButton
        label="Mirror keyframes in time"
        disabled={keys.length < 2}
        onClick={() => {
          dispatch(mirrorKeys(shot.id, keys));
          selectKeys([]);
        }}
      >
        <FlipHorizontal size={14} />
      </IconButton>
      <IconButton
        label="Marker here"
        shortcut="M"
        onClick={() =>
          dispatch(setMarkers(shot.id, [...shot.markers, { frame: frameNow(), name: String(shot.markers.length + 1) }]))
        }
      >
        <Flag size={14} />
      </IconButton>
      <BareCheck document={document} shot={shot} bare={bare} />
    </div>
  );
}

/** Time and frame at the playhead. */
function Clock({ rate, length }: { rate: number; length: number }) {
  const frame = useFrameNow();
  const time = (f: number): string => (f / rate).toFixed(2).padStart(5, '0');
  return (
    <output
      // A place of its own of a fixed size: what changes with every frame moves and repaints nothing else.
      className="h-[18px] font-mono text-[12px] leading-[18px] whitespace-nowrap will-change-transform [contain:strict]"
      style={{ width: `${2 * time(length).length + String(length).length + 13}ch` }}
      aria-label="Playhead"
      data-testid="playhead"
    >
      {time(frame)} <span className="text-ink-2">/ {time(length)} s</span>{' '}
      <span className="ml-1 text-ink-2">frame</span> {frame}
    </output>
  );
}
