import { useRef } from 'react';
import type { CustomerPut } from '@wunsch/contract';
import { newId } from './entry.ts';

/**
 * Whose an order or a delivery is, by a name that is typed: somebody who is known already, or a customer made for it, once however often
 * what it is for is tried.
 *
 * @param make sends the customer; rejects where they are refused
 */
export function useCustomer(
  known: readonly { id: string; name: string }[],
  make: (id: string, body: CustomerPut) => Promise<unknown>,
): (typed: string) => Promise<string> {
  const made = useRef(new Map<string, string>());
  return async (typed) => {
    const name = typed.trim();
    const same = known.find((c) => c.name.toLocaleLowerCase() === name.toLocaleLowerCase());
    const id = same?.id ?? made.current.get(name);
    if (id) return id;
    const fresh = newId();
    await make(fresh, { name });
    made.current.set(name, fresh);
    return fresh;
  };
}
