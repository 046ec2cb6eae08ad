import { waitFor } from '@testing-library/react';
import { openDB } from 'idb';
import { v7 } from 'uuid';
import { Wire } from '../testing/page.tsx';
import { ApiProblem } from './api.ts';
import { mainDoor } from './door.tsx';

const { outbox } = mainDoor;

const entry = (text: string, more: object = {}) => ({
  method: 'PUT' as const,
  path: `/api/observations/${text}`,
  body: { text },
  label: text,
  batchId: null,
  ...more,
});

/** What is on the disk of the browser. */
async function kept(store: 'waiting' | 'refused'): Promise<{ label: string; reason?: string }[]> {
  const db = await openDB('wunsch', 1);
  const all = await db.getAll(store);
  db.close();
  return all;
}

test('an accepted entry gives its number and leaves nothing behind', async () => {
  const wire = new Wire();
  await expect(outbox.send(entry('a', { ifMatch: 4 }))).resolves.toEqual({ waiting: false, seq: 101 });
  expect(wire.sent[0]!.ifMatch).toBe('"4"');
  expect(await kept('waiting')).toEqual([]);
});

test('it is on the disk before it is on the wire, so that a reload in between loses nothing', async () => {
  const wire = new Wire();
  wire.hold();
  const done = outbox.send(entry('b'));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect((await kept('waiting')).map((e) => e.label)).toEqual(['b']);
  wire.release();
  await done;
  expect(await kept('waiting')).toEqual([]);
});

test('it goes to the disk for good before the browser can do anything else, such as leave the page', async () => {
  new Wire();
  await outbox.send(entry('opens the disk'));
  const commit = jest.spyOn(IDBTransaction.prototype, 'commit');
  const done = outbox.send(entry('b2'));
  // What is awaited in the same breath; events of the disk come later.
  for (let i = 0; i < 10; i += 1) await Promise.resolve();
  expect(commit).toHaveBeenCalledTimes(1);
  commit.mockRestore();
  await done;
});

test('entries go one after the other: the second is not sent before the first is answered', async () => {
  const wire = new Wire();
  wire.hold();
  const both = Promise.all([outbox.send(entry('first')), outbox.send(entry('second'))]);
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  await new Promise((r) => setTimeout(r, 60));
  expect(wire.sent.map((s) => s.path)).toEqual(['/api/observations/first']);
  wire.release();
  await both;
  expect(wire.sent.map((s) => s.path)).toEqual(['/api/observations/first', '/api/observations/second']);
});

test('what is refused rejects with the server’s words, and the next goes on', async () => {
  const wire = new Wire();
  wire.refuse({ code: 'oversubscribed', detail: 'only 2 kg are there' });
  await expect(outbox.send(entry('c'))).rejects.toThrow('only 2 kg are there');
  await expect(outbox.send(entry('c2'))).resolves.toMatchObject({ waiting: false });
});

test('refused after its page has moved on, it is kept with its reason until someone has read it', async () => {
  const wire = new Wire();
  wire.goAway();
  await expect(outbox.send(entry('d'))).resolves.toEqual({ waiting: true });
  wire.refuse({ detail: 'the step is closed' });
  wire.goAway(false);
  await waitFor(() => expect(outbox.refused()).toHaveLength(1), { timeout: 6000 });
  expect(outbox.refused()[0]).toMatchObject({ label: 'd', reason: 'the step is closed' });
  expect((await kept('refused')).map((e) => e.reason)).toEqual(['the step is closed']);
  await outbox.forget(outbox.refused()[0]!.id);
  expect(outbox.refused()).toEqual([]);
  expect(await kept('refused')).toEqual([]);
});

test('signed out in the meantime, it waits rather than be lost', async () => {
  const wire = new Wire();
  wire.refuse({ status: 401, code: 'signed-out', detail: 'sign in first' });
  await expect(outbox.send(entry('e'))).resolves.toEqual({ waiting: true });
  await waitFor(() => expect(outbox.waiting()).toHaveLength(0), { timeout: 6000 });
  expect(wire.sent.map((s) => s.path)).toEqual(['/api/observations/e', '/api/observations/e']);
});

test('a problem is told apart from a server that is away', async () => {
  const wire = new Wire();
  wire.refuse({ status: 422, detail: 'not valid' });
  await expect(outbox.send(entry('f'))).rejects.toBeInstanceOf(ApiProblem);
});

test('whoever listens hears of every change', async () => {
  new Wire();
  const heard: number[] = [];
  const stop = outbox.subscribe(() => heard.push(outbox.waiting().length));
  await outbox.send(entry('g'));
  stop();
  expect(heard).toEqual([1, 0]);
  await outbox.send(entry('h'));
  expect(heard).toHaveLength(2);
});

