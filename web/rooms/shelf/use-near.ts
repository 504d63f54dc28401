import { useEffect, useState, type RefObject } from 'react';

/** What is so near to what is seen, in CSS pixels, is made ready. */
const margin = 300;

/** Whether an element has been seen, or has nearly come into sight. */
export function useNear(element: RefObject<Element | null>): boolean {
  const [near, setNear] = useState(false);
  useEffect(() => {
    if (near || !element.current) return;
    const watch = new IntersectionObserver(
      (entries) => {
        if (entries.some((entry) => entry.isIntersecting)) setNear(true);
      },
      { rootMargin: `${margin}px` },
    );
    watch.observe(element.current);
    return () => watch.disconnect();
  }, [near, element]);
  return near;
}
