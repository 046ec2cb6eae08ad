import { expect, test } from '@playwright/test';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { makeProbed } from './probed.ts';
import { freePort, startServer, stopServer } from './servers.ts';

const HOUR = 3_600_000;

/** What this lot is best at, which nobody is told: liking falls off from 16 µm and a little from 34 h. */
const likingOf = (um: number, hours: number) =>
  Math.max(0, 8.6 - 0.02 * (um - 16) ** 2 - 0.004 * (hours - 34) ** 2);

test('a lot dialled in over three batches: each made as the page proposes, tasted, and read again', async ({
  page,
}) => {
  test.setTimeout(150_000);
  const directory = mkdtempSync(join(tmpdir(), 'wunsch-dial-'));
  const port = await freePort();
  const base = `http://127.0.0.1:${port}`;
  const server = await startServer('server/dist/start.js', directory, port);
  try {
    const { put, parcel, machine } = await makeProbed(page.request, base, {
      machine: { name: 'Otto', station: 'grind' },
      lot: { code: 'NK', name: 'Nkondo', material: 'nibs', massMg: 90_000_000 },
      batchCode: 'NK-00',
    });
    const lots = (await (await page.request.get(`${base}/api/lots`)).json()) as { id: string }[];
    const main = page.getByRole('main');
    await page.goto(`${base}/taste/next`);
    await expect(main.getByRole('heading', { name: 'Nothing tasted yet' })).toBeVisible();

    /** A batch ground so fine for so long, and what three people make of it. */
    const make = async (n: number, um: number, hours: number) => {
      const [batch, step] = [randomUUID(), randomUUID()];
      const begun = Date.now() - (40 - 10 * n) * 24 * HOUR;
      const at = (h: number) => new Date(begun + h * HOUR).toISOString();
      await put(`/api/batches/${batch}`, { code: `NK-0${n}`, lotId: lots[0]!.id, startedAt: at(0) });
      await put(`/api/steps/${step}`, {
        batchId: batch,
        station: 'grind',
        machineId: machine,
        startedAt: at(0),
        details: { aimUm: um },
      });
      const line = { stepId: step, massMg: 5_000_000 };
      await put(`/api/movements/${randomUUID()}`, { ...line, direction: 'in', parcelId: parcel });
      await put(`/api/observations/${randomUUID()}`, {
        stepId: step,
        at: at(hours),
        data: { kind: 'grit', method: 'micrometer', um },
      });
      await put(`/api/movements/${randomUUID()}`, {
        ...line,
        direction: 'out',
        material: 'chocolate',
        parcelId: randomUUID(),
      });
      await put(`/api/steps/${step}/close`, {
        remainder: null,
        remainderId: randomUUID(),
        handsOnMinutes: 20,
        endedAt: at(hours),
      });
      const liking = Math.round(10 * likingOf(um, hours)) / 10;
      for (const taster of [-0.3, 0, 0.3])
        await put(`/api/tastings/${randomUUID()}`, {
          batchId: batch,
          card: { form: 'quick', sour: 4, grit: 1, liking: Math.min(10, Math.max(0, liking + taster)) },
        });
      return liking;
    };
    /** What the page proposes for a factor, by its last number. */
    const proposed = async (factor: string) => {
      const row = main.getByRole('listitem').filter({ has: page.getByRole('heading', { name: factor }) });
      const told = (await row.locator('.num').first().textContent())!;
      return Number(/([\d.]+)\D*$/.exec(told)![1]);
    };

    let um = 28;
    const hours = 34;
    const likings: number[] = [];
    for (let n = 1; n <= 3; n += 1) {
      likings.push(await make(n, um, hours));
      await page.goto(`${base}/taste/next`);
      await expect(main.getByText(new RegExp(`Nkondo, ${n} tasted batch`))).toBeAttached();
      await expect(main.getByRole('heading', { name: 'The next batch' })).toBeVisible({ timeout: 30_000 });
      await expect(main.getByRole('img', { name: /believed best between/ }).first()).toBeVisible();
      // The hours are kept as they are: only the grit is asked about.
      const row = main
        .getByRole('listitem')
        .filter({ has: page.getByRole('heading', { name: 'Hours in grinder and conche' }) });
      if ((await row.count()) > 0) await row.getByRole('checkbox').check();
      await page.waitForTimeout(1500);
      um = await proposed('Grit');
      expect(um).toBeGreaterThan(8);
      expect(um).toBeLessThan(60);
    }
    // From 28 µm it goes finer, and what is made is liked better than the first.
    expect(Math.max(...likings.slice(1))).toBeGreaterThan(likings[0]! + 0.5);
    await expect(main.getByText(/Best so far/)).toBeVisible();
    await expect(main.getByText(/Chance that the best so far/)).toBeVisible();
  } finally {
    await stopServer(server);
    rmSync(directory, { recursive: true, force: true });
  }
});
