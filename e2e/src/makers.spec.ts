import { expect, test, type Page } from '@playwright/test';
import { closeStep, complaints, enterDemo, takeAll, toStation, weigh } from './maker.ts';

let page: Page;
let found: string[];
const main = () => page.getByRole('main');
const dialog = () => page.getByRole('dialog');

test.beforeAll(async ({ browser }) => {
  page = await browser.newPage();
  found = complaints(page);
  await enterDemo(page, 'Anneke');
});
test.afterAll(async () => {
  expect(found).toEqual([]);
  await page.close();
});

test('the maker of milk and plant milk: less sugar at the same milk fat, label and name follow, the order of runs is given', async () => {
  await page.goto(`${process.env.DEMO_URL}/recipe/write`);
  await main().getByRole('link', { name: 'Milk 48' }).click();
  await expect(main().getByRole('heading', { name: 'Milk 48, version 2' })).toBeVisible();
  await main().getByLabel('Figure').nth(1).selectOption({ label: 'Sugar' });
  await main().getByLabel('at most').nth(1).fill('25');
  await main().getByRole('button', { name: 'Another wish' }).click();
  await main().getByLabel('Figure').last().selectOption({ label: 'Milk fat' });
  await main().getByLabel('at least').last().fill('6.4');
  await main().getByRole('button', { name: 'Take these weights' }).click();
  await expect(main().getByText('May be sold as milk chocolate.')).toBeVisible();
  await expect(main().getByText('whole milk powder', { exact: true })).toHaveCSS(
    'text-transform',
    'uppercase',
  );
  await main().getByRole('button', { name: 'Keep this recipe' }).click();
  await expect(main().getByRole('heading', { name: 'Milk 48, version 3' })).toBeVisible();
  // The same in plant milk: other solids, another allergen, another name.
  await main().getByRole('link', { name: 'Oat 55' }).click();
  await expect(main().getByText('oat powder', { exact: true })).toHaveCSS('text-transform', 'uppercase');
  await expect(main().getByText('May be sold as chocolate.')).toBeVisible();
  await expect(main().getByText(/water in the bowl: it thickens/)).toBeVisible();
  await page.goto(`${process.env.DEMO_URL}/settings`);
  await main().getByRole('link', { name: 'Ida' }).click();
  await expect(main().getByText('Waiting, plain before strong')).toBeVisible();
});

