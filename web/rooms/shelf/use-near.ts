import { useEffect, useState, type RefObject } from 'react';

/** What is so near to what is seen, in CSS pixels, is made ready. */
const margin = 300;

/** Whether an element is seen, or nearly. */
export function useNear(element: RefObject<Element | null>): boolean {
  const [near, setNear] = useState(false);
  useEffect(() => {
    if (!element.current) return;
    // Of whatever scrolls around it: a margin of the window alone would be cut off by that.
    const options: IntersectionObserverInit & { scrollMargin: string } = { scrollMargin: `${margin}px` };
    const watch = new IntersectionObserver((entries) => setNear(entries.at(-1)!.isIntersecting), options);
    watch.observe(element.current);
    return () => watch.disconnect();
  }, [element]);
  return near;
}
