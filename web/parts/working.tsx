import { Button } from './button.tsx';

/** Something that is being computed. */
export interface Activity {
  doing: string;
  share: number | null;
  cancel?: () => void;
}

interface WorkingProps {
  doing: string;
  /** 0..1, or null when it cannot be said. */
  share: number | null;
  detail?: string;
  onCancel?(): void;
}

/** What is being computed right now, how far it is, and a way to stop it. */
export function Working({ doing, share, detail, onCancel }: WorkingProps) {
  const percent = share === null ? undefined : Math.round(share * 100);
  return (
    <div className="flex items-center gap-3 rounded-lg border border-line bg-paper px-3 py-2 shadow-md" role="status">
      <div className="w-56">
        <div className="flex justify-between text-[13px]">
          <span>{doing}</span>
          {percent !== undefined && <span className="font-mono text-[12px] text-ink-2">{percent} %</span>}
        </div>
        <div
          className="mt-1 h-1.5 overflow-hidden rounded-full bg-paper-2"
          role="progressbar"
          aria-label={doing}
          aria-valuenow={percent}
          aria-valuemin={0}
          aria-valuemax={100}
        >
          <div
            className={`h-full bg-pine transition-[width] ${share === null ? 'w-1/3 animate-pulse' : ''}`}
            style={share === null ? {} : { width: `${percent}%` }}
          />
        </div>
        {detail && <div className="mt-1 text-[12px] text-ink-2">{detail}</div>}
      </div>
      {onCancel && <Button onClick={onCancel}>Cancel</Button>}
    </div>
  );
}

/** What is being done, over the lower edge of a view; nothing while nothing is done. */
export function WorkingOver({ activity }: { activity: Activity | null }) {
  if (!activity) return null;
  return (
    <div className="absolute inset-x-0 bottom-4 flex justify-center">
      <Working doing={activity.doing} share={activity.share} onCancel={activity.cancel} />
    </div>
  );
}
