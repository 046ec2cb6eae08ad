import { expect, test, type Page } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { complaints, coveredControls, enterDemo, misplacedNames, misprints } from './maker.ts';

const axe = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

interface Finding {
  id: string;
  impact: string;
  nodes: { target: string[]; failureSummary: string }[];
}

/** In every setting, and to the last row. */
const ALL = process.env.WUNSCH_SCREENS === 'all';

/** Rows of long lists are alike: some are looked at. */
const FURTHER_ROWS = ['tr', 'li'].map((row) => `${row}:nth-child(n + 6)`);

/** Stands around every screen in the same words, and is looked at on some. */
const AROUND = ['header:not(main *)', '.beside-else'];

/** On every so many screens what stands around them is looked at as well. */
const AROUND_EVERY = 8;

/** What axe finds serious or critical on the page as it stands, or in its main part. */
async function seriousFindings(page: Page, { around = true } = {}): Promise<string[]> {
  // It stays where the next screen is drawn without leaving the page.
  if (!(await page.evaluate(() => 'axe' in window))) await page.evaluate(axe);
  const violations = await page.evaluate(
    async (exclude) => {
      const { axe: runner } = window as unknown as {
        axe: { run: (c: object, o: object) => Promise<{ violations: Finding[] }> };
      };
      const { violations: all } = await runner.run(
        { include: [['html']], exclude },
        {
          runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'],
          resultTypes: ['violations'],
        },
      );
      // On a scale of time the size of a thing is what it says; the lists beside it offer the same at full size.
      const isEssential = (selector: string | undefined) =>
        selector !== undefined && document.querySelector(selector)?.closest('[data-size-is-time]') !== null;
      return all.map((v) => ({
        ...v,
        nodes: v.nodes.filter((n) => v.id !== 'target-size' || !isEssential(n.target[0])),
      }));
    },
    ALL ? [] : [...FURTHER_ROWS, ...(around ? [] : AROUND)].map((row) => [row]),
  );
  return violations
    .filter((v) => v.impact === 'serious' || v.impact === 'critical')
    .flatMap((v) =>
      v.nodes
        .slice(0, 3)
        .map((n) => `${v.id}: ${n.target.join(' ')} ${n.failureSummary.split('\n')[1] ?? ''}`),
    );
}

/** Two settings between which every theme, language and width is seen; the other two are left to `npm run trials`. */
const SETTINGS = [
  { theme: 'light', language: 'en', width: 1280, height: 800 },
  { theme: 'dark', language: 'de', width: 390, height: 844 },
  ...(ALL
    ? [
        { theme: 'dark', language: 'de', width: 1280, height: 800 },
        { theme: 'light', language: 'en', width: 390, height: 844 },
      ]
    : []),
];

