import type { ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test, type Page } from '@playwright/test';
import { closeStep, complaints, takeAll, toStation, weigh } from './maker.ts';
import { freePort, startServer, stopServer } from './servers.ts';

/** A home cook with a phone, pounds, ounces and °F: an oven, a small grinder, and no probe. */
test.describe.configure({ mode: 'serial' });

let server: ChildProcess;
let directory: string;
let page: Page;
let found: string[];
const main = () => page.getByRole('main');
const dialog = () => page.getByRole('dialog');
const tap = (name: string | RegExp) => main().getByRole('button', { name }).first().tap();

test.beforeAll(async ({ browser }) => {
  directory = mkdtempSync(join(tmpdir(), 'wunsch-kitchen-'));
  const port = await freePort();
  server = await startServer('server/dist/start.js', directory, port);
  const context = await browser.newContext({
    viewport: { width: 390, height: 844 },
    isMobile: true,
    hasTouch: true,
    locale: 'en-US',
    baseURL: `http://127.0.0.1:${port}`,
  });
  page = await context.newPage();
  found = complaints(page);
});
test.afterAll(async () => {
  expect(found).toEqual([]);
  await page.close();
  await stopServer(server);
  rmSync(directory, { recursive: true, force: true });
});

test('a kitchen in °F and pounds', async () => {
  await page.goto('/');
  await page.getByRole('radio', { name: /^Kitchen/ }).tap();
  await page.getByRole('button', { name: 'Next' }).tap();
  await page.getByLabel('Name of the workshop').fill('Back porch');
  await page.getByLabel('Currency').selectOption('USD');
  await page.getByRole('radio', { name: '°F' }).tap();
  await page.getByRole('radio', { name: 'lb and oz' }).tap();
  for (let i = 0; i < 3; i += 1) await page.getByRole('button', { name: 'Next' }).tap();
  await page.getByLabel('Your name').fill('June');
  await page.getByLabel('Password').fill('a kitchen secret');
  await page.getByRole('button', { name: 'Open the workshop' }).tap();
  await expect(page.getByRole('heading', { name: 'Nothing on the line yet' })).toBeVisible();
});

test('a five-pound bag comes in and is sorted, in ounces', async () => {
  await main().getByRole('button', { name: 'Receive a lot' }).tap();
  await dialog().getByLabel('Weight on arrival').fill('5 lb');
  await dialog().getByLabel('Name of the lot').fill('Mail order beans');
  await dialog().getByRole('button', { name: 'Weigh it in' }).tap();
  await expect(main().getByText('5.00 lb left of 5.00 lb')).toBeVisible();
  await tap('Start a batch');
  await dialog().getByRole('button', { name: 'Start a batch' }).tap();
  await takeAll(page, main().getByRole('button', { name: 'Weigh beans in' }));
  await tap(/^flat/);
  await weigh(page, '2.5 oz');
  await tap(/^Weigh sorted beans/);
  await weigh(page, '4lb 13oz');
  await closeStep(page, 'Finish sorting');
});

test('roasted in an oven without a probe: cues by nose and ear, an oven dial in °F', async () => {
  await toStation(page, 'Roast');
  // More than the oven takes at once is split into equal loads.
  await expect(main().getByText(/2 loads of 2\.41.lb/)).toBeVisible();
  await tap('Beans in');
  await page.getByRole('button', { name: 'Weigh a part' }).first().tap();
  await weigh(page, '2.4');
  const field = main().getByLabel('Bean temperature', { exact: true });
  await field.fill('250');
  await expect(main().getByText(/250 is outside/)).toBeHidden();
  await tap('Take reading');
  await expect(
    main()
      .getByText(/250\.0.°F/)
      .first(),
  ).toBeVisible();
  await tap('Smells of baking');
  await tap('Shell comes off');
  await tap('Beans out');
  await weigh(page, '2.26 lb');
  await takeAll(page, main().getByRole('button', { name: 'Beans in' }));
  await tap('Beans out');
  await weigh(page, '2.27 lb');
  await expect(main().getByRole('heading', { name: 'Loads that are out' })).toBeVisible();
});

