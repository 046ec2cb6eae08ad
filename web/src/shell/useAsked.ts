import { useEffect } from 'react';
import { useSearchParams } from 'react-router';
import { useMayMake, useSession } from './session.tsx';

/**
 * Does what was asked for in the page's address (`?do=order`), as Find and other pages ask: once, so that a reload or the way back does not ask again,
 * also where the page stands already, and only for who may make entries, or where it is an owner's to do, for owners.
 */
export function useAsked(what: string, run: () => void, who: 'maker' | 'owner' = 'maker'): void {
  const [search, setSearch] = useSearchParams();
  const mayMake = useMayMake();
  const isOwner = useSession().person.role === 'owner';
  const isAsked = search.get('do') === what;
  useEffect(() => {
    if (!isAsked) return;
    const left = new URLSearchParams(search);
    left.delete('do');
    setSearch(left, { replace: true });
    if (who === 'owner' ? isOwner : mayMake) run();
    // Once for each time it is asked.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [isAsked]);
}
