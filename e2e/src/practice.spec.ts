import { expect, test } from '@playwright/test';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { makeProbed } from './probed.ts';
import { freePort, startServer, stopServer } from './servers.ts';

test('a bowl practised on the real screen: held, judged, poured, scored with what really went on, and signed off', async ({
  page,
}) => {
  test.setTimeout(180_000);
  const directory = mkdtempSync(join(tmpdir(), 'wunsch-practice-'));
  const port = await freePort();
  const base = `http://127.0.0.1:${port}`;
  const server = await startServer('server/dist/start.js', directory, port);
  try {
    await makeProbed(page.request, base, {
      machine: { name: 'Bowl', station: 'temper', kind: 'bowl' },
      lot: { code: 'NK', name: 'Nkondo', material: 'chocolate', massMg: 20_000_000 },
      batchCode: 'NK-01',
    });
    const main = page.getByRole('main');
    const before = await (await page.request.get(`${base}/api/stock`)).json();
    await page.goto(`${base}/practice`);
    await main.getByRole('radio', { name: /^Temper/ }).click();
    await main.getByRole('radio', { name: '60 times' }).click();
    await main.getByRole('button', { name: 'Take the bowl' }).click();
    await expect(main.getByRole('heading', { name: /PR-01/ })).toBeVisible();
    await main.getByRole('radio', { name: 'over cool water' }).click();

    // Held, the clock stands, and hands are idle.
    await main.getByRole('button', { name: 'Hold the clock' }).click();
    await expect(main.getByText(/^Held\. Nothing goes on/)).toBeVisible();
    await expect(main.getByRole('radio', { name: 'on warm water' })).toBeDisabled();
    await main.getByRole('button', { name: 'How does it stand' }).click();
    await expect(main.getByRole('heading', { name: 'As it stands now' })).toBeVisible();
    await main.getByRole('button', { name: 'Hide how it stands' }).click();
    await main.getByRole('button', { name: 'Go on' }).click();

    // The station's own advice is followed: cold enough, back on warm water, off, and poured.
    await expect(main.getByText(/Hold it here and stir|Warm gently/).first()).toBeVisible({
      timeout: 30_000,
    });
    await main.getByRole('radio', { name: 'on warm water' }).click();
    await page.waitForTimeout(1500);
    await main.getByRole('radio', { name: 'on the bench' }).click();
    await main.getByRole('button', { name: 'Pour all of it into moulds' }).first().click();
    await expect(main.getByRole('heading', { name: 'What it came to' })).toBeVisible({ timeout: 15_000 });
    await expect(main.getByRole('img', { name: /Temperatures of \d+ minutes/ })).toBeVisible();
    for (const mark of [
      'Crystals',
      'In the window when poured',
      'Melted out before',
      'Kept moving while cool',
    ])
      await expect(main.getByText(mark, { exact: true })).toBeVisible();

    // A reload finds it again; ended, only the score is left, and the workshop is as it was.
    await page.reload();
    await expect(main.getByRole('heading', { name: 'What it came to' })).toBeVisible();
    await main.getByRole('button', { name: 'Stop practising' }).click();
    await expect(main.getByRole('radio', { name: /^Temper/ })).toBeVisible();
    await main.getByRole('radio', { name: /^Temper/ }).click();
    await expect(main.getByRole('radio', { name: /^First/ })).toContainText(/best \d+ of 100, 1 time/);
    expect(await (await page.request.get(`${base}/api/stock`)).json()).toEqual(before);

    await page.goto(`${base}/settings`);
    const skill = main.getByRole('switch', { name: 'Olga, Temper' });
    await expect(skill).not.toBeChecked();
    await skill.click();
    await expect(skill).toBeChecked();
    await expect(skill).toHaveText('OB');
  } finally {
    await stopServer(server);
    rmSync(directory, { recursive: true, force: true });
  }
});

