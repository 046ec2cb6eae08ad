import { createContext, useContext } from 'react';
import type { SWRConfiguration, SWRResponse } from 'swr';
import { request, type Address, type Asked, type Method } from './api.ts';
import { workshopClock } from './clock.ts';
import { Moments } from './moments.ts';
import { Outbox } from './outbox.ts';
import { useFetched } from './useFetched.ts';

/**
 * A workshop as a page sees it: reading, sending, what happens at the moment, and the clock. The pages take it from a context, so
 * that the same pages can be at work in another workshop with a clock of its own.
 */
export interface Door {
  /** The address of a path of the server's in this workshop, for links and downloads. */
  address: Address;
  /** Where its events come from. */
  eventsPath: string;
  read: <T>(path: string) => Promise<T>;
  request: <T>(method: Method, path: string, body?: unknown, more?: Asked) => Promise<T>;
  /** Entries on their way; they survive a reload. */
  outbox: Outbox;
  moments: Moments;
  /** Epoch ms on the workshop's clock. */
  now: () => number;
  /** Takes what the server says that clock shows, epoch ms. */
  hearClock: (now: number) => void;
  /** Whether nothing of it is kept: what is in hand outside stays in hand. */
  isPractice: boolean;
}

/** Opens the door of a workshop. `name` tells its outbox from others' on this device. */
export function openDoor({
  name,
  address = (path) => path,
  now = workshopClock.now,
  hearClock = () => undefined,
  isPractice = false,
}: {
  name: string;
  address?: Address;
  now?: () => number;
  hearClock?: (now: number) => void;
  isPractice?: boolean;
}): Door {
  const ask: Door['request'] = (method, path, body, more) => request(method, address(path), body, more);
  return {
    address,
    eventsPath: address('/api/events'),
    read: (path) => ask('GET', path),
    request: ask,
    outbox: new Outbox(name, ask),
    moments: new Moments(),
    now,
    hearClock,
    isPractice,
  };
}

/** The door of the workshop this server keeps. */
export const mainDoor = openDoor({ name: 'wunsch', hearClock: (now) => workshopClock.hear(now) });

/** The workshop the pages below are at work in. */
export const DoorContext = createContext<Door>(mainDoor);

/** See {@link DoorContext}. */
export const useDoor = (): Door => useContext(DoorContext);

/** Reads an address of the workshop at hand; null reads nothing. */
export function useRead<T>(path: string | null, options?: SWRConfiguration<T>): SWRResponse<T> {
  const { read } = useDoor();
  return useFetched<T>(path, read, options);
}
