import { expect, test } from '@playwright/test';
import { enterDemo } from './maker.ts';

test('with the server away the page still opens, shows what was last read, and says so; signing out leaves nothing behind', async ({
  browser,
}) => {
  const context = await browser.newContext({ serviceWorkers: 'allow' });
  const page = await context.newPage();
  await enterDemo(page, 'Jory');
  await page.evaluate(() => navigator.serviceWorker.ready.then(() => true));
  await page.reload();
  await page.getByRole('heading', { name: 'Running' }).waitFor();
  await context.setOffline(true);
  await page.reload();
  await expect(page.getByRole('heading', { name: 'Running' })).toBeVisible();
  await expect(page.getByText('The server cannot be reached.')).toBeVisible();
  await context.setOffline(false);
  await expect(page.getByText('The server cannot be reached.')).toBeHidden({ timeout: 20_000 });
  await page.getByRole('button', { name: 'Menu of Jory' }).click();
  await page.getByRole('menuitem', { name: 'Sign out' }).click();
  await page.getByRole('button', { name: /Anneke/ }).waitFor();
  // All that is kept is that nobody is signed in.
  const kept = await page.evaluate(async () => {
    const cache = await caches.open('last-read');
    const keys = await cache.keys();
    return Promise.all(
      keys.map(async (key) => [new URL(key.url).pathname, await (await cache.match(key))!.text()]),
    );
  });
  expect(kept.map(([path]) => path).filter((path) => path !== '/api/session')).toEqual([]);
  for (const [, text] of kept) expect(text).toContain('"state":"signed-out"');
  await context.close();
});
