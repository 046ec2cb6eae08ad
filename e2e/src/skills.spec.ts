import { expect, test } from '@playwright/test';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { closeStep, complaints, weigh } from './maker.ts';
import { makeProbed } from './probed.ts';
import { freePort, startServer, stopServer } from './servers.ts';

const kg = (n: number) => n * 1_000_000;

test('whoever was at a shared tablet has the run, is signed off by it, and sees it on a phone of their own', async ({
  page,
  browser,
}) => {
  test.setTimeout(120_000);
  const directory = mkdtempSync(join(tmpdir(), 'wunsch-skills-'));
  const port = await freePort();
  const base = `http://127.0.0.1:${port}`;
  const server = await startServer('server/dist/start.js', directory, port);
  try {
    const { put, batch } = await makeProbed(page.request, base, {
      machine: { name: 'Ida', station: 'grind', kind: 'stone grinder', minMg: kg(2), maxMg: kg(9) },
      lot: { code: 'NK', name: 'Nkondo', material: 'dry beans', massMg: kg(60) },
      batchCode: 'NK-01',
    });
    await put(`/api/people/${randomUUID()}`, {
      name: 'Nele',
      initials: 'NE',
      role: 'maker',
      password: 'sorts with care',
    });
    const wrong = complaints(page);

    // Olga is signed in; Nele sorts.
    await page.goto(`${base}/sort/${batch}`);
    const main = page.getByRole('main');
    await main.getByRole('button', { name: 'Weigh beans in' }).click();
    await page.getByRole('dialog').getByRole('button', { name: 'Weigh a part' }).click();
    await weigh(page, '4 kg');
    await main.getByRole('button', { name: 'Weigh sorted beans' }).click();
    await weigh(page, '3.9 kg');
    await closeStep(page, 'Finish sorting');
    await expect(main.getByText('At it: OB')).toBeVisible();
    await main.getByRole('button', { name: 'Who was at it' }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByLabel('Olga').uncheck();
    await dialog.getByLabel('Nele').check();
    await dialog.getByRole('button', { name: 'Keep' }).click();
    await expect(main.getByText('At it: NE')).toBeVisible();

    // One run is enough here, says the owner; Nele is ready, and signed off by a key.
    await page.goto(`${base}/settings`);
    await main.getByRole('button', { name: 'Change the rule' }).click();
    await dialog.getByLabel(/^Good runs/).fill('1');
    await dialog.getByRole('button', { name: 'Save' }).click();
    await expect(dialog).toBeHidden();
    const cell = main.getByRole('switch', { name: 'Nele, Sort' });
    await expect(cell).toHaveText('1/1');
    await cell.focus();
    await page.keyboard.press('Space');
    await expect(cell).toHaveText('OB');
    await main.getByRole('link', { name: 'Nele' }).click();
    await expect(page.getByRole('heading', { name: 'What Nele has done' })).toBeVisible();
    await expect(main.getByText(/^one run, last .*signed off by OB/)).toBeVisible();

    // Nele looks at her own, from the menu of her phone.
    const phone = await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true });
    const own = await phone.newPage();
    await own.goto(base);
    await own.getByLabel('Name').fill('Nele');
    await own.getByLabel('Password').fill('sorts with care');
    await own.getByRole('button', { name: 'Sign in' }).click();
    await own.getByRole('button', { name: 'Menu of Nele' }).tap();
    await own.getByRole('menuitem', { name: 'My runs' }).tap();
    await expect(own.getByRole('heading', { name: 'What Nele has done' })).toBeVisible();
    await expect(own.getByRole('link', { name: 'NK-01' }).last()).toBeVisible();
    await expect(own.getByRole('button', { name: /Withdraw/ })).toHaveCount(0);
    await phone.close();
    expect(wrong).toEqual([]);
  } finally {
    await stopServer(server);
    rmSync(directory, { recursive: true, force: true });
  }
});
