import { expect, test, type Page } from '@playwright/test';
import { complaints, enterDemo, quiet } from './maker.ts';

let page: Page;
let found: string[];
const main = () => page.getByRole('main');

async function openLot(code: string): Promise<void> {
  await page.goto(`${process.env.DEMO_URL}/beans`);
  await main()
    .getByRole('link', { name: new RegExp(`^${code} `) })
    .click();
  await expect(main().getByRole('heading', { level: 1 })).toContainText(code);
}

test.beforeAll(async ({ browser }) => {
  page = await browser.newPage();
  found = complaints(page);
  await enterDemo(page);
});
test.afterAll(async () => {
  expect(found).toEqual([]);
  await page.close();
});

test('a cut test: one key a bean, one taken back, shares with their intervals, and the grade', async () => {
  await openLot('VA');
  await main().getByRole('button', { name: 'Begin a cut test' }).click();
  const counting = page.getByRole('dialog');
  for (let i = 0; i < 291; i += 1) await page.keyboard.press('b');
  for (let i = 0; i < 10; i += 1) await page.keyboard.press('m');
  // The three hundredth bean is the last; what came after it is not counted.
  await expect(counting.getByRole('status')).toHaveText('300 beans');
  await expect(counting.getByText('300 beans are counted; keep the test.')).toBeVisible();
  await expect(counting.getByText('3.0 % [1.38–5.62]').first()).toBeVisible();
  await page.keyboard.press('z');
  await expect(counting.getByRole('status')).toHaveText('299 beans');
  await counting.getByRole('button', { name: /^Mouldy/ }).click();
  await expect(counting.getByText('By the counts: grade I')).toBeVisible();
  await counting.getByRole('button', { name: 'Keep the test' }).click();
  await expect(counting).toBeHidden();
  await expect(main().getByText(/300 beans on /)).toBeVisible();
});

test('a pest hold: the stack says how long, the core probe takes over, and the lot is released', async () => {
  await openLot('VA');
  await main().getByRole('button', { name: 'Begin a hold' }).click();
  const field = (name: string) => main().getByLabel(name, { exact: true });
  await field('Length of the stack').fill('0.8 m');
  await field('Width').fill('50');
  await field('Height').fill('30 cm');
  await field('Beans now').fill('24');
  await field('Core must come to').fill('-15');
  await expect(main().getByText(/Core at −15.°C after 2\.67 days/)).toBeVisible();
  await field('Core must come to').fill('-18');
  await expect(main().getByText(/after 3\.55 days; hold 7\.5 days in all/)).toBeVisible();
  await main().getByRole('button', { name: 'Begin a hold' }).click();
  await expect(main().getByText(/On hold since/)).toBeVisible();
  await main().getByLabel('Core probe').fill('-10');
  await main().getByRole('button', { name: 'Note the core' }).click();
  await expect(main().getByText(/Core at −10.0.°C by the probe; not at its target yet/)).toBeVisible();
  await main().getByRole('button', { name: 'Release VA' }).click();
  await expect(main().getByText('No hold is running.', { exact: false })).toBeVisible();
});

test('plots come in from a file, and one that is none is refused by its reason', async () => {
  await openLot('VA');
  const file = (name: string, text: string) => ({
    name,
    mimeType: 'application/geo+json',
    buffer: Buffer.from(text),
  });
  await main()
    .getByLabel('Take GeoJSON in')
    .setInputFiles(file('wrong.geojson', '{"type":"Point","coordinates":[200,95]}'));
  await expect(main().getByRole('alert')).toContainText('200, 95 is not a longitude and a latitude');
  await main()
    .getByLabel('Take GeoJSON in')
    .setInputFiles(file('one.geojson', '{"type":"Point","coordinates":[76.6,10.2]}'));
  await expect(main().getByText('1 plot')).toBeVisible();
  await expect(main().getByText('10.200° N, 76.600° E')).toBeVisible();
});

