import { useEffect, useState } from 'react';
import { useDoor } from './door.tsx';

/** The time, renewed every `every` ms, for things that count down. */
export function useNow(every = 30_000): number {
  const { now: clock } = useDoor();
  const [now, setNow] = useState(clock);
  useEffect(() => {
    const timer = setInterval(() => setNow(clock()), every);
    return () => clearInterval(timer);
  }, [every, clock]);
  return now;
}
