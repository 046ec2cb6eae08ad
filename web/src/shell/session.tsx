import { createContext, useContext } from 'react';
import type { BenchView, Person, Role, SessionView, Workshop } from '@wunsch/contract';
import { useRead } from './door.tsx';

/** Who is at the page and how the workshop is set up. */
export interface Session {
  person: Person;
  workshop: Workshop;
}

/** Given by the shell to every page behind the sign-in. */
export const SessionContext = createContext<Session | null>(null);

/** The person and the workshop; only below the sign-in. */
export function useSession(): Session {
  const session = useContext(SessionContext);
  if (!session) throw new Error('useSession is for pages behind the sign-in');
  return session;
}

/** Whether somebody may record work. */
export const mayMakeAs = (role: Role): boolean => role === 'owner' || role === 'maker';

/** Whether this person may record work. */
export function useMayMake(): boolean {
  return mayMakeAs(useSession().person.role);
}

/** Whether this person may enter anything at all: everyone but those who only look. */
export function useMayTaste(): boolean {
  return useSession().person.role !== 'viewer';
}

/** The session as the server tells it; asks again while the workshop is being opened. */
export function useSessionView() {
  return useRead<SessionView>('/api/session', {
    refreshInterval: (latest) => (!latest || latest.state === 'opening' ? 700 : 0),
    shouldRetryOnError: true,
    errorRetryInterval: 1500,
  });
}

/** The Bench and the line, shared by every page. */
export function useBench() {
  return useRead<BenchView>('/api/bench', { refreshInterval: 60_000, keepPreviousData: true });
}
