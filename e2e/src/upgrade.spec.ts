import { createServer, request, type Server } from 'node:http';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test, type Page } from '@playwright/test';
import { freePort, startServer, stopServer } from './servers.ts';

/** A workshop behind a door that can be told to hand out the pages of the next release. */
async function doorBefore(port: number): Promise<{ url: string; upgrade: () => void; close: () => void }> {
  let release = 1;
  const door: Server = createServer((asked, answer) => {
    const isPage =
      asked.url === '/sw.js' ||
      asked.headers.accept?.includes('text/html') ||
      asked.url!.includes('index.html');
    const headers = { ...asked.headers, ...(isPage && { 'accept-encoding': 'identity' }) };
    if (isPage) for (const name of ['if-none-match', 'if-modified-since'] as const) delete headers[name];
    const passed = request({ port, path: asked.url, method: asked.method, headers }, (got) => {
      if (!isPage || release === 1) {
        answer.writeHead(got.statusCode!, got.headers);
        got.pipe(answer);
        return;
      }
      const parts: Buffer[] = [];
      got.on('data', (part: Buffer) => parts.push(part));
      got.on('end', () => {
        const text = Buffer.concat(parts).toString();
        const { 'content-length': _, etag: __, ...kept } = got.headers;
        answer.writeHead(got.statusCode!, kept);
        answer.end(
          asked.url === '/sw.js'
            ? text.replace(/(url:"index\.html",revision:")[^"]*/, `$1release-${release}`)
            : text.replace('</head>', `<meta name="release" content="${release}"></head>`),
        );
      });
    });
    passed.on('error', () => answer.destroy());
    asked.pipe(passed);
  });
  await new Promise<void>((resolve) => door.listen(0, '127.0.0.1', resolve));
  const address = door.address();
  return {
    url: `http://127.0.0.1:${typeof address === 'object' && address ? address.port : 0}`,
    upgrade: () => void (release += 1),
    close: () => {
      door.closeAllConnections();
      door.close();
    },
  };
}

/** Which release a page was loaded from: nothing in its head for the first. */
const releaseOf = async (page: Page) =>
  (await page.locator('meta[name=release]').count()) === 0
    ? '1'
    : page.locator('meta[name=release]').getAttribute('content');

const isStored = (page: Page) =>
  page.evaluate(async () => {
    await navigator.serviceWorker.ready;
    return navigator.serviceWorker.controller !== null;
  });

test('after an upgrade a page that is open offers the new one, and one that is opened is the new one', async ({
  browser,
}) => {
  const directory = mkdtempSync(join(tmpdir(), 'wunsch-upgrade-'));
  const port = await freePort();
  const server = await startServer('server/dist/start.js', directory, port);
  const door = await doorBefore(port);
  const context = await browser.newContext({ baseURL: door.url });
  const open = await context.newPage();
  try {
    await open.goto('/');
    await open
      .getByLabel('Name of the workshop')
      .or(open.getByRole('button', { name: 'Next' }))
      .first()
      .waitFor();
    const made = await context.request.post('/api/first-run', {
      data: {
        workshop: {
          name: 'Low Quay',
          shape: 'shop',
          currency: 'GBP',
          temperatureUnit: '°C',
          massSystem: 'metric',
          language: 'en',
        },
        owner: { id: crypto.randomUUID(), name: 'June', initials: 'J', password: 'a kitchen secret' },
        people: [],
        machines: [],
      },
    });
    expect(made.ok()).toBe(true);
    const signedIn = await context.request.post('/api/session', {
      data: { name: 'June', password: 'a kitchen secret' },
    });
    expect(signedIn.ok()).toBe(true);
    await open.evaluate(() => navigator.serviceWorker.ready.then(() => true));
    await open.reload();
    await expect(open.getByRole('heading', { name: 'Nothing on the line yet' })).toBeVisible();
    expect([await isStored(open), await releaseOf(open)]).toEqual([true, '1']);

    door.upgrade();
    await open.evaluate(async () => (await navigator.serviceWorker.ready).update());
    await expect(open.getByText('Wunsch has been upgraded.')).toBeVisible();
    expect(await releaseOf(open)).toBe('1');
    await open.getByRole('button', { name: 'Load it now' }).click();
    await expect.poll(() => releaseOf(open)).toBe('2');
    await expect(open.getByRole('heading', { name: 'Nothing on the line yet' })).toBeVisible();
    await expect(open.getByText('Wunsch has been upgraded.')).toBeHidden();

    // It waits unseen behind a page that stays open; whoever opens another gets it at once, and the first is told.
    door.upgrade();
    await open.evaluate(async () => (await navigator.serviceWorker.ready).update());
    await expect(open.getByText('Wunsch has been upgraded.')).toBeVisible();
    const other = await context.newPage();
    await other.goto('/beans');
    await expect.poll(() => releaseOf(other)).toBe('3');
    await open.getByRole('button', { name: 'Load it now' }).click();
    await expect.poll(() => releaseOf(open)).toBe('3');
  } finally {
    await context.close();
    door.close();
    await stopServer(server);
    rmSync(directory, { recursive: true, force: true });
  }
});
