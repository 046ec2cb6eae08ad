import { expect, test, type APIRequestContext } from '@playwright/test';
import { spawn, type ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { weigh } from './maker.ts';
import { makeProbed } from './probed.ts';
import { freePort, startServer, stopServer } from './servers.ts';

const root = fileURLToPath(new URL('../..', import.meta.url));

/** A workshop with an oven and a batch whose beans have been sorted. */
async function makeWorkshop(request: APIRequestContext, base: string) {
  const {
    machine: oven,
    batch,
    parcel,
    token,
    put,
  } = await makeProbed(request, base, {
    machine: { name: 'Fan oven', station: 'roast', kind: 'fan oven', minMg: 500_000, maxMg: 3_000_000 },
    lot: { code: 'LR', name: 'Live lot', massMg: 20_000_000, moisture: 7, beansPer100g: 90 },
    batchCode: 'LR-01',
  });
  const sort = randomUUID();
  await put(`/api/steps/${sort}`, { batchId: batch, station: 'sort' });
  await put(`/api/movements/${randomUUID()}`, {
    stepId: sort,
    direction: 'in',
    parcelId: parcel,
    massMg: 5_000_000,
  });
  await put(`/api/movements/${randomUUID()}`, {
    stepId: sort,
    direction: 'out',
    material: 'sorted beans',
    parcelId: randomUUID(),
    massMg: 4_900_000,
  });
  await put(`/api/steps/${sort}/close`, { remainder: 'dust', remainderId: randomUUID(), handsOnMinutes: 40 });
  return { batch, oven, token };
}

test('a whole live roast: plan, beans in, hands, alarm, reload, a killed server, beans out, compare; nothing is missing', async ({
  page,
}) => {
  test.setTimeout(300_000);
  const directory = mkdtempSync(join(tmpdir(), 'wunsch-roast-'));
  const port = await freePort();
  const base = `http://127.0.0.1:${port}`;
  let server = await startServer('server/dist/start.js', directory, port);
  let board: ChildProcess | null = null;
  try {
    const { batch, oven, token } = await makeWorkshop(page.request, base);
    await page.goto(`${base}/roast/${batch}`);
    const main = page.getByRole('main');

    // Plan: a starter, an aim worked out, and a stage moved by key.
    await main.getByRole('radio', { name: /^low and long/ }).click();
    await main.getByText('Aim, and working the plan out for it').click();
    await main.getByLabel('Roast dose', { exact: true }).fill('12');
    await main.getByRole('button', { name: 'Work out the plan' }).click();
    await expect(main.getByText(/Roast dose: .* as wished/)).toBeVisible({ timeout: 60_000 });
    const level = main.getByRole('slider', { name: 'Oven setting of soak' });
    const before = Number(await level.getAttribute('aria-valuenow'));
    await level.focus();
    await page.keyboard.press('ArrowUp');
    await expect(level).toHaveAttribute('aria-valuenow', String(before + 1));
    await expect(main.getByText(/Expected at the end: dose \d/)).toBeVisible({ timeout: 20_000 });

    // Beans in; the board speaks.
    await main.getByRole('button', { name: 'Beans in' }).click();
    await page.getByRole('button', { name: 'Weigh a part' }).first().click();
    await weigh(page, '2450');
    await expect(main.getByText('Beans out in')).toBeVisible();
    const lines: string[] = [];
    board = spawn(
      'node',
      [
        join(root, 'standins/dist/oven.js'),
        '--token',
        token,
        '--url',
        base,
        '--speed',
        '30',
        '--every',
        '4',
        '--load',
        '2.45',
        '--dropout',
        '0.02',
      ],
      { stdio: ['ignore', 'pipe', 'inherit'] },
    );
    board.stdout!.on('data', (d: Buffer) => lines.push(d.toString()));
    await expect(main.getByText('Sharp acids driven off')).toBeVisible({ timeout: 30_000 });
    await main.getByRole('button', { name: /^Smells of baking/ }).click();

    // The alarm for the missed stir is heard on another screen, and answered.
    await page.goto(`${base}/ledger`);
    await expect(page.getByRole('alert').getByText(/stir due/)).toBeVisible({ timeout: 40_000 });
    await page.getByRole('alert').getByRole('link').click();
    await main.getByRole('button', { name: /^Stirred/ }).click();

    await page.reload();
    await expect(main.getByText('Sharp acids driven off')).toBeVisible({ timeout: 30_000 });

    // A power cut in the middle.
    const killed = new Promise((resolve) => server.once('exit', resolve));
    server.kill('SIGKILL');
    await killed;
    await page.waitForTimeout(1500);
    server = await startServer('server/dist/start.js', directory, port);
    await expect(main.getByRole('button', { name: /^Smells of baking/ })).toContainText('last +', {
      timeout: 20_000,
    });
    await page.waitForTimeout(6000);

    // Beans out.
    await main.getByRole('button', { name: /^Beans out/ }).click();
    await weigh(page, '2312');
    await expect(main.getByRole('heading', { name: 'Loads that are out' })).toBeVisible();
    await new Promise((resolve) => (board!.exitCode === null ? board!.once('exit', resolve) : resolve(null)));
    const taken = Number(/(\d+) readings were taken/.exec(lines.join(''))![1]);
    const [roast] = (await (
      await page.request.get(`${base}/api/roasts?machineId=${oven}&width=600`)
    ).json()) as {
      step: { id: string };
      series: { count: number; place: string; points: [number, number][] }[];
    }[];
    expect(taken).toBeGreaterThan(300);
    expect(roast!.series.reduce((n, s) => n + s.count, 0)).toBe(taken);
    // Every 4 s of roast there is a reading, but for the few the board itself drops.
    const bean = roast!.series.find((s) => s.place === 'bean')!;
    const span = bean.points.at(-1)![0] - bean.points[0]![0];
    expect(bean.count).toBeGreaterThan((span / 4) * 0.93);

    // The second load, quickly and by hand, and the two compared.
    await main.getByLabel('Oven', { exact: true }).selectOption({ label: 'By hand: pan or flame' });
    await main.getByRole('button', { name: 'Beans in' }).click();
    await page.getByRole('button', { name: 'Weigh a part' }).first().click();
    await weigh(page, '2450');
    await main.getByRole('button', { name: /^Pops/ }).click();
    await main.getByRole('textbox', { name: 'Bean temperature' }).fill('96');
    await main.getByRole('button', { name: 'Take reading' }).click();
    await main.getByRole('button', { name: /^Beans out/ }).click();
    await weigh(page, '2310');
    await main.getByRole('link', { name: 'Compare these loads' }).click();
    await expect(page.getByRole('heading', { name: 'Compare roasts' })).toBeVisible();
    await expect(main.getByRole('cell', { name: 'LR-01 load 1' })).toBeVisible();
    await expect(main.getByRole('cell', { name: /5\.6/ })).toBeVisible();
  } finally {
    board?.kill();
    await stopServer(server);
    rmSync(directory, { recursive: true, force: true });
  }
});
