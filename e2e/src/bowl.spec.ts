import { expect, test } from '@playwright/test';
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

test('a whole bowl live: plan, probe, advice, a stir pause, reload, a killed server, poured, moulded, wrapped and labelled; nothing is missing', async ({
  page,
}) => {
  test.setTimeout(240_000);
  const directory = mkdtempSync(join(tmpdir(), 'wunsch-bowl-'));
  const port = await freePort();
  const base = `http://127.0.0.1:${port}`;
  let server = await startServer('server/dist/start.js', directory, port);
  let board: ChildProcess | null = null;
  try {
    const { batch, token, put } = await makeProbed(page.request, base, {
      machine: { name: 'Copper bowl', station: 'temper', kind: 'bowl', minMg: null, maxMg: 5_000_000 },
      lot: {
        code: 'CV',
        name: 'Couverture',
        material: 'couverture',
        massMg: 10_000_000,
        sheet: { maker: 'Hollow Lane', kind: 'dark', cacao: 65, fat: 38, workLowC: 30.5, workHighC: 32 },
      },
      batchCode: 'CV-01',
    });
    await put(`/api/supplies/${randomUUID()}`, {
      name: 'Foil',
      massMg: 500_000,
      count: 500,
      receivedOn: '2026-09-01',
      stepId: randomUUID(),
      movementId: randomUUID(),
      parcelId: randomUUID(),
    });
    await page.goto(`${base}/temper/${batch}`);
    const main = page.getByRole('main');
    await main.getByRole('radio', { name: 'on the table' }).click();
    await main.getByRole('button', { name: 'Weigh chocolate in' }).click();
    await page.getByRole('button', { name: 'Weigh a part' }).first().click();
    await weigh(page, '4200');
    // Before the first reading its path stands there already.
    await expect(main.getByText('planned path')).toBeVisible();

    const lines: string[] = [];
    board = spawn(
      'node',
      [
        join(root, 'standins/dist/bowl.js'),
        ...['--token', token, '--url', base, '--speed', '60', '--every', '6', '--seed', '2'],
        ...['--dropout', '0.02', '--spikes', '0.01'],
      ],
      { stdio: ['ignore', 'pipe', 'inherit'] },
    );
    board.stdout!.on('data', (d: Buffer) => lines.push(d.toString()));
    const advice = main.getByTestId('advice');
    await expect(advice).toContainText('Melt on to 46', { timeout: 30_000 });
    await expect(advice).toContainText(/Stir on, down to 27.5/, { timeout: 40_000 });
    await main.getByRole('radio', { name: 'now and then' }).click();
    await expect(main.getByRole('radio', { name: 'now and then' })).toBeChecked();
    await page.reload();
    await expect(advice).toContainText(/Stir on|Hold it here|Warm gently/, { timeout: 30_000 });

    await main.getByRole('radio', { name: 'steadily' }).click();

    // A power cut in the middle.
    const killed = new Promise((resolve) => server.once('exit', resolve));
    server.kill('SIGKILL');
    await killed;
    await page.waitForTimeout(1000);
    server = await startServer('server/dist/start.js', directory, port);
    await expect(advice).toContainText('Pour now', { timeout: 60_000 });
    await expect(main.getByText('If it were poured now')).toBeVisible();
    // A future is tried and drawn.
    const again = main.getByRole('button', { name: /^a second cool step/ });
    await again.click();
    await expect(again).toHaveAttribute('aria-pressed', 'true');

    // One tap: the bowl has ended, and all of it stands at the moulds.
    await advice.getByRole('button', { name: 'Pour all of it into moulds' }).click();
    await expect(page).toHaveURL(new RegExp(`/mould/${batch}`));
    await expect(main.getByText('4.20 kg to pour')).toBeVisible();
    await main.getByRole('button', { name: 'Add a mould' }).first().click();
    const dialog = page.getByRole('dialog');
    await dialog.getByLabel('Name').fill('Flat bar');
    await dialog.getByLabel('Cavities of a mould').fill('5');
    await dialog.getByLabel('Fill of a cavity').fill('60');
    await dialog.getByLabel('How many there are').fill('8');
    await dialog.getByRole('button', { name: 'Save' }).click();
    await expect(dialog).toBeHidden();
    await main.getByLabel('Stays in bowl and tools').fill('30');
    // (4200 − 30) ÷ 60 is 69 bars: 14 fills, eight at once.
    await main.getByRole('button', { name: 'Round 1 is in, 40 bars' }).click();
    await expect(main.getByRole('button', { name: 'Round 2 is in, 29 bars' })).toBeVisible();
    await main.getByRole('button', { name: 'Round 1 is out' }).click();
    await expect(main.getByRole('button', { name: 'Round 1 is out' })).toHaveCount(0);
    await main.getByRole('button', { name: 'Record 69 bars' }).click();
    // Wrapped off the stock: five boxes of twelve and nine loose.
    await main.getByRole('button', { name: 'Wrap these' }).click();
    await expect(main.getByTestId('wrap-makes')).toHaveText('5 boxes and 9 loose');
    await main.getByLabel('Wrapping, one a bar').selectOption({ label: 'Foil, 500 left' });
    await main.getByRole('button', { name: 'Record 69 bars wrapped' }).click();
    await expect(main.getByRole('button', { name: 'Wrap these' })).toHaveCount(0);
    const foil = (await (await page.request.get(`${base}/api/supplies`)).json()) as {
      remainingCount: number;
    }[];
    expect(foil[0]!.remainingCount).toBe(431);
    // The label says what is missing, and what is printed is a PDF with the bars' own words.
    await main.getByRole('link', { name: 'Print the label' }).click();
    await expect(main.getByRole('heading', { name: 'Dark chocolate' })).toBeVisible();
    await expect(main.getByText(/The maker’s address is not on it/)).toBeVisible();
    const href = await main.getByRole('link', { name: /^All 69/ }).getAttribute('href');
    const pdf = await page.request.get(`${base}${href}`);
    expect(pdf.headers()['content-type']).toContain('application/pdf');
    expect((await pdf.body()).subarray(0, 5).toString()).toBe('%PDF-');
    await main.getByRole('checkbox', { name: 'German' }).check();
    await main.getByRole('checkbox', { name: 'English' }).uncheck();
    await expect(main.getByRole('heading', { name: 'Dunkle Schokolade' })).toBeVisible();
    await new Promise((resolve) => (board!.exitCode === null ? board!.once('exit', resolve) : resolve(null)));
    // What is really in the bowl, and what the page said of it, agree.
    expect(lines.join('')).toMatch(/cast then it would have been: good/);
    const taken = Number(/(\d+) readings were taken/.exec(lines.join(''))![1]);
    const view = (await (await page.request.get(`${base}/api/batches/${batch}`)).json()) as {
      series: { place: string; count: number }[];
    };
    expect(taken).toBeGreaterThan(300);
    expect(view.series.filter((s) => s.place === 'bowl').reduce((n, s) => n + s.count, 0)).toBe(taken);
  } finally {
    board?.kill();
    await stopServer(server);
    rmSync(directory, { recursive: true, force: true });
  }
});
