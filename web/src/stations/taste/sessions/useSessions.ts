import type { Glass, SessionKey, SessionResults, TastingSession } from '@wunsch/contract';
import { useRead } from '../../../shell/door.tsx';

const PATH = '/api/tasting-sessions';

/** Every session, the newest first. */
export const useSessions = () => useRead<TastingSession[]>(PATH);

/** One session; asks again while it tastes, since guests come and go by another door. */
export const useTastingSession = (id: string | undefined) =>
  useRead<TastingSession>(id ? `${PATH}/${id}` : null, {
    refreshInterval: (latest) => (latest?.status === 'tasting' ? 15_000 : 0),
  });

/** The glasses of a seat; of one's own where none is named. */
export const useGlasses = (sessionId: string | null, seatId?: string) =>
  useRead<Glass[]>(sessionId ? `${PATH}/${sessionId}/glasses${seatId ? `?seat=${seatId}` : ''}` : null);

/** Which code is which; read only by whoever may. */
export const useSessionKey = (sessionId: string | null) =>
  useRead<SessionKey>(sessionId ? `${PATH}/${sessionId}/key` : null);

/** Everything that was said in an opened session. */
export const useSessionResults = (sessionId: string | null) =>
  useRead<SessionResults>(sessionId ? `${PATH}/${sessionId}/results` : null);

/** Where a session’s page is. */
export const sessionPath = (id: string, more = '') => `/taste/sessions/${id}${more}`;
