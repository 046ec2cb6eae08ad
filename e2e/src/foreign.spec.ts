import { expect, test, type Page } from '@playwright/test';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import papa from 'papaparse';
import { TABLE_NAMES } from '@wunsch/contract';

/*
 * What is taken away is read by programs that know nothing of us: a spreadsheet without a window and a statistics package. They are large and
 * slow, so that this runs in the long script only (`npm run trials`).
 */
const base = () => process.env.DEMO_URL!;

/** A name a spreadsheet would reckon with if it were let. */
const FORMULA = '=1+1';

const rowsIn = (text: string): string[][] =>
  papa.parse<string[]>(text.replace(/^\uFEFF/, ''), { skipEmptyLines: true }).data;

/** A cell as both sides may write it: numbers to nine figures, words as they are. */
const cell = (text: string): string => {
  const number = Number(text);
  return text.trim() !== '' && Number.isFinite(number) ? String(Number(number.toPrecision(9))) : text.trim();
};
const cells = (rows: readonly string[][]) => rows.map((row) => row.map(cell));

/** Lets a spreadsheet program open files and write what it has understood of them as CSV. */
function throughSpreadsheet(files: readonly string[], into: string): void {
  execFileSync(
    'soffice',
    [
      '--headless',
      `-env:UserInstallation=file://${into}/profile`,
      // Comma, double quotes, UTF-8, as in the file: from the first row on, no cell as it is shown but as it is.
      '--infilter=Text - txt - csv (StarCalc):44,34,76,1,,1033,false,false',
      '--convert-to',
      'csv:Text - txt - csv (StarCalc):44,34,76,1,,1033,false,false,false',
      '--outdir',
      into,
      ...files,
    ],
    { stdio: 'pipe', timeout: 300_000 },
  );
}

async function signIn(page: Page): Promise<void> {
  const session = (await (await page.request.get(`${base()}/api/session`)).json()) as {
    demoPeople: { id: string }[];
  };
  const made = await page.request.post(`${base()}/api/session`, {
    data: { demoPersonId: session.demoPeople[0]!.id },
    headers: { origin: base() },
  });
  expect(made.ok()).toBe(true);
}

let folder: string;
test.beforeEach(async ({ page }) => {
  folder = mkdtempSync(join(tmpdir(), 'wunsch-foreign-'));
  await signIn(page);
});
test.afterEach(() => rmSync(folder, { recursive: true, force: true }));

/** Every table as CSV, in files. */
async function tables(page: Page): Promise<string[]> {
  const files: string[] = [];
  for (const name of TABLE_NAMES) {
    const answer = await page.request.get(`${base()}/api/tables/${name}.csv`);
    expect([name, answer.status()]).toEqual([name, 200]);
    files.push(join(folder, `${name}.csv`));
    writeFileSync(files.at(-1)!, await answer.body());
  }
  return files;
}

test('a spreadsheet program reads every table, cell by cell, and reckons with none of them', async ({
  page,
}) => {
  test.setTimeout(600_000);
  const id = '01900000-0000-7000-8000-00000000f00d';
  await page.request.put(`${base()}/api/customers/${id}`, {
    data: { name: FORMULA, channel: 'private' },
    headers: { origin: base() },
  });
  const files = await tables(page);
  const into = join(folder, 'read');
  throughSpreadsheet(files, into);
  for (const file of files) {
    const [ours, theirs] = [file, join(into, basename(file))].map((f) => rowsIn(readFileSync(f, 'utf8')));
    expect([basename(file), theirs!.length]).toEqual([basename(file), ours!.length]);
    expect([basename(file), cells(theirs!)]).toEqual([basename(file), cells(ours!)]);
  }
  const customers = readFileSync(join(into, 'customers.csv'), 'utf8');
  expect(customers).toContain(FORMULA);
  expect(rowsIn(customers).flat()).not.toContain('2');
});

test('a spreadsheet program reads what is on the screen as XLSX, the same as the CSV beside it', async ({
  page,
}) => {
  test.setTimeout(600_000);
  const main = page.getByRole('main');
  const pairs: string[][] = [];
  for (const sheet of ['stock', 'cost']) {
    await page.goto(`${base()}/ledger?sheet=${sheet}`);
    await expect(main.getByRole('table').first()).toBeVisible();
    // What things cost comes a little after what there is.
    await expect(main.getByText('…', { exact: true })).toHaveCount(0);
    const pair: string[] = [];
    for (const kind of ['CSV', 'XLSX']) {
      const [download] = await Promise.all([
        page.waitForEvent('download'),
        main.getByRole('button', { name: kind, exact: true }).first().click(),
      ]);
      const path = join(folder, download.suggestedFilename());
      await download.saveAs(path);
      pair.push(path);
    }
    pairs.push(pair);
  }
  const into = join(folder, 'read');
  execFileSync(
    'soffice',
    [
      '--headless',
      `-env:UserInstallation=file://${into}/profile`,
      '--convert-to',
      'csv:Text - txt - csv (StarCalc):44,34,76,1,,1033,false,false,false',
      '--outdir',
      into,
      ...pairs.map(([, xlsx]) => xlsx!),
    ],
    { stdio: 'pipe', timeout: 300_000 },
  );
  for (const [csv, xlsx] of pairs) {
    const ours = rowsIn(readFileSync(csv!, 'utf8'));
    const theirs = rowsIn(readFileSync(join(into, basename(xlsx!).replace('.xlsx', '.csv')), 'utf8'));
    expect(ours.length).toBeGreaterThan(3);
    expect([basename(xlsx!), cells(theirs)]).toEqual([basename(xlsx!), cells(ours)]);
  }
});

test('a statistics package reads every table, and its sums are ours', async ({ page }) => {
  test.setTimeout(600_000);
  const files = await tables(page);
  const script = join(folder, 'sums.R');
  writeFileSync(
    script,
    `for (file in commandArgs(trailingOnly = TRUE)) {
       t <- read.csv(file, check.names = FALSE, encoding = "UTF-8", stringsAsFactors = FALSE)
       cat(basename(file), "\\trows\\t", nrow(t), "\\n", sep = "")
       for (name in names(t)) if (is.numeric(t[[name]]))
         cat(basename(file), "\\t", name, "\\t", format(sum(t[[name]], na.rm = TRUE), digits = 15), "\\n", sep = "")
     }`,
  );
  const said = execFileSync('Rscript', ['--vanilla', script, ...files], {
    encoding: 'utf8',
    timeout: 300_000,
  });
  const sums = said
    .trim()
    .split('\n')
    .map((line) => line.split('\t') as [string, string, string]);
  expect(sums.length).toBeGreaterThan(3 * TABLE_NAMES.length);
  for (const file of files) {
    const [heading, ...rows] = rowsIn(readFileSync(file, 'utf8'));
    for (const [, name, value] of sums.filter(([of]) => of === basename(file))) {
      const at = heading!.indexOf(name);
      const ours = name === 'rows' ? rows.length : rows.reduce((sum, row) => sum + Number(row[at] || 0), 0);
      const off = Math.abs(ours - Number(value)) / Math.max(1, Math.abs(ours));
      expect([basename(file), name, off < 1e-9, ours, value]).toEqual([
        basename(file),
        name,
        true,
        ours,
        value,
      ]);
    }
  }
  expect(readdirSync(folder).length).toBeGreaterThan(TABLE_NAMES.length);
});
