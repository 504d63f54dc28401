import { Dialog, DialogPanel, DialogTitle } from '@headlessui/react';
import { X } from 'lucide-react';
import type { ReactNode } from 'react';
import { IconButton } from './button.tsx';

interface SheetProps {
  title: string;
  /** Controls between the title and the way out. */
  beside?: ReactNode;
  /** How wide it is, and how high where that is fixed. */
  size: string;
  open?: boolean;
  onClose(): void;
  children: ReactNode;
}

/** Something to do or to read in the middle of the window, over everything else. */
export function Sheet({ title, beside, size, open = true, onClose, children }: SheetProps) {
  return (
    <Dialog open={open} onClose={onClose} className="relative z-50">
      <div className="fixed inset-0 bg-ink/30" aria-hidden />
      <div className="fixed inset-0 flex items-center justify-center p-6">
        <DialogPanel
          className={`flex max-h-full max-w-full flex-col rounded-xl border border-line bg-paper shadow-xl ${size}`}
        >
          <div className="flex items-center gap-3 border-b border-line px-4 py-3">
            <DialogTitle className="min-w-0 flex-1 truncate font-semibold">{title}</DialogTitle>
            {beside}
            <IconButton label="Close" shortcut="Esc" onClick={onClose}>
              <X size={15} />
            </IconButton>
          </div>
          {children}
        </DialogPanel>
      </div>
    </Dialog>
  );
}
