import { useEffect, useRef, useState, type RefObject } from 'react';

/** Width of an element as it is laid out, px; `first` until it is. */
export function useWidth<E extends HTMLElement>(first: number): { ref: RefObject<E | null>; width: number } {
  const ref = useRef<E>(null);
  const [width, setWidth] = useState(first);
  useEffect(() => {
    const element = ref.current;
    if (!element) return;
    const observer = new ResizeObserver(([entry]) => {
      const next = Math.floor(entry!.contentRect.width);
      if (next > 0) setWidth(next);
    });
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  return { ref, width };
}
