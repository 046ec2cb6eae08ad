import { expect, test } from '@playwright/test';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { weigh } from './maker.ts';
import { makeProbed } from './probed.ts';
import { freePort, startServer, stopServer } from './servers.ts';

test('a tray of filled domes: shelled, drained, filled with nuts, capped, and a label that knows what is in them', async ({
  page,
}) => {
  test.setTimeout(120_000);
  const directory = mkdtempSync(join(tmpdir(), 'wunsch-shells-'));
  const port = await freePort();
  const base = `http://127.0.0.1:${port}`;
  const server = await startServer('server/dist/start.js', directory, port);
  try {
    const { batch } = await makeProbed(page.request, base, {
      machine: { name: 'Cabinet', station: 'mould', kind: 'cabinet', places: 60 },
      lot: {
        code: 'CV',
        name: 'Dark couverture 65',
        material: 'couverture',
        massMg: 5_000_000,
        sheet: { kind: 'dark', cacao: 65, fat: 38, ingredients: 'cocoa mass, sugar' },
      },
      batchCode: 'CV-01',
    });
    await page.goto(`${base}/mould/${batch}`);
    const main = page.getByRole('main');
    await main.getByRole('radio', { name: 'Filled shells' }).click();
    await main.getByLabel('Pieces').fill('50');
    // 50 domes of 11 g to the brim; 6 g of each drain back, and 4.5 g go in.
    await expect(main.getByText('Pour in 550 g, 300 g drains back; 225 g of filling')).toBeVisible();
    await main.getByRole('button', { name: 'Weigh chocolate in' }).click();
    await page.getByRole('button', { name: 'Weigh a part' }).first().click();
    await weigh(page, '550');
    await expect(main.getByRole('heading', { name: 'The shells' })).toBeVisible();
    const stage = (name: string) => main.getByRole('listitem').filter({ hasText: name });
    await stage('Polish the moulds').getByRole('button', { name: 'Done' }).click();
    await expect(stage('Polish the moulds').getByText(/^done at/)).toBeVisible();
    await stage('Let the shells set')
      .getByRole('button', { name: /^Begun/ })
      .click();
    await expect(stage('Let the shells set').getByText(/^waits until/)).toBeVisible();
    await main.getByLabel('Drained back, weighed').fill('296');
    await page.reload();
    await expect(main.getByLabel('Drained back, weighed')).toHaveValue('296');
    // (550 − 296) ÷ 50 is 5.08 g a shell.
    await main.getByRole('button', { name: /^Record 50 shells/ }).click();

    await expect(main.getByText('Shells are waiting to be filled', { exact: false })).toBeVisible();
    await main.getByRole('button', { name: 'Weigh chocolate in' }).click();
    await page
      .getByRole('dialog')
      .getByRole('button', { name: /^All, / })
      .first()
      .click();
    await expect(main.getByRole('heading', { name: 'Filling and capping' })).toBeVisible();
    // The filling is made in a pot first: nuts off the shelf, and some of the same couverture.
    await main.getByRole('link', { name: 'Fillings' }).first().click();
    await main.getByRole('button', { name: 'Make a filling' }).click();
    const pot = page.getByRole('dialog');
    await pot.getByLabel('What it is called').fill('Hazelnut praline');
    await pot.getByLabel('What goes in, 1').selectOption({ label: 'Roasted hazelnuts' });
    await pot.getByLabel('Mass, 1').fill('240');
    await pot.getByLabel('What goes in, 2').selectOption({ index: 1 });
    await pot.getByLabel('Mass, 2').fill('80');
    await expect(pot.getByText('Hardly any water is in it', { exact: false })).toBeVisible();
    await pot.getByLabel('Weighed when it is done').fill('318');
    await pot.getByRole('button', { name: 'Record this filling' }).click();
    await expect(main.getByText(/^75\.0 % Roasted hazelnuts, 25\.0 % CV/)).toBeVisible();
    await page.goto(`${base}/mould/${batch}`);
    await main.getByLabel('Filling', { exact: true }).selectOption({ label: 'Hazelnut praline · 318 g' });
    await main.getByRole('button', { name: 'Weigh it in' }).click();
    await weigh(page, '300');
    await main.getByRole('button', { name: 'Weigh chocolate for caps in' }).click();
    await page.getByRole('button', { name: 'Weigh a part' }).first().click();
    await weigh(page, '75');
    await main.getByLabel('Water activity of the filling').fill('0.58');
    await expect(main.getByText(/kept about 180 days/)).toBeVisible();
    await main.getByRole('button', { name: /^Record 50 pieces/ }).click();
    await main.getByRole('link', { name: 'Print the label' }).click();
    await expect(main.getByRole('heading', { name: 'Chocolates' })).toBeVisible();
    const svg = decodeURIComponent((await main.getByRole('img', { name: 'Front' }).getAttribute('src'))!);
    // (254 + 300 + 75) ÷ 50 is 12.58 g, and never rounded up.
    for (const words of ['HAZELNUTS', '>12.5 g<'])
      expect([words, svg.includes(words)]).toEqual([words, true]);
    await expect(main.getByText(/filled: 52\.3 % chocolate, needs 25/)).toBeVisible();
  } finally {
    await stopServer(server);
    rmSync(directory, { recursive: true, force: true });
  }
});
