import { expect, test } from '@playwright/test';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { makeProbed } from './probed.ts';
import { freePort, startServer, stopServer } from './servers.ts';

/** A book of batches as a German program saves it: decimal commas, Windows’ letters, a title, a sum. */
const BATCHES = [
  'Unsere Chargen seit März',
  'Charge;Partie;Datum;Rohbohnen (kg);Geröstet (kg);Bruch (kg);Zucker (kg);Schokolade (kg);Tafeln;Tafelgewicht (g)',
  'AL-01;NK;03.04.2024;2,5;2,36;1,87;0,8;2,61;36;70',
  'AL-02;NK;17.04.2024;2,5;2,355;1,866;0,8;2,6;36;70',
  'AL-03;QQ;24.04.2024;2,5;2,355;1,866;0,8;2,6;36;70',
  'AL-04;NK;31.04.2024;2,5;zwei;1,866;0,8;2,6;36;70',
  'Summe;;;10;;;;;;',
].join('\r\n');

test('an old spreadsheet goes in and out again, and the whole workshop goes into another one as a file', async ({
  page,
  browser,
}) => {
  test.setTimeout(180_000);
  const [home, other] = ['home', 'other'].map((n) => mkdtempSync(join(tmpdir(), `wunsch-files-${n}-`)));
  const port = await freePort();
  const base = `http://127.0.0.1:${port}`;
  const server = await startServer('server/dist/start.js', home!, port);
  try {
    await makeProbed(page.request, base, {
      machine: { name: 'Ida', station: 'grind', minMg: 2_000_000, maxMg: 9_000_000 },
      lot: { code: 'NK', name: 'Nkondo', material: 'dry beans', massMg: 60_000_000 },
      batchCode: 'NK-01',
    });
    const main = page.getByRole('main');
    await page.goto(`${base}/ledger?sheet=files`);
    await main.getByRole('link', { name: 'Take over an old spreadsheet' }).click();
    const file = (name: string, content: Buffer) => ({ name, mimeType: 'text/csv', buffer: content });

    // What is no table is said to be none, and nothing is lost by it.
    await main
      .locator('input[type=file]')
      .setInputFiles(file('photo.csv', Buffer.from([0x89, 0x50, 0, 0, 0x0d])));
    await expect(main.getByRole('alert')).toContainText('This is no table that can be read');

    await main.locator('input[type=file]').setInputFiles(file('chargen.csv', Buffer.from(BATCHES, 'latin1')));
    await expect(main.getByRole('radio', { name: /A batch/ })).toBeChecked();
    await expect(main.getByText('2 rows will be taken over')).toBeVisible();
    await expect(main.getByText('row 5', { exact: true })).toBeVisible();
    await expect(main.getByText(/is no lot in the books/)).toBeVisible();
    await expect(main.getByText(/is no date/)).toBeVisible();
    // A column put elsewhere changes what is read, at once.
    await main.getByLabel('Bars', { exact: true }).selectOption({ label: 'not in the table' });
    await expect(main.getByRole('columnheader', { name: 'Bars' })).toBeHidden();
    await main.getByLabel('Bars', { exact: true }).selectOption({ label: 'Tafeln: 36' });
    await main.getByRole('button', { name: 'Take 2 rows over' }).click();
    await expect(page).toHaveURL(/sheet=files/);

    await page.goto(`${base}/ledger?sheet=stock`);
    await expect(main.getByText('AL-02').first()).toBeVisible();
    await page.goto(`${base}/ledger/import`);
    await main.getByRole('button', { name: 'Take back: chargen.csv' }).click();
    await expect(main.getByRole('button', { name: 'Take back: chargen.csv' })).toBeHidden();
    const left = (await (await page.request.get(`${base}/api/batches?limit=50`)).json()) as {
      code: string;
      state: string;
    }[];
    expect(left.filter((b) => b.state !== 'void').map((b) => b.code)).toEqual(['NK-01']);

    // The archive, taken as a person takes it.
    await page.goto(`${base}/ledger?sheet=files`);
    const download = page.waitForEvent('download');
    await main.getByRole('link', { name: 'Take the archive' }).click();
    const path = await (await download).path();
    expect(readFileSync(path).subarray(0, 2).toString()).toBe('PK');

    // An empty workshop on another machine takes it, and everyone signs in as before.
    const otherPort = await freePort();
    const second = await startServer('server/dist/start.js', other!, otherPort);
    try {
      const there = await (await browser.newContext()).newPage();
      await there.goto(`http://127.0.0.1:${otherPort}/`);
      await there.getByText('There is an archive of a workshop already').click();
      await there
        .locator('input[type=file]')
        .setInputFiles({ name: 'x.zip', mimeType: 'application/zip', buffer: Buffer.from('PK no zip') });
      await expect(there.getByRole('alert')).toContainText('no zip file that can be read');
      await there.locator('input[type=file]').setInputFiles(path);
      await expect(there.getByLabel('Name')).toBeVisible({ timeout: 60_000 });
      await there.getByLabel('Name').fill('Olga');
      await there.getByLabel('Password').fill('a good long one');
      await there.getByRole('button', { name: 'Sign in' }).click();
      await there.getByRole('link', { name: 'Ledger' }).click();
      await expect(there.getByRole('main').getByText('Nkondo').first()).toBeVisible();
    } finally {
      await stopServer(second);
    }
  } finally {
    await stopServer(server);
    for (const directory of [home!, other!]) rmSync(directory, { recursive: true, force: true });
  }
});
