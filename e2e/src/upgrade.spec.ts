import { createServer, request, type Server } from 'node:http';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test, type Page } from '@playwright/test';
import { freePort, startServer, stopServer } from './servers.ts';

/** A workshop behind a door that can be told to hand out the pages of the next release, or nothing at all. */
async function doorBefore(port: number) {
  let release = 1;
  let isShut = false;
  const door: Server = createServer((asked, answer) => {
    if (isShut) return void answer.destroy();
    const isPage = asked.headers.accept?.includes('text/html') || asked.url!.includes('index.html');
    const isChanged = isPage || asked.url!.startsWith('/api/health/ready');
    const headers = { ...asked.headers, ...(isChanged && { 'accept-encoding': 'identity' }) };
    if (isChanged) for (const name of ['if-none-match', 'if-modified-since'] as const) delete headers[name];
    const passed = request({ port, path: asked.url, method: asked.method, headers }, (got) => {
      if (!isChanged) {
        answer.writeHead(got.statusCode!, got.headers);
        got.pipe(answer);
        return;
      }
      const parts: Buffer[] = [];
      got.on('data', (part: Buffer) => parts.push(part));
      got.on('end', () => {
        const { 'content-length': _, etag: __, ...kept } = got.headers;
        answer.writeHead(got.statusCode!, kept);
        answer.end(
          Buffer.concat(parts)
            .toString()
            .replace(/(name="release" content="|"release":")[^"]+/, `$1release-${release}`),
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
    shut: (is: boolean) => {
      isShut = is;
      if (is) door.closeAllConnections();
    },
    close: () => {
      door.closeAllConnections();
      door.close();
    },
  };
}

const releaseOf = (page: Page) => page.locator('meta[name=release]').getAttribute('content');

test('after an upgrade a page that is open offers the new one, and one that is opened is the new one', async ({
  browser,
}) => {
  const directory = mkdtempSync(join(tmpdir(), 'wunsch-upgrade-'));
  const port = await freePort();
  const server = await startServer('server/dist/start.js', directory, port);
  const door = await doorBefore(port);
  const context = await browser.newContext({ baseURL: door.url, serviceWorkers: 'allow' });
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
    // From now on a copy is kept in the browser.
    await open.evaluate(() => navigator.serviceWorker.ready.then(() => true));
    await open.reload();
    const bench = open.getByRole('heading', { name: 'Nothing on the line yet' });
    const strip = open.getByText('Wunsch has been upgraded.');
    await expect(bench).toBeVisible();
    expect(await releaseOf(open)).toBe('release-1');
    await expect(strip).toBeHidden();

    door.upgrade();
    await expect(strip).toBeVisible();
    expect(await releaseOf(open)).toBe('release-1');
    await open.getByRole('button', { name: 'Load it now' }).click();
    await expect.poll(() => releaseOf(open)).toBe('release-2');
    await expect(bench).toBeVisible();
    await expect(strip).toBeHidden();

    // Whoever opens a page gets the newest, whatever the browser has stored.
    door.upgrade();
    const other = await context.newPage();
    await other.goto('/beans');
    expect(await releaseOf(other)).toBe('release-3');
    await expect(strip).toBeVisible();

    // With the server away the copy stands in, on every page.
    door.shut(true);
    await other.goto('/grind');
    await expect(other.getByText('The server cannot be reached.')).toBeVisible();
    await expect(other.getByRole('navigation', { name: 'The line' })).toBeVisible();
    door.shut(false);
    await other.reload();
    expect(await releaseOf(other)).toBe('release-3');
  } finally {
    await context.close();
    door.close();
    await stopServer(server);
    rmSync(directory, { recursive: true, force: true });
  }
});