test('an empty workshop leads through its first batch, one step after the other', async ({ page }) => {
  test.setTimeout(120_000);
  const directory = mkdtempSync(join(tmpdir(), 'wunsch-steps-'));
  const port = await freePort();
  const base = `http://127.0.0.1:${port}`;
  const server = await startServer('server/dist/start.js', directory, port);
  try {
    await makeProbed(page.request, base, {
      machine: { name: 'Oven', station: 'roast', kind: 'fan oven', minMg: 500_000, maxMg: 3_000_000 },
      lot: { code: 'NK', name: 'Nkondo', material: 'dry beans', massMg: 20_000_000 },
      batchCode: 'NK-01',
    });
    const main = page.getByRole('main');
    await page.goto(base);
    await expect(main.getByRole('heading', { name: 'Your first batch' })).toBeVisible();
    const now = main.locator('[aria-current=step]');
    await expect(now).toContainText('Sort the beans');
    await now.getByRole('link').click();
    await expect(page).toHaveURL(/\/sort\//);
    // Put away it stays away.
    await page.goto(base);
    await main.getByRole('button', { name: 'Put this away' }).click();
    await expect(main.getByRole('heading', { name: 'Your first batch' })).toBeHidden();
    await page.reload();
    await expect(main.getByRole('heading', { name: 'Bench' })).toBeVisible();
    await expect(main.getByRole('heading', { name: 'Your first batch' })).toBeHidden();
  } finally {
    await stopServer(server);
    rmSync(directory, { recursive: true, force: true });
  }
});

test('winnowing practised: air turned by hand, both bins picked and noted on the station’s page, and judged as it stands', async ({
  page,
}) => {
  test.setTimeout(120_000);
  const directory = mkdtempSync(join(tmpdir(), 'wunsch-practice-'));
  const port = await freePort();
  const base = `http://127.0.0.1:${port}`;
  const server = await startServer('server/dist/start.js', directory, port);
  try {
    await makeProbed(page.request, base, {
      machine: { name: 'Ida', station: 'winnow', kind: 'winnower' },
      lot: { code: 'NK', name: 'Nkondo', massMg: 20_000_000 },
      batchCode: 'NK-01',
    });
    const main = page.getByRole('main');
    await page.goto(`${base}/practice`);
    await main.getByRole('radio', { name: /^Winnow/ }).click();
    await expect(main.getByRole('radio', { name: '5 times' })).toBeVisible();
    await main.getByRole('button', { name: 'Fill the hopper' }).click();
    await expect(main.getByRole('heading', { name: /PR-01/ })).toBeVisible();
    await expect(main.getByRole('button', { name: 'Pick husk out of nibs' })).toBeDisabled();
    // By keyboard: one step gentler than the middle.
    await main.getByRole('slider', { name: 'Air' }).focus();
    await page.keyboard.press('ArrowLeft');
    for (let left = 7; left >= 0; left -= 1) {
      await main.getByRole('button', { name: 'Run half a kilo' }).click();
      await expect(
        main.getByText(left > 0 ? new RegExp(`^${left} portions? left`) : /^The hopper is empty/),
      ).toBeVisible();
    }
    await main.getByRole('button', { name: 'Pick nib out of husk' }).click();
    const told = main.getByText(/pieces of nib/);
    await expect(told).toBeVisible();
    const [, pieces, grams] = /(\d+) pieces of nib, ([\d.]+)\sg/.exec((await told.textContent())!)!;
    // What hands found goes into the page as it would at work.
    await main.getByRole('radio', { name: 'Nib in the husk' }).click();
    await main.getByLabel('Sample', { exact: true }).fill('100 g');
    await main.getByLabel('Nib found').fill(`${grams} g`);
    await main.getByLabel('Pieces, if counted').fill(pieces!);
    await main.getByRole('button', { name: 'Keep the sample' }).click();
    await main.getByRole('button', { name: 'How does it stand' }).click();
    await expect(main.getByText('1 of 2 were noted.')).toBeVisible({ timeout: 15_000 });
    await expect(main.getByText('Nib blown away', { exact: true })).toBeVisible();
  } finally {
    await stopServer(server);
    rmSync(directory, { recursive: true, force: true });
  }
});
