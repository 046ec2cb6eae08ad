import { expect, test } from '@playwright/test';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { makeProbed } from './probed.ts';
import { freePort, startServer, stopServer } from './servers.ts';

const kg = (n: number) => Math.round(n * 1_000_000);
const at = (minutes: number) => new Date(Date.parse('2026-10-05T08:00:00Z') + minutes * 60_000).toISOString();

test('from the code on a bar to its maker: told of, explained by the record, answered, closed, and remembered at the bowl', async ({
  page,
  browser,
}) => {
  test.setTimeout(180_000);
  const directory = mkdtempSync(join(tmpdir(), 'wunsch-cases-'));
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

    // Nothing is wrong in an empty workshop, and it says so.
    await page.goto(`${base}/ledger?sheet=cases`);
    await expect(main.getByText(/^Nothing is wrong\./)).toBeVisible();

    // A bowl that was forgotten on the water: 34 °C for twelve minutes.
    const [temper, mould, poured, bars] = [0, 0, 0, 0].map(() => randomUUID()) as [
      string,
      string,
      string,
      string,
    ];
    await put(`/api/steps/${temper}`, {
      batchId: batch,
      station: 'temper',
      startedAt: at(0),
      details: { method: 'table', chocolateType: 'dark' },
    });
    const move = (stepId: string, direction: 'in' | 'out', parcelId: string, more: object = {}) =>
      put(`/api/movements/${randomUUID()}`, { stepId, direction, parcelId, massMg: kg(6), ...more });
    const shut = (step: string) =>
      put(`/api/steps/${step}/close`, { remainder: null, remainderId: randomUUID(), handsOnMinutes: 30 });
    await move(temper, 'in', parcel);
    for (const [minute, celsius] of [
      [0, 46],
      [8, 36],
      [14, 29],
      [18, 27.5],
      [22, 29.5],
      [26, 31.4],
      [28, 34.1],
      [34, 34.3],
      [40, 34],
      [41, 31.9],
    ] as const)
      await put(`/api/observations/${randomUUID()}`, {
        stepId: temper,
        at: at(minute),
        data: { kind: 'temperature', place: 'bowl', celsius },
      });
    await move(temper, 'out', poured, { material: 'tempered chocolate' });
    await shut(temper);
    await put(`/api/steps/${mould}`, {
      batchId: batch,
      station: 'mould',
      startedAt: at(45),
      details: { barCode: 'NK01A', bestBefore: '2028-04-05', labelName: 'Nkondo 70' },
    });
    await move(mould, 'in', poured);
    await move(mould, 'out', bars, { material: 'bars', count: 120, place: 'shelf' });
    await shut(mould);

    // Whoever has the bar finds nothing until its maker has switched the page on.
    const stranger = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage();
    await stranger.goto(`${base}/bar/NK01A`);
    await expect(stranger.getByRole('heading', { name: 'No page' })).toBeVisible();
    await page.goto(`${base}/batch/${batch}`);
    await main.getByRole('button', { name: 'Switch on …' }).click();
    await dialog.getByLabel('A few words of your own').fill('Made by the sea.');
    await dialog.getByRole('button', { name: 'Save' }).click();
    await expect(main.getByRole('link', { name: /\/bar\/NK01A/ })).toBeVisible();
    await stranger.reload();
    await expect(stranger.getByRole('heading', { name: 'Nkondo 70' })).toBeVisible();
    await expect(stranger.getByText('Made by the sea.')).toBeVisible();
    expect(await stranger.context().cookies()).toEqual([]);

    // They tell what is wrong with it.
    await stranger.getByRole('button', { name: 'Something is wrong with this bar' }).click();
    await stranger.getByRole('button', { name: 'Grey streaks or swirls' }).click();
    await stranger.getByLabel('In your own words').fill('Grey all over, and soft.');
    await stranger.getByLabel('Where has it been kept?').fill('In a cupboard.');
    await stranger.getByLabel('Your name, if you like').fill('Ina');
    await stranger.getByRole('button', { name: 'Send to the maker' }).click();
    await expect(stranger.getByText('Thank you. The maker has it now.')).toBeVisible();

    // The maker sees it, with the likeliest cause out of this very bowl's record.
    await page.goto(`${base}/ledger?sheet=cases`);
    await main.getByRole('link', { name: '1', exact: true }).click();
    await expect(main.getByRole('heading', { name: 'Case 1' })).toBeVisible();
    await expect(main.getByText('Grey all over, and soft.')).toBeVisible();
    const first = main
      .getByRole('listitem')
      .filter({ has: page.getByRole('heading', { level: 3 }) })
      .first();
    await expect(first).toContainText('The seed melted: the bowl stood above its window');
    await expect(first).toContainText('up to 34.3 °C');
    await expect(main.getByText('Of 120 bars, 120 are here and 0 went to customers.')).toBeVisible();

    // One question moves the odds; the answer is kept and can be taken back.
    const question = main.getByText('One question');
    if (await question.isVisible()) {
      await main.getByRole('button', { name: 'No', exact: true }).click();
      await expect(main.getByRole('heading', { name: 'What was answered' })).toBeVisible();
    }
    await expect(main.getByLabel('A reply')).toHaveValue(/Dear Ina,[\s\S]*NK01A[\s\S]*can be eaten/);
    await main.getByRole('button', { name: 'Set what is here aside' }).click();
    await expect(main.getByText('on hold')).toBeVisible();

    // Closing it reminds the bowl next time, until somebody says it is not needed any more.
    await main.getByRole('button', { name: 'Close the case …' }).click();
    await dialog.getByLabel('What was done').fill('Sent another bar.');
    await dialog.getByRole('button', { name: 'Close it' }).click();
    await expect(main.getByText(/^✓?\s*Closed .* by OB$/)).toBeVisible();
    await page.goto(`${base}/temper/${batch}`);
    const reminders = main.getByRole('region', { name: 'To remember here' });
    await expect(reminders).toContainText('Lift the bowl off the warmth');
    await reminders.getByRole('button', { name: 'No longer needed' }).click();
    await expect(reminders).toHaveCount(0);
    // A scanner that types opens the thing wherever one is, and none of its signs does what its key would.
    await page.goto(`${base}/settings`);
    await main.getByRole('heading', { name: 'Settings' }).waitFor();
    // It is faster than a test's keyboard, which waits for the page at every sign.
    await page.evaluate(() => {
      for (const key of [...'NK01A', 'Enter'])
        document.body.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
    });
    await expect(page).toHaveURL(new RegExp(`/batch/${batch}$`));
    await stranger.context().close();
  } finally {
    await stopServer(server);
    rmSync(directory, { recursive: true, force: true });
  }
});
