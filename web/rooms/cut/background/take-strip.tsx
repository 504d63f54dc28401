import { Check, Plus } from 'lucide-react';
import { useEffect, useRef } from 'react';
import type { PlateStep, PlateTake } from '../../../../core/document/plate.ts';
import { fileUrl } from '../../../data/api.ts';
import type { LiveTake } from './plate-session.ts';

interface TakeStripProps {
  step: Exclude<PlateStep, { kind: 'retouch' }> | null;
  live: LiveTake[];
  busy: boolean;
  onChoose(seed: number): void;
  onMore(): void;
  mixing: number | null;
  onMix(seed: number | null): void;
}

/** The takes of a step side by side: those that are kept, and those that are coming in. */
export function TakeStrip({ step, live, busy, onChoose, onMore, mixing, onMix }: TakeStripProps) {
  const kept = step?.takes ?? [];
  const coming = live.filter((take) => !kept.some((k) => k.seed === take.seed));
  if (kept.length + coming.length === 0 && !step) return null;
  return (
    <div
      className="flex h-32 shrink-0 items-stretch gap-2 overflow-x-auto border-t border-line px-3 py-2"
      aria-label="Takes"
      role="radiogroup"
    >
      {kept.map((take, k) => (
        <KeptTake
          key={take.seed}
          take={take}
          number={k + 1}
          chosen={step?.seed === take.seed}
          mixing={mixing === take.seed}
          busy={busy}
          onChoose={onChoose}
          onMix={onMix}
        />
      ))}
      {coming.map((take, k) => (
        <ComingTake key={take.seed} take={take} number={kept.length + k + 1} />
      ))}
      {step && (
        <button
          type="button"
          disabled={busy}
          onClick={onMore}
          title="Four more takes; those there are stay"
          className="flex w-20 shrink-0 flex-col items-center justify-center gap-1 rounded-md border border-dashed border-ink-2/50 text-[12px] text-ink-2 hover:bg-paper-2 disabled:opacity-45"
        >
          <Plus size={16} />
          {kept.length > 0 ? 'More takes' : 'Other takes'}
        </button>
      )}
    </div>
  );
}

interface KeptTakeProps {
  take: PlateTake;
  number: number;
  chosen: boolean;
  mixing: boolean;
  busy: boolean;
  onChoose(seed: number): void;
  onMix(seed: number | null): void;
}

function KeptTake({ take, number, chosen, mixing, busy, onChoose, onMix }: KeptTakeProps) {
  return (
    <div
      style={{ width: Math.max(104, Math.min(200, (80 * take.bounds.width) / take.bounds.height)) }}
      className={`relative flex shrink-0 flex-col overflow-hidden rounded-md border-2 ${chosen ? 'border-pine' : 'border-line'}`}
    >
      <button
        type="button"
        role="radio"
        aria-checked={chosen}
        aria-label={`Take ${number}`}
        disabled={busy}
        onClick={() => onChoose(take.seed)}
        className="min-h-0 flex-1 bg-field"
      >
        <img src={fileUrl(take.file, 240)} alt="" className="size-full object-contain" />
      </button>
      <div className="flex h-6 items-center justify-between bg-white/80 px-1.5 text-[12px]">
        <span className="flex items-center gap-1">
          {chosen && <Check size={12} className="text-pine" />}
          Take {number}
        </span>
        {!chosen && (
          <button
            type="button"
            aria-pressed={mixing}
            disabled={busy}
            title={`Paint parts of take ${number} into the chosen one`}
            onClick={() => onMix(mixing ? null : take.seed)}
            className={`rounded px-1 ${mixing ? 'bg-pine text-white' : 'text-dusk hover:bg-paper-2'}`}
          >
            Paint in
          </button>
        )}
      </div>
    </div>
  );
}

function ComingTake({ take, number }: { take: LiveTake; number: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const element = canvas.current;
    if (!element || !take.preview) return;
    const { preview } = take;
    const scale = 240 / Math.max(preview.width, preview.height);
    Object.assign(element, { width: Math.round(preview.width * scale), height: Math.round(preview.height * scale) });
    element.getContext('2d')!.drawImage(preview, 0, 0, element.width, element.height);
  }, [take]);
  return (
    <div className="flex w-40 shrink-0 flex-col overflow-hidden rounded-md border-2 border-dashed border-line">
      <div className="flex min-h-0 flex-1 items-center justify-center bg-field">
        {take.preview && <canvas ref={canvas} className="size-full object-contain" />}
      </div>
      <div className="flex h-6 items-center gap-2 bg-white/80 px-1.5 text-[12px] text-ink-2">
        Take {number}
        <span className="h-1 flex-1 overflow-hidden rounded bg-paper-2">
          <span className="block h-full bg-pine" style={{ width: `${Math.round(take.share * 100)}%` }} />
        </span>
      </div>
    </div>
  );
}
