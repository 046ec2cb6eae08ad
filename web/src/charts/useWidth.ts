import { useEffect, useLayoutEffect, useRef, useState, type RefObject } from 'react';

/**
 * Width of what an element holds as it is laid out, px; `first` where nothing is laid out. It is measured
 * before the first painting, so that no picture is ever drawn wider than its place.
 */
export function useWidth<E extends HTMLElement>(first: number): { ref: RefObject<E | null>; width: number } {
  const ref = useRef<E>(null);
  const [width, setWidth] = useState(first);
  useLayoutEffect(() => {
    const element = ref.current;
    if (!element) return;
    const { paddingLeft, paddingRight } = getComputedStyle(element);
    const next = Math.floor(
      element.clientWidth - (parseFloat(paddingLeft) || 0) - (parseFloat(paddingRight) || 0),
    );
    if (next > 0) setWidth(next);
  }, []);
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
