import { expect, test } from '@playwright/test';
import { enterDemo } from './maker.ts';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { makeProbed } from './probed.ts';
import { freePort, startServer, stopServer } from './servers.ts';

const kg = (n: number) => n * 1_000_000;

test('from an order to today’s list, to a step that slips and its repair; the same by keyboard alone', async ({
  page,
}) => {
  test.setTimeout(180_000);
  const directory = mkdtempSync(join(tmpdir(), 'wunsch-plan-'));
  const port = await freePort();
  const base = `http://127.0.0.1:${port}`;
  const server = await startServer('server/dist/start.js', directory, port);
  try {
    const { put } = await makeProbed(page.request, base, {
      machine: {
        name: 'Ida',
        station: 'grind',
        kind: 'stone grinder',
        minMg: kg(2),
        maxMg: kg(9),
      },
      lot: { code: 'NK', name: 'Nkondo', material: 'dry beans', massMg: kg(60) },
      batchCode: 'NK-01',
    });
    const read = async (path: string) => (await page.request.get(`${base}${path}`)).json();
    const shelf = (await read('/api/ingredients')) as { id: string; key: string }[];
    const ingredient = (key: string) => shelf.find((i) => i.key === key)!.id;
    const recipe = randomUUID();
    await put(`/api/recipes/${recipe}`, {
      name: 'Seventy',
      lines: [
        { ingredientId: ingredient('nibs'), massMg: 700_000 },
        { ingredientId: ingredient('cane-sugar'), massMg: 300_000 },
      ],
    });
    const lots = (await read('/api/lots')) as { id: string; parcelId?: string }[];
    const lotId = lots[0]!.id;
    // Everyone works every day of the week, so that the test runs on any of them.
    await put(`/api/work-hours/${randomUUID()}`, {
      timeZone: 'UTC',
      week: Array.from({ length: 7 }, () => [
        [480, 720],
        [780, 1080],
      ]),
    });
    const main = page.getByRole('main');

    // An order, asked for and promised, by keyboard alone.
    await page.goto(`${base}/plan`);
    const newOrder = main.getByRole('button', { name: 'New order' }).first();
    await newOrder.waitFor();
    await newOrder.focus();
    await page.keyboard.press('Enter');
    const dialog = page.getByRole('dialog');
    await dialog.getByLabel('Name', { exact: true }).focus();
    await page.keyboard.type('Harbour Café');
    await dialog.getByLabel('Lot').selectOption({ label: 'NK · Nkondo' });
    await dialog.getByLabel('Bars').focus();
    await page.keyboard.type('90');
    const due = new Date(Date.now() + 21 * 86_400_000).toISOString().slice(0, 10);
    await dialog.getByLabel('Wanted by').fill(due);
    await dialog.getByRole('button', { name: 'When could it be?' }).focus();
    await page.keyboard.press('Enter');
    await expect(dialog.getByText('Behind everything else, in four of five cases by')).toBeVisible({
      timeout: 20_000,
    });
    await expect(dialog.getByText('Nobody else has to wait for it.')).toBeVisible();
    await dialog.getByRole('button', { name: 'Promise it' }).focus();
    await page.keyboard.press('Enter');
    await expect(dialog).toBeHidden();

    // It is planned back to the beans; accepted, it is in force.
    const board = main.getByRole('group', { name: 'The board' });
    const block = (station: string) =>
      board.getByRole('button', { name: new RegExp(`^NK-02, ${station},`) }).first();
    await expect(block('Roast')).toBeVisible({ timeout: 20_000 });
    await page.getByRole('button', { name: 'Accept' }).focus();
    await page.keyboard.press('Enter');
    await expect(page.getByRole('button', { name: 'Accept' })).toHaveCount(0);

    // By the arrow keys along the batch, and a step an hour later.
    await block('Sort').focus();
    await page.keyboard.press('ArrowRight');
    await expect(block('Roast')).toBeFocused();
    const before = await block('Roast').getAttribute('aria-label');
    for (let k = 0; k < 4; k += 1) {
      await block('Roast').focus();
      await page.keyboard.press('Alt+ArrowDown');
      await expect(page.getByRole('heading', { name: 'Another plan' })).toBeVisible();
    }
    await expect(async () => {
      expect(await block('Roast').getAttribute('aria-label')).not.toBe(before);
    }).toPass();
    await page.getByRole('button', { name: 'Leave it' }).click();
    await expect(page.getByRole('heading', { name: 'Another plan' })).toHaveCount(0);

    // The list of whoever is signed in; the work itself ticks it off.
    await main.getByRole('link', { name: 'Lists' }).click();
    const sort = main.getByRole('link', { name: /NK-02 ?Sort/ });
    await expect(sort.first()).toBeVisible();
    const batch = randomUUID();
    const step = randomUUID();
    const [parcel, sorted] = [(await read(`/api/lots/${lotId}`)).lot.parcelId as string, randomUUID()];
    await put(`/api/batches/${batch}`, { code: 'NK-02', lotId, recipeId: recipe });
    await put(`/api/steps/${step}`, { batchId: batch, station: 'sort' });
    await put(`/api/movements/${randomUUID()}`, {
      stepId: step,
      direction: 'in',
      parcelId: parcel,
      massMg: kg(9),
    });
    await put(`/api/movements/${randomUUID()}`, {
      stepId: step,
      direction: 'out',
      parcelId: sorted,
      material: 'sorted beans',
      massMg: kg(8.8),
    });
    await put(`/api/steps/${step}/close`, {
      remainder: 'rejects',
      remainderId: randomUUID(),
      handsOnMinutes: 40,
    });
    await expect(main.getByRole('link', { name: /NK-02 ?Roast/ }).first()).toBeVisible();
    await expect(sort).toHaveCount(0);

    // The grinder stands still for days: what has to moves, with the reason, and is accepted.
    await main.getByRole('link', { name: 'The board' }).click();
    await expect(block('Grind')).toBeVisible({ timeout: 20_000 });
    const machineId = ((await read('/api/plan')) as { machines: { id: string }[] }).machines[0]!.id;
    await put(`/api/absences/${randomUUID()}`, {
      who: machineId,
      from: new Date().toISOString(),
      to: new Date(Date.now() + 9 * 86_400_000).toISOString(),
      reason: 'new belt',
    });
    await expect(page.getByText(/steps? lies? elsewhere|steps lie elsewhere/)).toBeVisible({
      timeout: 20_000,
    });
    await expect(page.getByText('Ida is away').first()).toBeVisible({ timeout: 20_000 });
    await page.getByRole('button', { name: 'Accept' }).click();
    await expect(page.getByText(/steps lie elsewhere/)).toHaveCount(0);
    const kept = ((await read('/api/plan')) as { kept: { steps: { stage: string; start: string }[] } }).kept;
    const grind = kept.steps.filter((s) => s.stage === 'grind').map((s) => Date.parse(s.start));
    expect(Math.min(...grind)).toBeGreaterThan(Date.now() + 8 * 86_400_000);

    // The calendar of this person, by an address of its own, revoked again.
    await main.getByRole('link', { name: 'Lists' }).click();
    await main.getByRole('button', { name: 'Calendar' }).click();
    await dialog.getByRole('button', { name: 'Make a private address' }).click();
    const address = await dialog.getByLabel('Give this address to your calendar').inputValue();
    const calendar = await (await page.request.get(address)).text();
    expect(calendar).toContain('BEGIN:VEVENT');
    await dialog.getByRole('button', { name: 'Revoke' }).click();
    await expect(async () => {
      expect((await page.request.get(address)).status()).toBe(404);
    }).toPass();
  } finally {
    await stopServer(server);
    rmSync(directory, { recursive: true, force: true });
  }
});

test('the board prints on A3, with the names of its columns', async ({ page }) => {
  await enterDemo(page);
  await page.goto(`${process.env.DEMO_URL}/plan`);
  await expect(page.getByRole('group', { name: 'The board' })).toBeVisible();
  const pdf = (await page.pdf({ preferCSSPageSize: true })).toString('latin1');
  const [, width, height] = /\/MediaBox \[0 0 ([\d.]+) ([\d.]+)\]/.exec(pdf)!;
  // 420 × 297 mm in points.
  expect(Number(width) / 72).toBeCloseTo(420 / 25.4, 1);
  expect(Number(height) / 72).toBeCloseTo(297 / 25.4, 1);
  await page.emulateMedia({ media: 'print' });
  await expect(page.getByText('Winnow', { exact: true }).filter({ visible: true })).toBeVisible();
  await page.emulateMedia({ media: null });
});
