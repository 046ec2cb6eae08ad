import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import fontkit from '@pdf-lib/fontkit';
import { PDFDocument } from 'pdf-lib';
import { STARTER_DESIGNS, type BarFacts } from '@wunsch/core/label';
import { labelPdf, LabelType, layOutLabel } from '@wunsch/core/print';
import { STARTER_INGREDIENTS } from '@wunsch/core/recipe';
import { median, ms, printTable } from './table.ts';

const require = createRequire(import.meta.url);
const RUNS = 5;
const BARS = 200;

async function timed(work: () => Promise<Uint8Array>): Promise<{ ms: number; bytes: number }> {
  const times: number[] = [];
  let bytes = 0;
  for (let i = 0; i < RUNS; i += 1) {
    const start = performance.now();
    bytes = (await work()).length;
    times.push(performance.now() - start);
  }
  return { ms: median(times), bytes };
}

/** Labels for 200 bars as a PDF, beside as many pages with one line of the same type each, which is the least such a file can cost. */
export async function labels(): Promise<void> {
  const file = (weight: number) =>
    new Uint8Array(
      readFileSync(
        require.resolve(`@fontsource/hanken-grotesk/files/hanken-grotesk-latin-${weight}-normal.woff`),
      ),
    );
  const type = new LabelType([
    { bold: false, bytes: file(400) },
    { bold: true, bytes: file(700) },
  ]);
  const ingredient = (key: string) => ({ id: key, ...STARTER_INGREDIENTS.find((i) => i.key === key)! });
  const bar: BarFacts = {
    lines: [
      { ingredient: ingredient('nibs'), massMg: 700 },
      { ingredient: ingredient('cane-sugar'), massMg: 280 },
      { ingredient: ingredient('whole-milk-powder'), massMg: 20 },
    ],
    origins: [{ name: 'Nkondo Growers', country: 'Uganda', harvest: '2026' }],
    broughtAllergens: [],
    bought: {},
    boughtKind: null,
    complete: true,
    netMg: 60_000,
    code: 'NK-06-261125',
    bestBefore: '2028-05-25',
    ownName: '',
    shellPercent: null,
    waterActivity: null,
    pageUrl: 'http://127.0.0.1:4310/batch/0192f3a0-0000-7000-8000-000000000001',
  };
  const maker = {
    name: 'Saltmarsh Row',
    address: 'Net Loft, Harbourside',
    cacaoSchool: 'all',
    traces: ['nuts'],
  } as const;
  const plain = await timed(async () => {
    const pdf = await PDFDocument.create();
    pdf.registerFontkit(fontkit);
    const font = await pdf.embedFont(file(400), { subset: true });
    for (let i = 0; i < BARS; i += 1)
      pdf.addPage([255, 156]).drawText('Dark chocolate, 60 g', { x: 10, y: 10, size: 9, font });
    return pdf.save();
  });
  const row = (name: string, { ms: time, bytes }: { ms: number; bytes: number }) => [
    name,
    ms(time),
    `${(bytes / 1000).toFixed(0)} kB`,
    (time / plain.ms).toFixed(2),
  ];
  const rows = [row('200 pages with one line each (baseline)', plain)];
  for (const key of ['single', 'stickers', 'wrapper'] as const)
    rows.push(
      row(
        `200 labels, ${key}`,
        await timed(() =>
          labelPdf(layOutLabel(bar, maker, STARTER_DESIGNS[key]!, type), type, { copies: BARS, title: key }),
        ),
      ),
    );
  printTable(`labels for ${BARS} bars, laid out and written, median of ${RUNS}`, [
    ['what', 'time', 'file', 'to baseline'],
    ...rows,
  ]);
}
