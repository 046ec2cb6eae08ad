import { useState } from 'react';
import { useRead } from './door.tsx';

/** How much longer a list grows when more of it is asked for. */
const LONGER = 4;

/**
 * A list that is read newest first, so many at once, and longer when asked. `isCut` says that there is more.
 *
 * @param path address without its `limit`
 * @param of `first`: as many as the address gives by itself; `most`: as many as it ever gives
 */
export function useLonger<T>(
  path: string,
  { first, most }: { first: number; most: number },
): { data: T[] | undefined; isCut: boolean; longer: () => void } {
  const [limit, setLimit] = useState(first);
  const { data } = useRead<T[]>(limit === first ? path : `${path}?limit=${limit}`, {
    keepPreviousData: true,
  });
  return {
    data,
    isCut: data !== undefined && data.length >= limit && limit < most,
    longer: () => setLimit(Math.min(most, limit * LONGER)),
  };
}
