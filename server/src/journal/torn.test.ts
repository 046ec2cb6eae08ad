import { cp, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { Killable } from '../testing/killable.ts';

/** Few, at fixed phases; `npm run trials` asks for the many. */
const TORN_COPIES = Number(process.env.WUNSCH_TORN || 1);

let workshop: Killable;
let store: string;
beforeAll(async () => {
  workshop = await Killable.make();
  store = join(workshop.directory, 'store');
}, 120_000);
afterAll(() => workshop.remove());

/** Puts a copy in the place of the store. */
async function putBack(copy: string): Promise<void> {
  await rm(store, { recursive: true });
  await cp(copy, store, { recursive: true });
  await rm(copy, { recursive: true });
}

test('a second process is refused in one clear line', async () => {
  const child = await workshop.start();
  const second = workshop.spawn(0);
  let said = '';
  second.stderr!.on('data', (chunk: Buffer) => (said += chunk.toString()));
  const code = await new Promise((resolve) => second.once('exit', resolve));
  expect(code).toBe(1);
  expect(said.trim()).toMatch(/^the data directory .* is in use by process \d+; stop it first/);
  expect(said.trim().split('\n')).toHaveLength(1);
  await workshop.end(child, 'SIGKILL');
}, 60_000);

test(
  `a store torn in mid-write, put back beside the journal, loses nothing (${TORN_COPIES} copies)`,
  async () => {
    for (let copy = 0; copy < TORN_COPIES; copy += 1) {
      const child = await workshop.start();
      const hands = workshop.write();
      await hands.begun;
      await new Promise((resolve) => setTimeout(resolve, 20 + ((copy * 70) % 400)));
      await cp(store, `${store}.torn`, { recursive: true });
      await new Promise((resolve) => setTimeout(resolve, 60));
      await workshop.end(child, 'SIGKILL');
      await hands.stop();
      await putBack(`${store}.torn`);
    }
    const child = await workshop.start();
    expect(await workshop.lost()).toEqual([]);
    await workshop.end(child, 'SIGTERM');
  },
  600_000 + TORN_COPIES * 30_000,
);

test('an old store that was closed whole catches up from the journal', async () => {
  await cp(store, `${store}.old`, { recursive: true });
  await workshop.writeAndKill(await workshop.start(), 200);
  await putBack(`${store}.old`);
  const again = await workshop.start();
  expect(await workshop.lost()).toEqual([]);
  await workshop.end(again, 'SIGTERM');
}, 120_000);
