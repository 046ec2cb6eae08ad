// npm run pictures: takes the README's pictures anew from a fresh demo workshop.
import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { build } from './build.mjs';
import launch from './chromium.json' with { type: 'json' };
import { ensureSystem, root } from './setup.mjs';

await ensureSystem('browser');
await build();
const directory = mkdtempSync(join(tmpdir(), 'wunsch-pictures-'));
const probe = createServer().listen(0, '127.0.0.1');
await new Promise((resolve) => probe.once('listening', resolve));
const { port } = probe.address();
await new Promise((resolve) => probe.close(resolve));
const url = `http://127.0.0.1:${port}`;
const demo = spawn('node', [join(root, 'demo/dist/start.js')], {
  cwd: root,
  env: { ...process.env, PORT: String(port), WUNSCH_DATA: directory, DATABASE_URL: '' },
  stdio: 'ignore',
});
// Whatever becomes of the pictures, it does not go on alone.
process.once('exit', () => demo.kill('SIGTERM'));
const isOpen = () =>
  fetch(`${url}/api/health`)
    .then((r) => r.json())
    .then(
      (h) => h.status === 'ok',
      () => false,
    );
while (!(await isOpen())) await new Promise((resolve) => setTimeout(resolve, 300));

const browser = await chromium.launch(launch);

/** A page of the demo with someone signed in. */
async function open({ width = 1280, height = 800, theme = 'light', language = 'en' } = {}) {
  const context = await browser.newContext({ viewport: { width, height }, locale: 'en-GB' });
  await context.addInitScript(
    ([t, l]) => {
      localStorage.setItem('wunsch.theme', t);
      localStorage.setItem('wunsch.language', l);
    },
    [theme, language],
  );
  const page = await context.newPage();
  await page.goto(url);
  await page.getByRole('button', { name: /Anneke/ }).click();
  await page.getByRole('navigation', { name: /The line|Die Linie/ }).waitFor();
  return page;
}

/** Lets charts and forecasts arrive, silences what rings, and takes the picture. */
async function take(page, name) {
  await page.waitForTimeout(2500);
  // What explains a picture once has been read.
  const explained = page.getByRole('button', { name: /^(I see|Alles klar)$/ });
  if (await explained.isVisible()) await explained.click();
  const quiet = page.getByRole('button', { name: /^(Quiet|Still)$/ });
  for (let i = 0; i < 4 && (await quiet.count()) > 0; i += 1) {
    await quiet.first().click();
    await page.waitForTimeout(200);
  }
  await page.mouse.move(640, 795);
  await page.screenshot({ path: join(root, `docs/screenshots/${name}.png`) });
  console.log(name);
}

const page = await open();
const read = (path) => page.evaluate((p) => fetch(p).then((r) => r.json()), path);
const { batches } = await read('/api/bench');
const at = (station) => batches.find((b) => b.flow.here === station);
const lots = await read('/api/lots');
const go = (path) => page.goto(`${url}${path}`);
/** Scrolls so that a heading stands below the line. */
const showing = (title) =>
  page
    .getByRole('heading', { name: title })
    .first()
    .evaluate((e) => globalThis.scrollBy(0, e.getBoundingClientRect().top - 100));

await take(page, 'bench');
await go(`/batch/${at('temper').id}`);
await take(page, 'batch');
await go(`/roast/${at('roast').id}`);
// The oven is learned first; then its forecast is drawn.
await page
  .getByText(/in the corridor|^next minute/)
  .first()
  .waitFor({ timeout: 20_000 });
await take(page, 'roast');
await go('/recipe/write');
await page.getByLabel('at least').first().fill('80');
await page.getByLabel('at most').last().fill('38');
await take(page, 'recipe');
await go(`/beans/${lots.find((l) => l.code === 'NK').id}`);
await page.waitForTimeout(1500);
await showing('Cut test');
await take(page, 'lot');
await go('/ledger');
await page.getByText('even, to the milligram').waitFor();
await take(page, 'stock');
await go('/ledger?sheet=trace&of=code&id=VA');
await page.getByText('accounted for').first().waitFor();
await take(page, 'trace');
await go('/ledger?sheet=cost');
await page.getByRole('slider').first().waitFor();
await take(page, 'cost');
await go(`/grind/${at('grind').id}`);
await take(page, 'grind');
await page.getByRole('button', { name: /Conche on here/ }).click();
await page.getByText('How sour now?').waitFor();
await page.reload();
await take(page, 'conche');
await go(`/temper/${at('temper').id}`);
await take(page, 'temper');
const { batches: now } = await read('/api/bench');
const moulded = now.find((b) => b.code === 'DC-02');
await go(`/mould/${moulded.id}`);
await take(page, 'mould');
const domes = await read(`/api/batches/${now.find((b) => b.code === 'DC-01').id}`);
const boxed = domes.movements.find((m) => m.direction === 'out' && m.material === 'bars');
await go(`/label/${domes.batch.id}/${boxed.parcelId}`);
await take(page, 'label');
const winnowed = (await read('/api/winnowings')).at(-1);
await go(`/winnow/${winnowed.batchId}`);
await page.waitForTimeout(1500);
await showing('Husk left against nib lost');
await take(page, 'winnow');
await go(`/taste/${winnowed.batchId}`);
await page.getByRole('tab', { name: /All tastings/ }).click();
await page.waitForTimeout(800);
await take(page, 'taste');
const sessions = await read('/api/tasting-sessions');
const session = (question, status) =>
  `/taste/sessions/${sessions.find((s) => s.question === question && s.status === status).id}`;
await go(session('keep', 'opened'));
await page.getByRole('heading', { name: /taken out/ }).waitFor();
await take(page, 'session');
const told = (await read('/api/cases')).find((c) => c.from === 'public');
await go(`/case/${told.id}`);
await page.getByRole('heading', { name: 'What it may come from' }).waitFor();
await take(page, 'fault');
await go('/plan');
await page.getByRole('group', { name: 'The board' }).waitFor();
// The plan is reckoned first.
await page.waitForTimeout(1500);
await page.getByText(/^Being reckoned/).waitFor({ state: 'hidden', timeout: 60_000 });
await take(page, 'plan');
await take(await open({ width: 390, height: 844, theme: 'dark', language: 'de' }), 'phone');

await browser.close();
const ended = new Promise((resolve) => demo.once('exit', resolve));
demo.kill('SIGTERM');
await ended;
rmSync(directory, { recursive: true, force: true });
