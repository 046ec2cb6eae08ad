import { useEffect, useState } from 'react';

/** A page may be asked for its width before it has one, px. */
const LEAST = 16;

/** Width of a column of the line as it stands now, px; on narrow screens what nine columns leave of the width. */
export function useColumn(): { column: number; wide: boolean } {
  const measure = () => {
    const width = document.documentElement.clientWidth;
    const wide = width >= 1280;
    return {
      column: wide
        ? Math.max(64, Math.min(112, (width - 464) / 9))
        : Math.max(LEAST, (Math.min(width, 1000) - 56) / 9),
      wide,
    };
  };
  const [size, setSize] = useState(measure);
  useEffect(() => {
    const resize = () => setSize(measure());
    window.addEventListener('resize', resize);
    return () => window.removeEventListener('resize', resize);
  }, []);
  return size;
}