test('a crate dries by weighing, and becomes a lot with its lineage', async () => {
  await openLot('GH');
  await expect(main().getByText(/fermented \d days/)).toBeVisible();
  await main().getByLabel('Mass now').fill('16.1');
  await main().getByRole('button', { name: 'Keep the weighing' }).click();
  await expect(main().getByText(/h more$/)).toBeVisible();
  await main().getByRole('button', { name: 'Take the dried beans in as a lot' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Dried beans').fill('13.4 kg');
  await dialog.getByRole('button', { name: 'Take them in' }).click();
  await expect(main().getByRole('heading', { level: 1 })).toContainText('GHD');
  await expect(main().getByText('Dried from')).toBeVisible();
  await expect(main().getByText('13.40 kg left of 13.40 kg')).toBeVisible();
});

test('a sample is noted, tasted, and decided on', async () => {
  await page.goto(`${process.env.DEMO_URL}/beans?show=samples`);
  await quiet(page);
  await main().getByRole('button', { name: 'Note a sample' }).click();
  await main().getByLabel('Sample', { exact: true }).fill('Hill lot, two kilos');
  await main().getByRole('button', { name: 'Keep' }).click();
  const card = main()
    .locator('section')
    .filter({ has: page.getByRole('heading', { name: 'Hill lot, two kilos' }) })
    .last();
  await card.getByRole('button', { name: /^Tasting of/ }).click();
  await card.getByLabel('Liking, 0 to 10').fill('8');
  await card.getByLabel('What you found').fill('Plum and cream.');
  await card.getByRole('button', { name: 'Keep' }).click();
  await expect(card.getByText('Plum and cream.')).toBeVisible();
  await card.getByLabel('Why').fill('best of three');
  await card.getByRole('button', { name: 'Buy' }).click();
  await expect(card.getByText('to buy')).toBeVisible();
});

test('moths are counted, and more than chance explains is named', async () => {
  await page.goto(`${process.env.DEMO_URL}/beans?show=traps`);
  await main().getByLabel('Moths found').fill('31');
  await main().getByRole('button', { name: 'Note the count' }).click();
  const today = new Date().toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: 'numeric' });
  await expect(
    main().getByText(`More moths than chance explains on ${today}`, { exact: false }),
  ).toBeVisible();
});

test('a harvest: pods of two plots noted, seen on the year, taken in as one lot, and taken back', async () => {
  await page.goto(`${process.env.DEMO_URL}/beans?show=harvest`);
  const field = (name: string) => main().getByLabel(name, { exact: true });
  for (const [plot, pods, wet] of [
    ['North slope', '240', '26'],
    ['Below the road', '60', '6.5'],
  ] as const) {
    await field('Plot or tree').fill(plot);
    await field('Pods').fill(pods);
    await field('Trees').fill('30');
    await field('Wet beans').fill(wet);
    await field('Paid').fill(plot === 'North slope' ? '80' : '20');
    await main().getByRole('button', { name: 'Note it' }).click();
    await expect(main().getByRole('row', { name: new RegExp(plot) })).toContainText('not taken in');
  }
  await expect(main().getByRole('heading', { name: 'North slope' })).toBeVisible();
  await expect(main().getByText('8.0 a tree (30 trees)')).toBeVisible();
  await expect(main().getByRole('img', { name: /^North slope: .* 240 pods/ })).toBeVisible();

  for (const plot of ['North slope', 'Below the road'])
    await main().getByRole('checkbox', { name: plot }).check();
  await main().getByRole('button', { name: 'Take 2 pickings in' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByText('300 pods, £100.00 paid.', { exact: false })).toBeVisible();
  await expect(dialog.getByLabel('Weight on arrival')).toHaveValue('32.5');
  await dialog.getByLabel('Name of the lot').fill('Two slopes');
  await dialog.getByLabel('Code').fill('TS');
  await dialog.getByRole('button', { name: 'Take in as a lot' }).click();
  await expect(main().getByRole('heading', { level: 1 })).toContainText('TS');

  await page.goto(`${process.env.DEMO_URL}/beans?show=harvest`);
  await expect(main().getByRole('row', { name: /North slope/ })).toContainText('TS');
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await expect(main().getByRole('row', { name: /North slope/ })).toContainText('not taken in');
});