test('cracked, and blown with a hair dryer', async () => {
  await toStation(page, 'Winnow');
  await takeAll(page, main().getByRole('button', { name: 'Weigh roasted beans in' }));
  await takeAll(page, main().getByRole('button', { name: 'Weigh roasted beans in' }));
  await tap(/^Weigh nibs/);
  await weigh(page, '3lb 11oz');
  await tap(/^Weigh husk/);
  await weigh(page, '11.8oz');
  // 3 lb 11 oz of 4.53 lb.
  await expect(main().getByText(/81\.4/).first()).toBeVisible();
  await closeStep(page, 'Finish winnowing');
});

test('a recipe with its sugar measured in cups', async () => {
  await toStation(page, 'Recipe');
  await tap('Write a recipe');
  await main().getByLabel('Name', { exact: true }).fill('Porch 75');
  await main().getByRole('button', { name: 'Cane sugar by spoon or cup' }).tap();
  await dialog().getByLabel('Measure').fill('3 cups');
  await dialog().getByRole('button', { name: 'Use this weight' }).tap();
  await expect(dialog()).toBeHidden();
  await tap('Keep this recipe');
  await expect(main().getByRole('heading', { name: 'Choose a recipe' })).toBeVisible();
  await takeAll(page, main().getByRole('button', { name: 'Weigh nibs in' }));
  await tap('Weigh Cane sugar');
  await weigh(page, '1lb 6oz');
  await expect(main().getByText('72.8 %').first()).toBeVisible();
  await tap('The bowl is complete');
  await expect(main().getByText('Recipe, part 1, done')).toBeVisible();
});

test('the small grinder is too small for it all, and says so in pounds; what is left waits', async () => {
  await toStation(page, 'Grind');
  await expect(main().getByText(/above the usable maximum of Grinder/)).toContainText('3.50');
  await tap('Charge the grinder');
  await page.getByRole('button', { name: 'Weigh a part' }).first().tap();
  await weigh(page, '3.4 lb');
  // Before the first reading the chart already shows where it is to go.
  await expect(main().getByText('aim 20 µm')).toBeVisible();
  for (const um of ['70', '45', '31']) {
    const field = main().getByLabel('Reading', { exact: true });
    await field.fill(um);
    await tap('Take reading');
    await expect(field).toHaveValue('');
  }
  await expect(main().getByText(/20 µm reached/)).toBeVisible();
  await tap('Draw off');
  await weigh(page, '3.33 lb');
});

test('tempered over water and ice by the dial in °F, and cast into bars of two ounces', async () => {
  await toStation(page, 'Temper');
  await takeAll(page, main().getByRole('button', { name: 'Weigh chocolate in' }));
  for (const f of ['115', '81.5', '88.7']) {
    const field = main().getByLabel('Bowl temperature', { exact: true });
    await field.fill(f);
    await tap('Take reading');
    await expect(field).toHaveValue('');
  }
  await expect(main().getByText('inside', { exact: false }).first()).toBeVisible();
  await expect(
    main()
      .getByText(/88\.7.°F/)
      .first(),
  ).toBeVisible();
  await tap('Weigh tempered chocolate');
  await weigh(page, '3.32 lb');
  await toStation(page, 'Mould');
  await takeAll(page, main().getByRole('button', { name: 'Weigh chocolate in' }));
  await main().getByLabel('Fill of one bar').fill('2 oz');
  await main().getByLabel('Stays in bowl and tools').fill('1 oz');
  // floor((3.32 lb − 1 oz) / 2 oz) = floor(52.12 / 2).
  await expect(main().getByRole('button', { name: 'Record 26 bars' })).toBeVisible();
  await tap('Record 26 bars');
});

test('the batch’s page on a phone: the ribbon in pounds, its table, and a cost in dollars', async () => {
  await page.goto('/');
  await main().getByRole('link', { name: /-01/ }).first().tap();
  await expect(main().getByRole('img', { name: /Starts with 5\.00 lb/ })).toBeVisible();
  await main().getByText('As a table').tap();
  await expect(main().getByRole('row', { name: /^Winnow 4\.53.lb husk 11\.8.oz/ })).toBeVisible();
  await expect(main().getByRole('heading', { name: 'Cost per bar' })).toBeVisible();
  const wide = await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
  expect(wide).toBeLessThanOrEqual(1);
});