describe('a second tap is the first again', () => {
  /** An act as a button makes it: with ids of its own and the time it was pressed. */
  const press = (path: string, more: object = {}) =>
    outbox.send({
      method: 'PUT',
      path: `/api/${path}/${v7()}`,
      body: { kind: 'turned', at: new Date().toISOString(), noteId: v7(), ...more },
      label: 'turned',
      batchId: null,
    });

  test('within half a second it sends nothing, and both hear the same', async () => {
    const wire = new Wire();
    const both = await Promise.all([press('observations'), press('observations')]);
    expect(both[0]).toEqual(both[1]);
    expect(wire.sent).toHaveLength(1);
  });

  test('what may well come again alike is sent again after it; anything else waits for its answer', async () => {
    const wire = new Wire();
    wire.hold();
    const later = () => new Promise((r) => setTimeout(r, 600));
    const weighed = press('movements', { massMg: 60_100 });
    await later();
    const again = press('movements', { massMg: 60_100 });
    const held = press('holds');
    await later();
    const pressedAgain = press('holds');
    wire.release();
    await Promise.all([weighed, again, held, pressedAgain]);
    expect(wire.sent.map((s) => s.path.split('/')[2])).toEqual(['movements', 'movements', 'holds']);
  });

  test('what differs in a weight, a thing or an hour is another act', async () => {
    const wire = new Wire();
    const [one, other] = ['019a0000-0000-7000-8000-000000000011', '019a0000-0000-7000-8000-000000000012'];
    await Promise.all([
      press('holds', { lotId: one }),
      press('holds', { lotId: other }),
      press('holds', { lotId: one, massMg: 2 }),
      press('holds', { lotId: one, dueAt: '2026-11-27T10:00:00.000Z' }),
      press('holds', { lotId: one, dueAt: '2026-11-27T11:00:00.000Z' }),
    ]);
    expect(wire.sent).toHaveLength(5);
  });

  test('what was refused may be tried again at once', async () => {
    const wire = new Wire();
    wire.refuse({ code: 'oversubscribed' });
    await expect(press('leaves')).rejects.toThrow();
    await expect(press('leaves')).resolves.toMatchObject({ waiting: false });
    expect(wire.sent).toHaveLength(2);
  });
});

test.each([
  ['a page of a guest network', 200, '<html>'],
  ['an error page of a proxy', 500, '<html>'],
  ['too much at once', 429, JSON.stringify({ status: 429, code: 'too-many-tries', detail: '' })],
  ['nobody signed in', 401, JSON.stringify({ status: 401, code: 'signed-out', detail: '' })],
])('%s refuses nothing: the entry waits and goes when the server answers', async (_, status, body) => {
  const wire = new Wire();
  const through = globalThis.fetch;
  globalThis.fetch = () => Promise.resolve(new Response(body, { status }));
  await expect(outbox.send(entry(`late-${status}`))).resolves.toEqual({ waiting: true });
  expect((await kept('waiting')).map((e) => e.label)).toEqual([`late-${status}`]);
  globalThis.fetch = through;
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  await waitFor(async () => expect(await kept('waiting')).toEqual([]));
});

test('what somebody left behind waits for them, and is entered in nobody else’s name', async () => {
  const wire = new Wire();
  outbox.isHere('ada');
  wire.goAway();
  await expect(outbox.send(entry('of-ada'))).resolves.toEqual({ waiting: true });
  // Ada has gone; Tam is at the tablet when the server is back.
  outbox.isHere('tam');
  wire.goAway(false);
  await expect(outbox.send(entry('of-tam'))).resolves.toMatchObject({ waiting: false });
  expect(wire.sent.map((s) => s.path)).toEqual(['/api/observations/of-tam']);
  expect((await kept('waiting')).map((e) => e.label)).toEqual(['of-ada']);
  outbox.isHere('ada');
  await waitFor(() => expect(wire.sent.map((s) => s.path)).toContain('/api/observations/of-ada'));
  await waitFor(async () => expect(await kept('waiting')).toEqual([]));
});

test('an entry that had to wait says how long ago it was made; one sent at once does not', async () => {
  const wire = new Wire();
  await outbox.send(entry('at-once'));
  expect(wire.sent[0]!.madeAgo).toBeNull();
  wire.goAway();
  await outbox.send(entry('stirred'));
  await new Promise((r) => setTimeout(r, 2300));
  wire.goAway(false);
  window.dispatchEvent(new Event('online'));
  await waitFor(() => expect(wire.sent).toHaveLength(2), { timeout: 15_000 });
  expect(wire.sent[1]!.madeAgo).toBeGreaterThan(2);
  expect(wire.sent[1]!.madeAgo).toBeLessThan(20);
});