for (const { theme, language, width, height } of SETTINGS) {
  test(`every screen, ${theme}, ${language}, ${width}×${height}: no complaint, nothing serious, nothing wider than the page`, async ({
    browser,
  }) => {
    // Some seventy screens, each looked at in full.
    test.setTimeout(360_000);
    const context = await browser.newContext({ viewport: { width, height } });
    await context.addInitScript(
      ([t, l]) => {
        localStorage.setItem('wunsch.theme', t!);
        localStorage.setItem('wunsch.language', l!);
      },
      [theme, language],
    );
    const page = await context.newPage();
    const found = complaints(page);
    await page.goto(process.env.DEMO_URL!);
    await page.getByRole('button', { name: /Anneke/ }).waitFor();
    const problems: string[] = (await seriousFindings(page)).map((f) => `sign-in ${f}`);
    await enterDemo(page);
    const batches = await page.evaluate(() =>
      fetch('/api/bench').then((r) => r.json() as Promise<{ batches: { id: string; code: string }[] }>),
    );
    const id = (prefix: string) => batches.batches.find((b) => b.code.startsWith(prefix))!.id;
    const done = await page.evaluate(() =>
      fetch('/api/batches?state=finished&limit=1').then((r) => r.json() as Promise<{ id: string }[]>),
    );
    const lots = await page.evaluate(() =>
      fetch('/api/lots').then((r) => r.json() as Promise<{ id: string }[]>),
    );
    const wet = (lots as { id: string; material: string }[]).find((l) => l.material === 'wet beans')!;
    const machines = await page.evaluate(() =>
      fetch('/api/machines').then((r) => r.json() as Promise<{ id: string; name: string }[]>),
    );
    const grinder = machines.find((m) => m.name === 'Otto')!;
    const mould = await page.evaluate(
      (b) =>
        fetch(`/api/batches/${b}`).then(
          (r) =>
            r.json() as Promise<{ movements: { parcelId: string; direction: string; material: string }[] }>,
        ),
      done[0]!.id,
    );
    const all = await page.evaluate(() =>
      fetch('/api/tasting-sessions').then(
        (r) =>
          r.json() as Promise<
            {
              id: string;
              status: string;
              question: string;
              seats: { id: string; done: number; of: number }[];
            }[]
          >,
      ),
    );
    const tasting = all.find((s) => s.status === 'tasting')!;
    const planned = all.find((s) => s.status === 'planned')!;
    // One opened session of each question.
    const sessions = [
      tasting,
      planned,
      ...['keep', 'differ', 'same', 'different'].map((q) =>
        all.find((s) => s.status === 'opened' && s.question === q)!,
      ),
    ];
    const cases = await page.evaluate(() =>
      fetch('/api/cases').then((r) => r.json() as Promise<{ id: string; code: string; from: string }[]>),
    );
    const classes = await page.evaluate(() =>
      fetch('/api/classes').then((r) => r.json() as Promise<{ id: string }[]>),
    );
    const seats = await page.evaluate(
      (c) => fetch(`/api/classes/${c}`).then((r) => r.json() as Promise<{ guests: { code: string }[] }>),
      classes[0]!.id,
    );
    const paths = [
      '/',
      '/beans',
      '/beans?show=compare',
      '/beans?show=samples',
      '/beans?show=harvest',
      '/beans?show=traps',
      '/beans?show=map',
      `/beans/${wet.id}`,
      `/machine/${grinder.id}`,
      '/rest',
      '/recipe/ingredients',
      '/recipe/trials',
      '/roast/compare',
      `/winnow/${done[0]!.id}`,
      `/beans/${lots[0]!.id}`,
      `/sort/${done[0]!.id}`,
      `/roast/${id('TL')}`,
      `/winnow/${id('MR')}`,
      `/recipe/${id('MR')}`,
      '/recipe/write',
      `/grind/${id('NK')}`,
      `/temper/${id('VA')}`,
      `/mould/${done[0]!.id}`,
      '/mould/fillings',
      `/mould/${id('DC-01')}`,
      `/mould/${id('DC-02')}`,
      `/taste/${done[0]!.id}`,
      '/taste/batches',
      '/taste/next',
      '/taste/sessions',
      '/taste/sessions/new',
      ...sessions.map((s) => `/taste/sessions/${s.id}`),
      `/taste/sessions/${tasting.id}/paper/${tasting.seats.find((s) => s.done < s.of)!.id}`,
      `/taste/sessions/${planned.id}/plan`,
      `/batch/${id('VA')}`,
      `/label/${done[0]!.id}/${mould.movements.find((m) => m.direction === 'out' && m.material === 'bars')!.parcelId}`,
      '/plan',
      '/plan?zoom=day',
      '/plan?zoom=season',
      '/practice',
      '/practice/palate',
      '/practice/cards',
      '/people/me',
      '/plan/list',
      '/plan/classes',
      ...classes.map((c) => `/plan/classes/${c.id}`),
      '/ledger',
      '/ledger?by=place',
      '/ledger?sheet=deliveries',
      '/ledger?sheet=trace',
      '/ledger?sheet=trace&of=code&id=NK&way=forward',
      '/ledger?sheet=trace&of=code&id=NK-02&way=back',
      '/ledger?sheet=cost',
      '/ledger?sheet=yields',
      '/ledger/letter',
      '/ledger?sheet=cases',
      '/case/new',
      `/case/new?batch=${done[0]!.id}`,
      ...cases.map((c) => `/case/${c.id}`),
      '/ledger?sheet=trail',
      '/ledger?sheet=files',
      '/ledger/count',
      '/ledger/import',
      '/ledger/forecasts',
      '/ledger/causes',
      '/settings',
      '/nowhere',
    ];
    for (const [i, path] of paths.entries()) {
      // The address is taken inside the page, as a tap on a link would.
      await page.evaluate((p) => {
        history.pushState(null, '', p);
        dispatchEvent(new PopStateEvent('popstate'));
        // One sheet of a page gives way to another where nothing says that it has: what is to be drawn has been by the time there is nothing to do.
        return new Promise((done) => requestAnimationFrame(() => requestIdleCallback(done)));
      }, path);
      await page.getByRole('main').locator('h1').first().waitFor();
      await expect(page.getByRole('main').getByText(/^(One moment|Einen Moment) …$/)).toHaveCount(0);
      const around = i % AROUND_EVERY === 0;
      problems.push(...(await seriousFindings(page, { around })).map((f) => `${path} ${f}`));
      problems.push(...(await coveredControls(page)).map((c) => `${path} ${c}`));
      problems.push(...(await misplacedNames(page)).map((n) => `${path} ${n}`));
      problems.push(...(await misprints(page)).map((m) => `${path} ${m}`));
      const wide = await page.evaluate(
        () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
      );
      if (wide > 1) problems.push(`${path} is ${wide} px wider than the page`);
    }
    // Guests of a tasting have a page without the line.
    await page.goto(`${process.env.DEMO_URL!}/join`);
    await page.getByRole('button', { name: /^(Sit down|Hinsetzen)$/ }).waitFor();
    problems.push(...(await seriousFindings(page)).map((f) => `/join ${f}`));
    // A guest of a class has one, too.
    await page.goto(`${process.env.DEMO_URL!}/class/${seats.guests[0]!.code}`);
    await page.getByRole('button', { name: /^(This is mine|Das ist meine)$/ }).waitFor();
    problems.push(...(await seriousFindings(page)).map((f) => `/class ${f}`));
    // What the code on a bar opens for anyone, with the form that tells its maker.
    const bar = cases.find((c) => c.from === 'public')!;
    await page.goto(`${process.env.DEMO_URL!}/bar/${bar.code}`);
    await page.getByRole('button', { name: /Something is wrong|stimmt etwas nicht/ }).click();
    await page.getByRole('button', { name: /^(Send to the maker|An den Hersteller senden)$/ }).waitFor();
    problems.push(...(await seriousFindings(page)).map((f) => `/bar ${f}`));
    expect(problems).toEqual([]);
    expect(found.filter((f) => !f.includes('401'))).toEqual([]);
    await context.close();
  });
}
