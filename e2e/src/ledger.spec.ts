import { expect, test } from '@playwright/test';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { makeProbed } from './probed.ts';
import { freePort, startServer, stopServer } from './servers.ts';

const kg = (n: number) => Math.round(n * 1_000_000);

test('from bars on a shelf to a customer, back again, counted, traced and recalled; the books come out even', async ({
  page,
}) => {
  test.setTimeout(180_000);
  const directory = mkdtempSync(join(tmpdir(), 'wunsch-ledger-'));
  const port = await freePort();
  const base = `http://127.0.0.1:${port}`;
  const server = await startServer('server/dist/start.js', directory, port);
  try {
    const { put, batch, parcel } = await makeProbed(page.request, base, {
      machine: { name: 'Cabinet', station: 'mould', kind: 'cabinet', places: 60 },
      lot: { code: 'NK', name: 'Nkondo', material: 'chocolate', massMg: kg(20), pricePerKg: 900 },
      batchCode: 'NK-01',
    });
    const main = page.getByRole('main');
    const dialog = page.getByRole('dialog');
    const sheet = (name: string) => main.getByRole('tab', { name });

    // Before the first bar there is nothing to deliver, and no cost.
    await page.goto(`${base}/ledger?sheet=deliveries`);
    await expect(main.getByText('Nothing has been delivered yet.')).toBeVisible();
    await sheet('Cost').click();
    await expect(main.getByRole('heading', { name: 'No bars yet' })).toBeVisible();

    const mould = randomUUID();
    await put(`/api/steps/${mould}`, {
      batchId: batch,
      station: 'mould',
      details: { barCode: 'NK01A', bestBefore: '2027-09-01' },
    });
    await put(`/api/movements/${randomUUID()}`, {
      stepId: mould,
      direction: 'in',
      parcelId: parcel,
      massMg: kg(6.1),
    });
    await put(`/api/movements/${randomUUID()}`, {
      stepId: mould,
      direction: 'out',
      parcelId: randomUUID(),
      material: 'bars',
      massMg: kg(6),
      count: 120,
      place: 'shelf',
    });
    await put(`/api/steps/${mould}/close`, {
      remainder: 'hold-up',
      remainderId: randomUUID(),
      handsOnMinutes: 30,
    });

    // Forty of them go to the shop, by keyboard.
    await sheet('Stock').click();
    const bars = main.getByRole('checkbox', { name: 'Choose NK-01 Bars' });
    await bars.focus();
    await page.keyboard.press('Space');
    await main.getByRole('button', { name: 'Move' }).focus();
    await page.keyboard.press('Enter');
    await dialog.getByLabel('To', { exact: true }).fill('shop');
    await dialog.getByLabel('Pieces').fill('40');
    await page.keyboard.press('Enter');
    await expect(dialog).toBeHidden();
    await main.getByRole('radio', { name: 'By place' }).click();
    await expect(main.getByRole('row', { name: /shop 1/ })).toContainText('40');
    await expect(main.getByText('even, to the milligram')).toBeVisible();

    // A new customer takes thirty of those in the shop; four come back.
    await main.getByLabel('At', { exact: true }).selectOption('shop');
    await expect(bars).toHaveCount(1);
    await bars.check();
    await main.getByRole('button', { name: 'Deliver' }).click();
    await dialog.getByLabel('Name', { exact: true }).fill('Harbour Café');
    await dialog.getByLabel('Pieces').fill('30');
    await dialog.getByLabel('Price each').fill('4.10');
    await page.keyboard.press('Tab');
    await expect(dialog.getByText('€123.00 in all.')).toBeVisible();
    await dialog.getByRole('button', { name: 'Deliver' }).click();
    await expect(dialog).toBeHidden();
    await sheet('Deliveries').click();
    await expect(main.getByText('Harbour Café')).toBeVisible();
    const [delivery] = (await (await page.request.get(`${base}/api/deliveries`)).json()) as { id: string }[];
    const note = await page.request.get(`${base}/api/deliveries/${delivery!.id}/note.pdf?language=de`);
    expect((await note.body()).subarray(0, 5).toString()).toBe('%PDF-');
    await main.getByRole('button', { name: 'Comes back' }).click();
    await dialog.getByLabel('Pieces').fill('4');
    await dialog.getByLabel('Why').fill('wet box');
    await dialog.getByRole('button', { name: 'Take it back' }).click();
    await expect(main.getByText('4 came back')).toBeVisible();

    // The shop is counted: two are missing, and nobody knows where.
    await page.goto(`${base}/ledger/count?place=shop`);
    const found = main.getByLabel('Found');
    await found.first().fill('8');
    await page.keyboard.press('Tab');
    await main.getByLabel('−2, because').selectOption('mislaid');
    await main.getByRole('button', { name: 'Keep 1 count' }).click();
    await expect(page).toHaveURL(/\/ledger$/);

    // The code on a bar leads to all of them: how many are where, and who is to be told.
    await sheet('Trace').click();
    await main.getByLabel('Code off a bar, box, batch or sack').fill('NK');
    await page.keyboard.press('Enter');
    await expect(main.getByRole('heading', { name: 'Where NK went' })).toBeVisible();
    await expect(main.getByText('118 of 120')).toBeVisible();
    await expect(page.getByText('Harbour Café').first()).toBeVisible();
    await page.getByRole('button', { name: 'Recall it …' }).click();
    await dialog.getByRole('radio', { name: /in earnest/ }).click();
    await dialog.getByLabel('Why').fill('the laboratory found something');
    await dialog.getByRole('button', { name: 'Set aside and keep' }).click();
    await expect(dialog).toBeHidden();
    await expect(page.getByText('Nothing of it is here that has not been set aside.')).toBeVisible();
    await main.getByRole('link', { name: 'Another trace' }).click();
    await expect(main.getByText('the laboratory found something')).toBeVisible();

    // Set aside, nothing of it is delivered.
    await sheet('Stock').click();
    await expect(main.getByText(/on hold: the laboratory found something/).first()).toBeVisible();

    // And what a bar of it costs stands beside what it brought.
    await sheet('Cost').click();
    await expect(main.getByRole('heading', { name: 'Why a bar of NK-01 costs what it costs' })).toBeVisible();
    const before = await main.getByText(/^€\d/).first().innerText();
    await main.getByRole('slider', { name: /price of cacao/ }).focus();
    await page.keyboard.press('ArrowRight');
    await expect(main.getByText(/^€\d/).first()).not.toHaveText(before);
    await expect(main.getByText('instead of')).toBeVisible();
  } finally {
    await stopServer(server);
    rmSync(directory, { recursive: true, force: true });
  }
});
