import type { Layer } from '../../../../core/document/layer.ts';
import type { Track } from './track.tsx';

interface ClipMarksProps {
  layer: Layer;
  /** Where the bar begins, and from where places on it are counted. */
  left: number;
  across: Track['across'];
  rate: number;
}

/** On the bar of a clip that runs by keyframes: where it is held, runs back, and how fast it is. */
export function ClipMarks({ layer, left, across, rate }: ClipMarksProps) {
  if (!layer.clipTime || !('keys' in layer.clipTime)) return null;
  const { keys } = layer.clipTime;
  return keys.slice(1).map((key, k) => {
    const from = keys[k]!;
    const change = key.value - from.value;
    const speed = (change * rate) / (key.frame - from.frame);
    const held = Math.abs(change) < 1e-6;
    const says = held ? 'held' : `${Math.round(Math.abs(speed) * 100)} %${speed < 0 ? ' back' : ''}`;
    return (
      <span
        key={from.frame}
        data-clip-mark={says}
        title={says}
        className={`pointer-events-none absolute bottom-0.5 flex h-3 items-center justify-center overflow-hidden rounded-sm font-mono text-[9px] leading-none whitespace-nowrap ${held ? 'bg-ink/15 text-ink' : 'text-ink-2'}`}
        style={{ left: across(from.frame) - left + 4, width: across(key.frame) - across(from.frame) }}
      >
        {held ? '▮▮' : `${speed < 0 ? '◂ ' : ''}${Math.round(Math.abs(speed) * 100)} %`}
      </span>
    );
  });
}
