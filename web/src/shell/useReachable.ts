import { useRead } from './door.tsx';

/** Where other devices reach this workshop. */
export interface Reachable {
  /** Origin to give to them. */
  base: string;
  /** Only this machine reaches it: its server listens to nobody else. */
  isAlone: boolean;
}

/** The address to give to phones and other programs: that of the workshop in its network, also where this page was opened on the machine itself. */
export function useReachable(): Reachable {
  const { data: addresses } = useRead<string[]>('/api/addresses');
  const isAlone = addresses?.length === 0 && /^(localhost|127\.|\[::1\])/.test(location.host);
  return { base: isAlone || !addresses?.length ? location.origin : addresses[0]!, isAlone };
}
