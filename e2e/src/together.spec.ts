import { expect, test } from '@playwright/test';
import { complaints, enterDemo } from './maker.ts';

test('two browsers on the same batch see each other’s entries without a reload', async ({ browser }) => {
  const [one, two] = [await browser.newContext(), await browser.newContext()];
  const [a, b] = [await one.newPage(), await two.newPage()];
  const found = complaints(b);
  await enterDemo(a, 'Anneke');
  await enterDemo(b, 'Jory');
  const id = await a.evaluate(() =>
    fetch('/api/bench')
      .then((r) => r.json() as Promise<{ batches: { id: string; code: string }[] }>)
      .then((v) => v.batches.find((x) => x.code.startsWith('NK'))!.id),
  );
  for (const page of [a, b]) await page.goto(`${process.env.DEMO_URL}/grind/${id}`);
  await b.getByText('Not enough yet').or(b.getByText('µm reached')).first().waitFor();
  await a.getByRole('main').getByLabel('Reading', { exact: true }).fill('27.5');
  await a.getByRole('main').getByRole('button', { name: 'Take reading' }).click();
  await b.getByRole('complementary').getByText('Grit 27.5 µm').first().waitFor({ timeout: 5000 });
  expect(found).toEqual([]);
  await one.close();
  await two.close();
});

test('two people change the same lot: what clashes is chosen, what does not goes in beside the other’s', async ({
  browser,
}) => {
  const [one, two] = [await browser.newContext(), await browser.newContext()];
  const [a, b] = [await one.newPage(), await two.newPage()];
  await enterDemo(a, 'Anneke');
  await enterDemo(b, 'Jory');
  const id = await a.evaluate(() =>
    fetch('/api/lots')
      .then((r) => r.json() as Promise<{ id: string; code: string }[]>)
      .then((lots) => lots.find((x) => x.code === 'TL')!.id),
  );
  for (const page of [a, b]) await page.goto(`${process.env.DEMO_URL}/beans/${id}`);
  await a.getByRole('button', { name: 'Change the facts' }).click();
  await a.getByRole('dialog').getByLabel('Variety').fill('mostly round');
  await a.getByRole('dialog').getByLabel('Place', { exact: true }).fill('loft, by the door');
  await b.getByRole('button', { name: 'Change the facts' }).click();
  await b.getByRole('dialog').getByLabel('Place', { exact: true }).fill('cellar');
  await b.getByRole('dialog').getByRole('button', { name: 'Keep the changes' }).click();
  await expect(b.getByRole('dialog')).toBeHidden();
  await expect(a.locator('#main').getByText('cellar', { exact: true })).toBeAttached();
  await a.getByRole('dialog').getByRole('button', { name: 'Keep the changes' }).click();
  const clash = a.getByRole('dialog').getByRole('alert');
  await expect(clash).toContainText('loft, by the door');
  await expect(clash).toContainText('cellar');
  await clash.getByRole('radio', { name: /^yours/ }).check();
  await clash.getByRole('button', { name: 'Keep these' }).click();
  await expect(a.getByRole('dialog')).toBeHidden();
  for (const page of [a, b]) {
    await expect(page.getByRole('main').getByText('loft, by the door')).toBeVisible();
    await expect(page.getByRole('main').getByText('mostly round')).toBeVisible();
  }
  await one.close();
  await two.close();
});

test('what is entered while the server is away waits, survives a reload, and is sent once', async ({
  browser,
}) => {
  const context = await browser.newContext();
  const page = await context.newPage();
  await enterDemo(page, 'Marit');
  const bench = await page.evaluate(() =>
    fetch('/api/bench').then((r) => r.json() as Promise<{ batches: { id: string; code: string }[] }>),
  );
  const id = bench.batches.find((x) => x.code.startsWith('TL'))!.id;
  await page.goto(`${process.env.DEMO_URL}/batch/${id}`);
  await page.getByLabel('A note').fill('made while the cable was out');
  // Only writing is cut off, so that the page itself can be loaded again.
  await context.route('**/api/observations/**', (route) => route.abort('connectionrefused'));
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(page.getByText('1 entry waits for the server:')).toBeVisible();
  await page.reload();
  await expect(page.getByText('1 entry waits for the server:')).toBeVisible();
  await context.unroute('**/api/observations/**');
  await expect(page.getByText('1 entry waits for the server:')).toBeHidden({ timeout: 10_000 });
  await expect(page.getByRole('main').getByText('made while the cable was out')).toHaveCount(1);
  await context.close();
});

test('everything goes by keyboard: stations, find, note, undo', async ({ page }) => {
  await enterDemo(page, 'Anneke');
  await page.keyboard.press('6');
  await expect(page).toHaveURL(/\/grind/);
  await page.keyboard.press('/');
  await page.getByRole('dialog').getByRole('combobox').fill('VA-06');
  await page.getByRole('option', { name: /VA-06/ }).first().waitFor();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('main').getByRole('heading', { name: 'VA-06' })).toBeVisible();
  await page.locator('h1').first().click();
  await page.keyboard.press('n');
  await expect(page.locator('#slip-note')).toBeFocused();
  await page.keyboard.type('by keys alone');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('main').getByText('by keys alone')).toBeVisible();
  await page.locator('h1').first().click();
  await page.keyboard.press('u');
  await expect(page.getByRole('main').getByText('by keys alone')).toHaveCount(0);
  await page.keyboard.press('0');
  await expect(page).toHaveURL(/\/$/);
});
