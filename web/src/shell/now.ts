import { useEffect, useState } from 'react';
import { useDoor } from './door.tsx';

/** The time, renewed every `every` ms, for things that count down. */
export function useNow(every = 30_000): number {
  const { now: clock, isPractice } = useDoor();
  // In a practice an hour may go by in a second.
  const pace = isPractice ? Math.min(every, 1000) : every;
  const [now, setNow] = useState(clock);
  useEffect(() => {
    const timer = setInterval(() => setNow(clock()), pace);
    return () => clearInterval(timer);
  }, [pace, clock]);
  return now;
}
