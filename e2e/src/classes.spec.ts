import { expect, test } from '@playwright/test';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { makeProbed } from './probed.ts';
import { freePort, startServer, stopServer } from './servers.ts';

test('a class from an empty page to its guests’ opinions: planned, chosen on a phone, warned of, closed, scored', async ({
  page,
  browser,
}) => {
  test.setTimeout(120_000);
  const directory = mkdtempSync(join(tmpdir(), 'wunsch-classes-'));
  const port = await freePort();
  const base = `http://127.0.0.1:${port}`;
  const server = await startServer('server/dist/start.js', directory, port);
  try {
    const { put } = await makeProbed(page.request, base, {
      machine: { name: 'Otto', station: 'grind' },
      lot: { code: 'NK', name: 'Nkondo', material: 'nibs', massMg: 20_000_000 },
      batchCode: 'NK-01',
    });
    const shelf = (await (await page.request.get(`${base}/api/ingredients`)).json()) as {
      id: string;
      key: string;
    }[];
    const of = (key: string) => shelf.find((i) => i.key === key)!.id;
    await put(`/api/recipes/${randomUUID()}`, {
      name: 'Class base 85',
      lines: [
        { ingredientId: of('nibs'), massMg: 8_500_000 },
        { ingredientId: of('cane-sugar'), massMg: 1_500_000 },
      ],
    });

    const main = page.getByRole('main');
    await page.goto(`${base}/plan`);
    await page.getByRole('link', { name: 'Classes' }).click();
    await expect(main.getByRole('heading', { name: 'No class is planned' })).toBeVisible();
    await main.getByRole('button', { name: 'Plan a class' }).click();
    const dialog = page.getByRole('dialog');
    await expect(dialog.getByText('Give it a name.')).toBeVisible();
    await dialog.getByLabel('Name', { exact: true }).fill('Bars on Saturday');
    // Begun an hour ago, so that guests may say how they like what they made.
    const begun = new Date(Date.now() - 3_600_000);
    const two = (n: number) => String(n).padStart(2, '0');
    await dialog
      .getByLabel('Begins', { exact: true })
      .fill(
        `${begun.getFullYear()}-${two(begun.getMonth() + 1)}-${two(begun.getDate())}T${two(begun.getHours())}:${two(begun.getMinutes())}`,
      );
    await dialog.getByLabel('Chocolate everyone begins from').selectOption({ label: 'Class base 85' });
    await dialog.getByLabel('Cacao to choose among, %').fill('85 70, sixty');
    await expect(dialog.getByText(/Say at least one share of cacao/)).toBeVisible();
    await dialog.getByLabel('Cacao to choose among, %').fill('80, 70');
    await dialog.getByLabel('Offer another').selectOption({ label: 'Roasted hazelnuts' });
    await dialog.getByLabel('Price for a guest').fill('45');
    await dialog.getByRole('button', { name: 'Plan it' }).click();
    await expect(main.getByRole('heading', { name: 'Bars on Saturday' })).toBeVisible();
    await expect(main.getByText('Nobody is coming yet.')).toBeVisible();

    for (const [name, more] of [
      ['Maja', null],
      ['Ben', 'Roasted hazelnuts'],
    ] as const) {
      await main.getByRole('button', { name: 'Take a guest in' }).click();
      await dialog.getByLabel('Name', { exact: true }).fill(name);
      if (more) {
        await dialog.getByRole('radio', { name: '70 %' }).check();
        await dialog.getByRole('checkbox', { name: more }).check();
      }
      await dialog.getByRole('button', { name: 'Take a guest in' }).click();
      await expect(dialog).toHaveCount(0);
    }
    await expect(main.getByText('not chosen yet')).toBeVisible();

    // Maja chooses on her own phone, and learns at once what is at the table.
    const view = (await (await page.request.get(`${base}/api/classes`)).json()) as { id: string }[];
    const { guests } = (await (await page.request.get(`${base}/api/classes/${view[0]!.id}`)).json()) as {
      guests: { name: string; code: string }[];
    };
    const phone = await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true });
    const seat = await phone.newPage();
    await seat.goto(`${base}/class/${guests.find((g) => g.name === 'Maja')!.code}`);
    await expect(seat.getByRole('heading', { name: 'Hello Maja' })).toBeVisible();
    await expect(seat.getByText('Ben')).toHaveCount(0);
    await seat.getByText('80 %').tap();
    await seat.getByText('nuts', { exact: true }).last().tap();
    await seat.getByRole('button', { name: 'This is mine' }).tap();
    await expect(seat.getByText(/^Noted\./)).toBeVisible();
    await expect(seat.getByText(/Somebody at the table works with nuts/)).toBeVisible();
    // What is weighed to 0.1 g comes to a hair less than 80 %, and is never rounded up.
    await expect(seat.getByText(/3 bars of 40\sg: 79\.9\s% cacao/)).toBeVisible();

    // The host sees it come, and closes the class; Maja says how she likes hers.
    await expect(main.getByText('nuts: at the table, in the bars of Ben')).toBeVisible();
    await main.getByRole('button', { name: 'It has been: close it' }).click();
    await dialog.getByRole('checkbox', { name: 'Ben' }).uncheck();
    await dialog.getByRole('button', { name: 'Close the class' }).click();
    await expect(main.getByText(/^Closed by OB/)).toBeVisible();
    await seat.reload();
    await expect(seat.getByText('Nothing is chosen for this class any more.')).toBeVisible();
    await seat.getByText('9', { exact: true }).tap();
    await seat.getByLabel('In your words').fill('Darker than I thought');
    await seat.getByRole('button', { name: 'Tell them' }).tap();
    await expect(seat.getByText('Thank you.')).toBeVisible();
    await expect(main.getByText('Darker than I thought')).toBeVisible();
    await expect(main.getByText('was there')).toHaveCount(1);
    await phone.close();
  } finally {
    await stopServer(server);
    rmSync(directory, { recursive: true, force: true });
  }
});
