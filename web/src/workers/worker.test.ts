import { expose } from 'comlink';
import { openWorker, progressOf, WorkCancelled, WorkerBroken } from './worker.ts';

const api = {
  double: (n: number) => n * 2,
  fail: (): number => {
    throw new RangeError('a load must be above 0');
  },
  never: () => new Promise<number>(() => undefined),
  count: async (to: number, tell: (n: number) => void) => {
    for (let i = 1; i <= to; i += 1) await tell(i);
    return to;
  },
};

/** A thread in name only: the other end of a channel, which can be ended and break down as a thread does. */
class Thread extends EventTarget {
  static started = 0;
  static open: Thread[] = [];
  private readonly port: MessagePort;
  ended = false;
  constructor() {
    super();
    Thread.started += 1;
    Thread.open.push(this);
    const { port1, port2 } = new MessageChannel();
    this.port = port1;
    expose(api, port2 as never);
    port1.start();
    port1.addEventListener('message', (e) => {
      if (!this.ended) this.dispatchEvent(new MessageEvent('message', { data: (e as MessageEvent).data }));
    });
  }
  postMessage(message: unknown, transfer: Transferable[] = []): void {
    this.port.postMessage(message, transfer as never);
  }
  terminate(): void {
    this.ended = true;
    this.port.close();
  }
  breakDown(message: string): void {
    this.dispatchEvent(Object.assign(new Event('error'), { message }));
  }
}

const door = () => openWorker<typeof api>(() => new Thread() as unknown as Worker);
beforeEach(() => {
  Thread.started = 0;
  Thread.open = [];
});
afterEach(() => Thread.open.forEach((thread) => thread.terminate()));

test('a thread is started when it is first asked, and answers all that is asked', async () => {
  const work = door();
  expect(Thread.started).toBe(0);
  expect(await Promise.all([1, 2, 3].map((n) => work.ask((t) => t.double(n))))).toEqual([2, 4, 6]);
  expect(Thread.started).toBe(1);
});

test('what the work refuses is refused here, in its own words, and the thread goes on', async () => {
  const work = door();
  await expect(work.ask((t) => t.fail())).rejects.toThrow('a load must be above 0');
  expect(await work.ask((t) => t.double(4))).toBe(8);
  expect(Thread.started).toBe(1);
});

test('work that is given up ends at once, and the next question starts another thread', async () => {
  const work = door();
  const stop = new AbortController();
  const asked = work.ask((t) => t.never(), { signal: stop.signal });
  stop.abort();
  await expect(asked).rejects.toBeInstanceOf(WorkCancelled);
  const more = work.ask((t) => t.never());
  work.cancel();
  await expect(more).rejects.toBeInstanceOf(WorkCancelled);
  expect(await work.ask((t) => t.double(5))).toBe(10);
  expect(Thread.started).toBe(3);
  // What was given up before it began starts nothing.
  await expect(work.ask((t) => t.double(1), { signal: AbortSignal.abort() })).rejects.toBeInstanceOf(
    WorkCancelled,
  );
});

test('a thread that breaks down leaves nobody waiting, and is replaced', async () => {
  const work = door();
  const asked = work.ask((t) => t.never());
  await Promise.resolve();
  Thread.open[0]!.breakDown('out of memory');
  await expect(asked).rejects.toThrow(/out of memory/);
  await expect(asked).rejects.toBeInstanceOf(WorkerBroken);
  expect(await work.ask((t) => t.double(6))).toBe(12);
});

test('work may tell how far it has come', async () => {
  const work = door();
  const told: number[] = [];
  expect(
    await work.ask((t) =>
      t.count(
        3,
        progressOf((n: number) => void told.push(n)),
      ),
    ),
  ).toBe(3);
  expect(told).toEqual([1, 2, 3]);
});