test('the maker who starts from pods and grinds rustic tablets by hand, unroasted and untempered', async () => {
  test.setTimeout(180_000);
  await page.goto(`${process.env.DEMO_URL}/settings`);
  await main().getByRole('button', { name: 'Add a machine' }).click();
  await dialog().getByLabel('Machine', { exact: true }).fill('Hand mill');
  await dialog().getByLabel('Tool without stones').selectOption({ label: 'A hand mill' });
  await dialog().getByRole('button', { name: 'Save' }).click();
  await expect(main().getByRole('link', { name: 'Hand mill' })).toBeVisible();

  // Pods come in, ferment, dry, and become a lot.
  await page.goto(`${process.env.DEMO_URL}/beans?do=receive`);
  await dialog().getByLabel('What is it').selectOption({ label: 'Pods' });
  await dialog().getByLabel('Weight on arrival').fill('60 kg');
  await dialog().getByLabel('Name of the lot').fill('Yard trees');
  await dialog().getByRole('button', { name: 'Weigh it in' }).click();
  await expect(main().getByText(/least charge of Ida, .* of nibs, takes about .* of pods/)).toBeVisible();
  // The button that was pressed has gone with its page: Tab goes on from the top of the new one.
  await expect(page.locator('#main')).toBeFocused();
  await main().getByLabel('Temperature of the mass').fill('31');
  await main().getByLabel('Turned').check();
  await main().getByRole('button', { name: 'Keep the look' }).click();
  await main().getByRole('button', { name: 'Keep juice' }).click();
  await dialog().getByLabel('Juice', { exact: true }).fill('1.5 kg');
  await expect(dialog().getByRole('status')).toContainText('58.50 kg go on fermenting');
  await dialog().getByRole('button', { name: 'Keep it' }).click();
  await expect(main().getByText('58.50 kg left of 60.00 kg')).toBeVisible();
  await main().getByLabel('Mass now').fill('16');
  await main().getByLabel('Moisture, if measured').fill('55');
  await main().getByRole('button', { name: 'Keep the weighing' }).click();
  await expect(main().getByText('55.0 %').first()).toBeVisible();
  await main().getByRole('button', { name: 'Take the dried beans in as a lot' }).click();
  await dialog().getByLabel('Dried beans').fill('6 kg');
  await dialog().getByRole('button', { name: 'Take them in' }).click();
  await expect(main().getByRole('heading', { level: 1 })).toContainText('YAD');

  // Sorted, not roasted, cracked and winnowed by hand.
  await main().getByRole('button', { name: 'Start a batch' }).click();
  await dialog().getByRole('button', { name: 'Start a batch' }).click();
  await takeAll(page, main().getByRole('button', { name: 'Weigh beans in' }));
  await main()
    .getByRole('button', { name: /^Weigh sorted beans/ })
    .click();
  await weigh(page, '5900');
  await closeStep(page, 'Finish sorting');
  await toStation(page, 'Roast');
  await main().getByRole('link', { name: 'YAD-01' }).click();
  await main().getByRole('link', { name: 'Not roasted: go on to crack and winnow' }).click();
  await takeAll(page, main().getByRole('button', { name: 'Weigh roasted beans in' }));
  await main()
    .getByRole('button', { name: /^Weigh nibs/ })
    .click();
  await weigh(page, '4750');
  await main()
    .getByRole('button', { name: /^Weigh husk/ })
    .click();
  await weigh(page, '1020');
  await closeStep(page, 'Finish winnowing');

  // A recipe from the book, weighed in, through the mill twice.
  await toStation(page, 'Recipe');
  await main().getByRole('link', { name: 'YAD-01' }).click();
  await main().getByLabel('Recipe', { exact: true }).selectOption({ label: 'Rustic tablet 60 (version 1)' });
  await takeAll(page, main().getByRole('button', { name: 'Weigh nibs in' }));
  await main().getByRole('button', { name: 'Weigh Coconut sugar' }).click();
  await weigh(page, '3127');
  await main().getByRole('button', { name: 'The bowl is complete' }).click();
  await expect(main().getByText('Recipe, part 1, done')).toBeVisible();
  await toStation(page, 'Grind');
  await main().getByRole('link', { name: 'YAD-01' }).click();
  await main().getByLabel('Grinder').first().selectOption({ label: 'Hand mill' });
  await takeAll(page, main().getByRole('button', { name: 'Charge the grinder' }));
  await expect(main().getByText(/comes to 60 to 120 µm/)).toBeVisible();
  await expect(
    main().getByText('No roast, so the usual kill step is missing.', { exact: false }),
  ).toBeVisible();
  await main().getByRole('button', { name: 'Note the pass' }).click();
  await expect(main().getByText('After 1 pass')).toBeVisible();
  await main().getByLabel('Temperature in the grinder').fill('52');
  await main().getByRole('button', { name: 'Take reading' }).first().click();
  await expect(main().getByText(/It has been 52\.0.°C, over 45.°C/)).toBeVisible();
  await main().getByRole('button', { name: 'Draw off' }).click();
  await dialog().getByLabel('Weight').fill('7.7 kg');
  await dialog().getByRole('button', { name: 'Draw off' }).click();
  await expect(dialog()).toBeHidden();

  // Moulded as it is, without tempering.
  await toStation(page, 'Mould');
  await main().getByRole('link', { name: 'YAD-01' }).click();
  await takeAll(page, main().getByRole('button', { name: 'Weigh chocolate in' }));
  await main().getByLabel('Fill of one bar').fill('80');
  await main()
    .getByRole('button', { name: /^Record \d+ bars/ })
    .click();
  await page
    .getByRole('link', { name: 'Open record' })
    .or(page.getByRole('button', { name: 'Open record' }))
    .first()
    .click();
  await expect(main().getByText('unroasted: no kill step')).toBeVisible();
});
