import { useEffect, useState } from 'react';
import { createPortal } from 'react-dom';

/** Puts a room's one main action at the right of the bar. */
export function MainAction({ children }: { children: React.ReactNode }) {
  const [slot, setSlot] = useState<HTMLElement | null>(null);
  useEffect(() => setSlot(window.document.getElementById('main-action')), []);
  return slot ? createPortal(children, slot) : null;
}
