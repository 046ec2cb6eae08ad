import { mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { DATABASES, openWorkshop, signIn, type TestWorkshop } from '../testing/workshop.ts';
import { KEEP, tooMany, type Kept } from './age.ts';
import { BackupKeeper } from './keeper.ts';

const DAY = 86_400_000;

describe('keeping by age', () => {
  test('three years of daily backups leave one a day, a week and a month, and never lose the oldest reach', () => {
    const start = Date.UTC(2023, 0, 1, 3);
    let kept: Kept[] = [];
    for (let day = 0; day < 1095; day += 1) {
      const now = start + day * DAY;
      kept.push({ name: `d${day}`, at: now });
      const gone = new Set(tooMany(kept, now).map((k) => k.name));
      kept = kept.filter((k) => !gone.has(k.name));
      const ages = kept.map((k) => Math.round((now - k.at) / DAY)).sort((a, b) => a - b);
      // Yesterday and the days before are all there, and nothing further back is missing for longer than its stretch.
      const lately = Array.from({ length: Math.min(day, KEEP.daily) }, (_, age) => age);
      const most = (age: number) => (age > KEEP.weekly + 30 ? 60 : age > KEEP.daily + 7 ? 37 : 14);
      const wrong = {
        missing: lately.filter((age) => !ages.includes(age)),
        gaps: ages.filter((age, i) => i > 0 && age - ages[i - 1]! > most(age)),
        reach: Math.max(...ages) < Math.min(day, KEEP.monthly) - 30,
      };
      expect({ day, ...wrong }).toEqual({ day, missing: [], gaps: [], reach: false });
    }
    expect(kept.length).toBeLessThan(70);
    expect(kept.length).toBeGreaterThan(45);
  });

  test('the newest stays however old it is, and one from the future is left alone', () => {
    const now = Date.UTC(2026, 0, 1);
    expect(tooMany([{ name: 'a', at: now - 5000 * DAY }], now)).toEqual([]);
    expect(tooMany([], now)).toEqual([]);
    const future = { name: 'b', at: now + 900 * DAY };
    expect(tooMany([future, { name: 'c', at: now + 900 * DAY - 1 }], now)).toEqual([]);
  });
});

describe.each(DATABASES)('backups on %s', (kind) => {
  let shop: TestWorkshop;
  let folder: string;
  beforeAll(async () => {
    shop = await openWorkshop(kind);
    folder = await mkdtemp(join(tmpdir(), 'wunsch-backups-'));
  });
  afterAll(async () => {
    await shop.close();
    await rm(folder, { recursive: true, force: true });
  });

  test('one is made, opened, kept; a second takes its place on the same day and not on the next', async () => {
    let now = Date.UTC(2026, 4, 1, 3);
    const keeper = new BackupKeeper({ folder, directory: null, store: () => shop.store, now: () => now });
    expect(await keeper.view()).toMatchObject({ last: null, count: 0, failed: null });
    await keeper.make();
    expect(await keeper.view()).toMatchObject({
      last: { name: 'wunsch-2026-05-01T03-00-00.zip', at: '2026-05-01T03:00:00.000Z' },
      count: 1,
      failed: null,
      nextAt: '2026-05-02T03:00:00.000Z',
    });
    now += 3_600_000;
    await keeper.make();
    now += DAY;
    await keeper.make();
    expect((await readdir(folder)).sort()).toEqual([
      'wunsch-2026-05-01T04-00-00.zip',
      'wunsch-2026-05-02T04-00-00.zip',
    ]);
    expect((await readFile(join(folder, 'wunsch-2026-05-02T04-00-00.zip'))).subarray(0, 2).toString()).toBe(
      'PK',
    );
  }, 120_000);

  test('one that does not open does not count; why is said, what was there stays, and it is tried again within the hour', async () => {
    const now = Date.UTC(2026, 4, 9);
    const keeper = new BackupKeeper({
      folder,
      directory: null,
      store: () => shop.store,
      now: () => now,
      check: () => Promise.reject(new Error('tables/lot.jsonl is not as it was written')),
    });
    const before = await readdir(folder);
    await keeper.make();
    expect(await readdir(folder)).toEqual(before);
    expect(await keeper.view()).toMatchObject({
      count: 2,
      failed: { why: 'tables/lot.jsonl is not as it was written' },
      nextAt: '2026-05-09T01:00:00.000Z',
    });
    const file = join(folder, 'a file');
    await writeFile(file, 'x');
    const blocked = new BackupKeeper({
      folder: join(file, 'below'),
      directory: null,
      store: () => shop.store,
    });
    await blocked.make();
    expect((await blocked.view()).failed!.why).toMatch(/ENOTDIR/);
  });

  test('a folder inside the data directory is refused; without one the page is told so, and only owners look', async () => {
    const inside = new BackupKeeper({
      folder: '/data/w/backups',
      directory: '/data/w',
      store: () => shop.store,
    });
    expect(() => inside.start()).toThrow(/inside the data directory/);
    expect((await shop.send('GET', '/api/backups')).body).toMatchObject({ folder: null, nextAt: null });
    expect((await shop.send('POST', '/api/backups')).body).toMatchObject({ code: 'no-backup-folder' });
    const cookie = await signIn(shop, 'Vi', 'another password');
    expect((await shop.send('GET', '/api/backups', undefined, { cookie })).status).toBe(403);
  });
});
