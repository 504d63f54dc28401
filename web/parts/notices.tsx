import { CircleAlert, Check, X } from 'lucide-react';
import { useNotices } from '../data/notices.ts';
import { IconButton } from './button.tsx';

export function Notices() {
  const { notices, dismiss } = useNotices();
  return (
    <div
      className="pointer-events-none fixed inset-x-0 bottom-4 z-50 flex flex-col items-center gap-2"
      aria-live="polite"
    >
      {notices.map((notice) => (
        <div
          key={notice.id}
          role={notice.kind === 'problem' ? 'alert' : 'status'}
          className="pointer-events-auto flex max-w-xl items-center gap-2 rounded-lg border border-line bg-paper py-1.5 pr-1.5 pl-3 shadow-lg"
        >
          {notice.kind === 'problem' ? (
            <CircleAlert size={16} className="shrink-0 text-brick" />
          ) : (
            <Check size={16} className="shrink-0 text-pine" />
          )}
          <span className="text-[13px]">{notice.text}</span>
          {notice.action && (
            <button
              type="button"
              className="rounded-md px-2 py-1 text-[13px] font-medium text-dusk hover:bg-paper-2"
              onClick={() => {
                notice.action!.run();
                dismiss(notice.id);
              }}
            >
              {notice.action.label}
            </button>
          )}
          <IconButton label="Dismiss" onClick={() => dismiss(notice.id)}>
            <X size={14} />
          </IconButton>
        </div>
      ))}
    </div>
  );
}
