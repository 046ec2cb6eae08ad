import { expect, test, type Browser, type Page } from '@playwright/test';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { makeProbed } from './probed.ts';
import { freePort, startServer, stopServer } from './servers.ts';

/** A guest’s phone, seated by the code on the screen. */
async function sitDown(browser: Browser, base: string, code: string, name: string): Promise<Page> {
  const context = await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true });
  const page = await context.newPage();
  await page.goto(`${base}/join/${code}`);
  await expect(page.getByLabel('Code on the screen')).toHaveValue(code);
  await page.getByLabel('Your name').fill(name);
  await page.getByRole('button', { name: 'Sit down' }).tap();
  await expect(page.getByText(`${name}, at the table`)).toBeVisible();
  return page;
}

/** Code of the glass in hand. */
const glassOf = async (page: Page): Promise<string> =>
  (
    await page.getByRole('navigation', { name: 'Your glasses' }).locator('[aria-current=step]').innerText()
  ).slice(0, 3);

/** Fills the quick card of the glass in hand by touch; the next glass follows. */
async function tasteOne(page: Page, liking: (code: string) => number): Promise<void> {
  const code = await glassOf(page);
  const score = (name: string, value: number) =>
    page.getByRole('radio', { name: `${name} ${value}`, exact: true }).tap();
  await score('Sour', 3);
  await score('Grit', 1);
  await score('Liking', liking(code));
  await page.getByRole('button', { name: 'Save the card' }).tap();
  await expect(async () => {
    const nav = page.getByRole('navigation', { name: 'Your glasses' });
    const done = nav.getByRole('button', { name: code });
    await expect(done).toContainText('✓', { timeout: 1000 });
  }).toPass();
}

test('a session with three phones, one without a network half way, one taster on paper, opened together', async ({
  page,
  browser,
}) => {
  test.setTimeout(180_000);
  const directory = mkdtempSync(join(tmpdir(), 'wunsch-session-'));
  const port = await freePort();
  const base = `http://127.0.0.1:${port}`;
  const server = await startServer('server/dist/start.js', directory, port);
  try {
    await makeProbed(page.request, base, {
      machine: { name: 'Cabinet', station: 'mould', kind: 'cabinet', places: 60 },
      lot: { code: 'NK', name: 'Nkondo', material: 'dry beans', massMg: 5_000_000 },
      batchCode: 'NK-01',
    });
    // From an empty station: nothing has been tasted together yet.
    await page.goto(`${base}/taste/sessions`);
    const main = page.getByRole('main');
    await main.getByRole('button', { name: 'New session' }).click();
    await main.getByLabel('What it is called', { exact: true }).fill('Old roast or new');
    await expect(main.getByText('Every sample needs a batch or a name.')).toBeVisible();
    await main.getByLabel('What it is called after the opening').nth(0).fill('new roast');
    await main.getByLabel('What it is called after the opening').nth(1).fill('old roast');
    await main.getByLabel('Guests').fill('4');
    await main.getByLabel('Rounds').fill('2');
    await expect(main.getByText(/^4 tasters in 2 rounds find a difference of/)).toBeVisible();
    await main.getByRole('button', { name: 'Keep the plan' }).click();
    await main.getByRole('button', { name: 'Set the table' }).click();
    await expect(main.getByRole('heading', { name: 'Who is where' })).toBeVisible();
    const id = page.url().split('/').at(-1)!;
    const session = await (await page.request.get(`${base}/api/tasting-sessions/${id}`)).json();
    const code = session.joinCode as string;
    await expect(main.getByText(code, { exact: true })).toBeVisible();

    const phones = [
      await sitDown(browser, base, code, 'Wren'),
      await sitDown(browser, base, code, 'Tobias'),
      await sitDown(browser, base, code, 'Ilse'),
    ];
    // What is in which glass only the pourer knows; the test pours, and so may know.
    await main.getByRole('button', { name: 'See the key to pour' }).click();
    await page.getByRole('dialog').getByRole('button', { name: 'See the key to pour' }).click();
    await expect(main.getByRole('heading', { name: 'Pour', exact: true })).toBeVisible();
    const key = (await (await page.request.get(`${base}/api/tasting-sessions/${id}/key`)).json()) as {
      codes: { code: string; label: string }[];
    };
    const liking = (of: string) => (key.codes.find((c) => c.code === of)!.label === 'new roast' ? 8 : 4);

    // One is done at once; one loses the network half way and goes on; one reloads in the middle.
    for (let glass = 0; glass < 4; glass += 1) await tasteOne(phones[0]!, liking);
    await expect(phones[0]!.getByText('All glasses tasted. Thank you.')).toBeVisible();
    const offline = phones[1]!;
    await tasteOne(offline, liking);
    await offline.context().setOffline(true);
    await tasteOne(offline, liking);
    await tasteOne(offline, (c) => liking(c) - 1);
    await expect(offline.getByText('2 cards wait for the network; nothing is lost.')).toBeVisible();
    await tasteOne(phones[2]!, liking);
    await phones[2]!.reload();
    for (let glass = 1; glass < 4; glass += 1) await tasteOne(phones[2]!, (c) => liking(c) + 1);
    await offline.context().setOffline(false);
    await expect(offline.getByText(/wait for the network/)).toBeHidden();
    await tasteOne(offline, liking);

    // The fourth had a sheet of paper.
    await page.reload();
    await expect(main.getByText('4 of 4')).toHaveCount(3);
    await main.getByRole('link', { name: 'Type in from paper: Seat 4' }).click();
    const served = (await (
      await page.request.get(`${base}/api/tasting-sessions/${id}/glasses?seat=${session.seats[3].id}`)
    ).json()) as { code: string }[];
    await main.getByLabel(`${served[0]!.code} Sour`).focus();
    for (const g of served) {
      await page.keyboard.type('3');
      await page.keyboard.press('Tab');
      await page.keyboard.type('1,5');
      await page.keyboard.press('Tab');
      await page.keyboard.type(String(liking(g.code)));
      await page.keyboard.press('Tab');
    }
    await main.getByRole('button', { name: 'Keep 4 cards' }).click();
    await expect(main.getByRole('button', { name: 'Keep the cards' })).toBeDisabled();

    await page.goto(`${base}/taste/sessions/${id}`);
    await main.getByRole('button', { name: 'Open the session' }).click();
    await expect(page.getByRole('dialog')).toContainText('All cards are in.');
    await page.getByRole('dialog').getByRole('button', { name: 'Open the session' }).click();
    await expect(main.getByRole('heading', { name: 'new roast.' })).toBeVisible();
    await expect(main.getByText(/new roast is better liked than old roast by/)).toBeVisible();
    await expect(main.getByRole('img', { name: /new roast .* bar from/ })).toBeVisible();
    // Guests have lost their seats.
    await expect(phones[0]!.getByText('This session has been opened. Thank you for tasting.')).toBeVisible();
    const csv = await (await page.request.get(`${base}/api/tasting-sessions/${id}/scores.csv`)).text();
    expect(csv.split('\r\n').filter((l) => l.includes(',liking,'))).toHaveLength(16);
    const pdf = await page.request.get(`${base}/api/tasting-sessions/${id}/report.pdf`);
    expect((await pdf.body()).subarray(0, 5).toString()).toBe('%PDF-');
  } finally {
    await stopServer(server);
    rmSync(directory, { recursive: true, force: true });
  }
});
