import { X } from 'lucide-react';
import { exportFormats } from '../../core/formats/exports.ts';
import { timeLeft, useExports } from '../data/exports.ts';
import { IconButton } from './button.tsx';

/** An export that goes on while one works elsewhere: how far it is, and a way to stop it. */
export function ExportProgress() {
  const { running, waiting } = useExports();
  if (!running) return null;
  const share = Math.round((running.done / running.total) * 100);
  const format = exportFormats[running.wanted.format].name;
  return (
    <div
      role="status"
      aria-label={`Export of ${running.name}`}
      title={`${running.name}: ${timeLeft(running)}`}
      className="flex items-center gap-2 rounded-md border border-line bg-paper-2 py-0.5 pr-0.5 pl-2 text-[12px]"
    >
      <span>{format}</span>
      <span
        className="block h-1.5 w-20 overflow-hidden rounded-full bg-white"
        role="progressbar"
        aria-label={`${format} of ${running.name}`}
        aria-valuenow={share}
        aria-valuemin={0}
        aria-valuemax={100}
      >
        <span className="block h-full bg-pine" style={{ width: `${share}%` }} />
      </span>
      <span className="w-8 text-right font-mono">{share} %</span>
      {waiting.length > 0 && <span className="text-ink-2">{waiting.length} more</span>}
      <IconButton label="Cancel the export" className="!size-6" onClick={running.cancel}>
        <X size={13} />
      </IconButton>
    </div>
  );
}
