import { expect, test } from '@playwright/test';
import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { weigh } from './maker.ts';
import { makeProbed } from './probed.ts';
import { freePort, startServer, stopServer } from './servers.ts';

const root = fileURLToPath(new URL('../..', import.meta.url));

test('a whole bowl live: plan, probe, advice, a stir pause, reload, a killed server, pour; nothing is missing', async ({
  page,
}) => {
  test.setTimeout(240_000);
  const directory = mkdtempSync(join(tmpdir(), 'wunsch-bowl-'));
  const port = await freePort();
  const base = `http://127.0.0.1:${port}`;
  let server = await startServer('server/dist/start.js', directory, port);
  let board: ChildProcess | null = null;
  try {
    const { batch, token } = await makeProbed(page.request, base, {
      machine: { name: 'Copper bowl', station: 'temper', kind: 'bowl', minMg: null, maxMg: 5_000_000 },
      lot: {
        code: 'CV',
        name: 'Couverture',
        material: 'couverture',
        massMg: 10_000_000,
        sheet: { maker: 'Hollow Lane', kind: 'dark', fat: 38, workLowC: 30.5, workHighC: 32 },
      },
      batchCode: 'CV-01',
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

    await advice.getByRole('button', { name: 'Weigh tempered chocolate' }).click();
    await weigh(page, '4180');
    await expect(main.getByRole('heading', { name: /^Temper, .*done/ })).toBeVisible();
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
