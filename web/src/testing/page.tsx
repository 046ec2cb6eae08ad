import * as database from 'fake-indexeddb';
import { cleanup, configure, render } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { createContext, use, type ReactElement } from 'react';
import { createMemoryRouter, RouterProvider } from 'react-router';
import { SWRConfig } from 'swr';
import { MADE_AGO, WorkshopPut, type Person, type Problem, type Workshop } from '@wunsch/contract';
import { DoorContext, openDoor } from '../shell/door.tsx';
import { SessionContext } from '../shell/session.tsx';
import { Toaster } from '../ui/Toaster.tsx';
import { de } from '../words/de.ts';
import { deRooms } from '../words/deRooms.ts';
import { enRooms } from '../words/enRooms.ts';
import { takeCatalogue, takeRooms, WordsProvider, type Language } from '../words/words.tsx';
import { openThreads } from './threads.ts';

takeCatalogue('de', de);
takeRooms('de', deRooms);
takeRooms('en', enRooms);

// A busy machine is waited for.
configure({ asyncUtilTimeout: 10_000 });

openThreads();

// A narrow screen in the light.
const matchMedia = (media: string) => ({
  media,
  matches: false,
  addEventListener: () => undefined,
  removeEventListener: () => undefined,
});
for (const place of [globalThis, window]) Object.assign(place, { matchMedia });

// A browser's database, held in memory.
Object.assign(globalThis, database);

/** A request a page has made. */
export interface Sent {
  method: string;
  path: string;
  body: unknown;
  ifMatch: string | null;
  /** How long ago it was made, s, where it was not sent at once. */
  madeAgo: number | null;
}

/** What answers the page: the other end of the wire, and nothing behind it. */
export class Wire {
  /** Writes, in the order they came. */
  readonly sent: Sent[] = [];
  private readonly replies = new Map<string, unknown>();
  private problem: Problem | null = null;
  private away = false;
  private held: (() => void)[] | null = null;
  private seq = 100;

  constructor() {
    globalThis.fetch = (input, init = {}) => this.answer(String(input), init);
  }

  /** What a GET of this path is answered with, or `PUT /api/…` where that gives something back. */
  has(path: string, reply: unknown): this {
    this.replies.set(path, reply);
    return this;
  }

  /** Refuses the next write with this problem. */
  refuse(part: Partial<Problem>): void {
    this.problem = {
      type: 'about:blank',
      title: 'Refused',
      status: 409,
      code: 'refused',
      detail: 'refused',
      ...part,
    };
  }

  /** The server cannot be reached, or can again. */
  goAway(away = true): void {
    this.away = away;
  }

  /** Writes wait for `release`, as over a slow line. */
  hold(): void {
    this.held = [];
  }

  release(): void {
    this.held?.forEach((go) => go());
    this.held = null;
  }

  private async answer(path: string, init: RequestInit): Promise<Response> {
    if (this.away) throw new TypeError('fetch failed');
    const json = (status: number, body: unknown) =>
      new Response(JSON.stringify(body), { status, headers: { 'content-type': 'application/json' } });
    if (init.method === 'GET' || init.method === undefined)
      return this.replies.has(path) ? json(200, this.replies.get(path)) : json(200, []);
    const headers = new Headers(init.headers);
    this.sent.push({
      method: init.method,
      path,
      body: typeof init.body === 'string' ? JSON.parse(init.body) : null,
      ifMatch: headers.get('if-match'),
      madeAgo: headers.has(MADE_AGO) ? Number(headers.get(MADE_AGO)) : null,
    });
    const { held } = this;
    if (held) await new Promise<void>((go) => held.push(go));
    const { problem } = this;
    this.problem = null;
    if (problem) return json(problem.status, problem);
    const own = this.replies.get(`${init.method} ${path}`);
    if (own !== undefined) return json(200, own);
    this.seq += 1;
    return json(201, {
      id: path.split('/').at(-1),
      seq: this.seq,
      repeated: false,
      touches: ['batches', 'stock', 'observations'],
      batchId: null,
    });
  }
}

/** How the page is set up. */
export interface PageOptions {
  language?: Language;
  workshop?: Partial<Workshop>;
  role?: Person['role'];
  /** The address the page is opened at. */
  at?: string;
  /** The addresses it is for, with names for their parts, as `/sort/:batchId`. */
  route?: string;
}

/** The workshop pages are drawn for unless a test says otherwise. */
export function workshopOf(part: Partial<Workshop> = {}): Workshop {
  return {
    ...WorkshopPut.parse({
      name: 'Test row',
      shape: 'shop',
      currency: 'GBP',
      temperatureUnit: '°C',
      massSystem: 'metric',
    }),
    version: 1,
    createdAt: '2026-09-01T08:00:00Z',
    ...part,
  };
}

/** How many pages have been drawn so far. */
let doors = 0;

/** Ends what the pages drawn so far would still ask of a server. */
const leave: (() => void)[] = [];

/** What is drawn at the page's address, whichever that is. */
const DrawnContext = createContext<ReactElement | null>(null);
const Drawn = () => use(DrawnContext);

/** Draws something as a page behind the sign-in would, with a person at it. */
export function show(
  element: ReactElement,
  { language = 'en', workshop, role = 'maker', at = '/', route = '*' }: PageOptions = {},
) {
  const settings = workshopOf(workshop);
  const person: Person = {
    id: '019a0000-0000-7000-8000-000000000001',
    name: 'Ada',
    initials: 'AK',
    role,
    active: true,
    isNamed: false,
    demo: false,
    version: 1,
  };
  // What one test did is nothing to the next: their acts may be alike.
  doors += 1;
  let isLeft = false;
  leave.push(() => (isLeft = true));
  const door = openDoor({
    name: `test-${doors}`,
    address: (path) => {
      // What still waits to be sent again belongs to no test that follows.
      if (isLeft) throw new Error('this page has been left');
      return path;
    },
  });
  const router = createMemoryRouter([{ path: route, Component: Drawn }], { initialEntries: [at] });
  const page = (content: ReactElement) => (
    <SWRConfig value={{ provider: () => new Map(), dedupingInterval: 0, shouldRetryOnError: false }}>
      <WordsProvider language={language} settings={settings}>
        <Toaster>
          <SessionContext value={{ person, workshop: settings }}>
            <DoorContext value={door}>
              <DrawnContext value={content}>
                <RouterProvider router={router} />
              </DrawnContext>
            </DoorContext>
          </SessionContext>
        </Toaster>
      </WordsProvider>
    </SWRConfig>
  );
  const drawn = render(page(element));
  return {
    ...drawn,
    door,
    user: userEvent.setup(),
    redraw: (next: ReactElement) => drawn.rerender(page(next)),
  };
}

/** Called after each test, whichever file it stands in: pages are taken away, what was kept is forgotten, and the address is the first again. */
export function leavePages(): void {
  cleanup();
  leave.splice(0).forEach((end) => end());
  document.body.replaceChildren();
  localStorage.clear();
  sessionStorage.clear();
  history.replaceState(null, '', '/');
}
