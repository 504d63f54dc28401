import { useEffect, useEffectEvent, type RefObject } from 'react';

/**
 * Takes what was typed as soon as something else is pressed, before that answers: it may choose another thing, and what comes
 * late would be taken for that.
 * @param pending whether something was typed that is not taken yet
 */
export function useTakenOnPress(field: RefObject<HTMLElement | null>, pending: boolean, take: () => void): void {
  const onPress = useEffectEvent((event: PointerEvent): void => {
    if (!field.current?.contains(event.target as Node)) take();
  });
  useEffect(() => {
    if (!pending) return;
    const listener = (event: PointerEvent): void => onPress(event);
    window.addEventListener('pointerdown', listener, true);
    return () => window.removeEventListener('pointerdown', listener, true);
  }, [pending]);
}
