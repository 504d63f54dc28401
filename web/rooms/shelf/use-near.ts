import { useEffect, useState, type RefObject } from 'react';

/** What is so near to what is seen, in CSS pixels, is made ready. */
const margin = 300;

/** Whether an element is seen, or nearly. */
export function useNear(element: RefObject<Element | null>): boolean {
  const [near, setNear] = useState(false);
  useEffect(() => {
    if (!element.current) return;
    const watch = new IntersectionObserver((entries) => setNear(entries.at(-1)!.isIntersecting), {
      rootMargin: `${margin}px`,
    });
    watch.observe(element.current);
    return () => watch.disconnect();
  }, [element]);
  return near;
}
