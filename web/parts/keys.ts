import { useEffect, useEffectEvent } from 'react';

/** Whether a key press is meant for a text field or an open list, not for the room. */
export function isTyping(event: KeyboardEvent): boolean {
  const target = event.target as HTMLElement | null;
  if (event.key === ' ' && isDoneWith(target)) return false;
  return !!target?.closest(
    'input:not([type=range]):not([type=checkbox]):not([type=color]), textarea, select, [contenteditable], [role=dialog], [role=listbox], [role=menu]',
  );
}

/** Whether the focused thing itself answers to Space and Enter. */
export function isControl(event: KeyboardEvent): boolean {
  return !!(event.target as HTMLElement | null)?.closest('button, a, [role=slider], input');
}

/** Whether what has the focus got it by a press of the pointer, and not by Tab. */
let focusedByPointer = false;
if (typeof window !== 'undefined') {
  window.addEventListener('pointerdown', () => (focusedByPointer = true), true);
  window.addEventListener('keydown', (event) => event.key === 'Tab' && (focusedByPointer = false), true);
}

const isNumberField = (element: Element | null): boolean => !!element?.matches('input[inputmode=decimal]');

/** Whether Space means nothing to what has the focus: a number holds no space, and a list that was pressed was chosen from. */
const isDoneWith = (element: HTMLElement | null): boolean =>
  isNumberField(element) || (focusedByPointer && element instanceof HTMLSelectElement);

/**
 * Takes Space away from a control that a press of the pointer left focused: there it means the room. A control that was
 * reached by Tab keeps it.
 * @returns whether Space is the room's
 */
export function takeSpace(event: KeyboardEvent): boolean {
  const control = (event.target as HTMLElement | null)?.closest<HTMLElement>('button, a, [role=slider], input, select');
  if (control && !focusedByPointer && !isNumberField(control)) return false;
  control?.blur();
  return true;
}

/** Calls `handle` for key presses anywhere in the window that are not typing. */
export function useKeys(handle: (event: KeyboardEvent) => void): void {
  const onKey = useEffectEvent((event: KeyboardEvent) => {
    if (event.defaultPrevented) return;
    if (!isTyping(event)) handle(event);
    // A list that was chosen from keeps the focus; Escape leaves it, as it leaves a field.
    else if (event.key === 'Escape' && event.target instanceof HTMLSelectElement) event.target.blur();
  });
  useEffect(() => {
    const listener = (event: KeyboardEvent): void => onKey(event);
    // A menu opens by Space and tells nobody else of it: where its button was only pressed, the room is asked first.
    const beforeMenus = (event: KeyboardEvent): void => {
      if (event.key !== ' ' || !focusedByPointer || !isMenuButton(event.target)) return;
      onKey(event);
      if (event.defaultPrevented) event.stopPropagation();
    };
    window.addEventListener('keydown', listener);
    window.addEventListener('keydown', beforeMenus, true);
    return () => {
      window.removeEventListener('keydown', listener);
      window.removeEventListener('keydown', beforeMenus, true);
    };
  }, []);
}

const isMenuButton = (target: EventTarget | null): boolean =>
  target instanceof Element && target.matches('[aria-haspopup]');

const arrows: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** Where an arrow key points, `step` far or with Shift `far`; null for other keys. */
export function arrowOf(event: KeyboardEvent, step = 1, far = 10): [number, number] | null {
  const arrow = arrows[event.key];
  const length = event.shiftKey ? far : step;
  return arrow ? [arrow[0] * length, arrow[1] * length] : null;
}
