import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import {
  LABEL_PARTS,
  STARTER_DESIGNS,
  type BarFacts,
  type LabelDesign,
  type MakerFacts,
} from '@wunsch/core/label';
import { STARTER_INGREDIENTS } from '@wunsch/core/recipe';
import {
  labelPdf,
  labelSvg,
  LabelType,
  layOutBox,
  layOutLabel,
  MM_PER_PT,
  symbolOf,
  type LaidSide,
} from '@wunsch/core/print';

import { press } from './press.ts';

const { type } = await press();

const ingredient = (key: string) => ({ id: key, ...STARTER_INGREDIENTS.find((i) => i.key === key)! });

const bar = (more: Partial<BarFacts> = {}): BarFacts => ({
  lines: [
    { ingredient: ingredient('nibs'), massMg: 7_000_000 },
    { ingredient: ingredient('cane-sugar'), massMg: 2_600_000 },
    { ingredient: ingredient('whole-milk-powder'), massMg: 300_000 },
    { ingredient: ingredient('salt'), massMg: 100_000 },
  ],
  origins: [{ name: 'Thanh Lộc Orchard', country: 'Vietnam', harvest: '2025' }],
  broughtAllergens: [],
  bought: {},
  boughtKind: null,
  complete: true,
  netMg: 60_000,
  code: 'THL-06-261125',
  bestBefore: '2028-05-25',
  ownName: '',
  shellPercent: null,
  waterActivity: null,
  pageUrl: 'http://127.0.0.1:4310/batch/0192f3a0-0000-7000-8000-000000000001',
  ...more,
});

const maker: MakerFacts = {
  name: 'Saltmarsh Row',
  address: '3 Net Loft Lane, 1234 Harbour',
  cacaoSchool: 'all',
  traces: ['nuts', 'milk'],
};

const design = (
  key: keyof typeof STARTER_DESIGNS | string,
  more: Partial<LabelDesign> = {},
): LabelDesign => ({
  ...STARTER_DESIGNS[key]!,
  ...more,
});

/** What a side says, in the order it was set. */
const said = (side: LaidSide) => side.texts.map((t) => t.text.trim()).join(' ');

const there = (command: string) => {
  try {
    execFileSync('which', [command], { stdio: 'pipe' });
    return true;
  } catch {
    return false;
  }
};

describe('a laid-out label', () => {
  test('says what the bowl holds, in falling order, allergens standing out, traces without what is in it', () => {
    const { front } = layOutLabel(bar(), maker, design('single'), type);
    expect(said(front)).toContain('Ingredients: cocoa nibs, cane sugar, WHOLE MILK POWDER , sea salt.');
    expect(front.texts.filter((t) => t.bold).map((t) => t.text.trim())).toEqual(
      expect.arrayContaining(['WHOLE MILK POWDER', 'nuts', '60 g']),
    );
    expect(said(front)).toContain('May contain nuts .');
    expect(said(front)).toContain('Cocoa solids 70.7 % minimum');
    // 7 kg of nibs in 9.9 kg of chocolate: salt is no part of it.
  });

  test('nothing leaves the label, nothing lies on anything else, and no word is lost, whatever is on it', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 30, max: 120 }),
        fc.integer({ min: 25, max: 160 }),
        fc.subarray([...LABEL_PARTS], { minLength: 1 }),
        fc.array(fc.string({ minLength: 1, maxLength: 40 }), { minLength: 1, maxLength: 8 }),
        fc.constantFrom<'EU' | 'US'>('EU', 'US'),
        (widthMm, heightMm, front, names, market) => {
          const lines = names.map((name, i) => ({
            ingredient: { ...ingredient('cane-sugar'), name: `x${i}${name.replaceAll(/\s+/g, '')}` },
            massMg: 1000 + i,
          }));
          const laid = layOutLabel(
            bar({ lines }),
            maker,
            design('single', {
              widthMm,
              heightMm,
              front,
              market,
              marginMm: 2,
              nutrition: true,
              symbolMm: 12,
            }),
            type,
          );
          const set = laid.front.texts
            .map((t) => t.text)
            .join('')
            .replaceAll(' ', '');
          if (front.includes('ingredients'))
            for (const { ingredient: i } of lines)
              expect(set).toContain(
                [...i.name]
                  .map((s) => (type.missing(s, false).length ? '?' : s))
                  .join('')
                  .trim(),
              );
          for (const t of laid.front.texts) {
            expect(t.xMm).toBeGreaterThanOrEqual(2 - 1e-6);
            // A net mass wider than its label is told as too large; it cannot be broken.
            if (t.widthMm > 4 && (laid.fits || t.sizePt !== laid.front.netPt))
              expect(t.xMm + t.widthMm).toBeLessThanOrEqual(widthMm - 2 + 0.05);
          }
          if (!laid.fits) return;
          const boxes = laid.front.texts.map((t) => ({
            left: t.xMm,
            right: t.xMm + t.widthMm,
            top: t.yMm - t.sizePt * MM_PER_PT * type.capHeight,
            bottom: t.yMm,
          }));
          for (const s of laid.front.symbols)
            boxes.push({
              left: s.xMm,
              right: s.xMm + s.grid.rows.length * s.moduleMm,
              top: s.yMm,
              bottom: s.yMm + s.grid.rows.length * s.moduleMm,
            });
          boxes.forEach((a, i) => {
            expect(a.bottom).toBeLessThanOrEqual(heightMm - 1);
            for (const b of boxes.slice(i + 1))
              expect(
                a.left < b.right - 0.05 &&
                  b.left < a.right - 0.05 &&
                  a.top < b.bottom - 0.05 &&
                  b.top < a.bottom - 0.05,
              ).toBe(false);
          });
        },
      ),
      { numRuns: 90 },
    );
  });

  test('too much text is said with what could go, and is never printed', async () => {
    const laid = layOutLabel(bar(), maker, design('stickers', { languages: ['en', 'de', 'fr'] }), type);
    expect(laid.fits).toBe(false);
    expect(laid.front.overMm).toBeGreaterThan(5);
    expect(laid.checks[0]).toMatchObject({ name: 'fits', state: 'missing', params: { side: 'front' } });
    expect(String(laid.checks[0]!.params.parts)).toContain('traces');
    await expect(labelPdf(laid, type, { copies: 1, title: 'x' })).rejects.toThrow(
      'mm too large for the label',
    );
  });

  test('type is never smaller than the rule, and the digits of the net mass are as tall as they must be', () => {
    for (const [netMg, needs] of [
      [45_000, 2],
      [50_000, 2],
      [60_000, 3],
      [250_000, 4],
      [1_200_000, 6],
    ] as const) {
      const { front, checks } = layOutLabel(bar({ netMg }), maker, design('single'), type);
      expect(front.netPt! * MM_PER_PT * type.capHeight).toBeGreaterThanOrEqual(needs - 1e-9);
      expect(checks.find((c) => c.name === 'netMass')).toMatchObject({ state: 'met', params: { needs } });
      // 90 × 55 mm is below 80 cm²: an x of 0.9 mm.
      expect(front.sizePt * MM_PER_PT * type.xHeight).toBeGreaterThanOrEqual(0.9 - 1e-9);
    }
  });

  test('what a market asks and is not there is named', () => {
    const names = (d: LabelDesign, b = bar(), m = maker) =>
      layOutLabel(b, m, d, type)
        .checks.filter((c) => c.state === 'missing')
        .map((c) => c.name);
    expect(names(design('single'))).toEqual([]);
    expect(names(design('single'), bar({ bestBefore: null }), { ...maker, address: '' })).toEqual([
      'bestBefore',
      'address',
    ]);
    expect(names(design('single', { front: ['name', 'netMass'], market: 'EU' }))).toEqual([
      'ingredients',
      'allergens',
      'bestBefore',
      'batch',
      'address',
    ]);
    expect(
      names(
        design('wrapper', {
          front: ['maker'],
          back: ['name', 'netMass', 'ingredients', 'address'],
          market: 'US',
        }),
      ),
    ).toContain('sameFace');
    const sugarOnly = bar({ lines: [{ ingredient: ingredient('cane-sugar'), massMg: 1 }] });
    expect(names(design('single'), sugarOnly)).toContain('name');
    expect(names(design('single'), { ...sugarOnly, ownName: 'Sugar tablet' })).not.toContain('name');
  });

  test('a box says how many bars of which mass', () => {
    const box = layOutBox(bar(), maker, design('stickers'), { type, bars: 12 });
    expect(said(box.front)).toContain('12 × 60 g');
    expect(said(box.front)).not.toContain('Ingredients');
    expect(() => layOutBox(bar(), maker, design('stickers'), { type, bars: 0 })).toThrow(
      'whole number of bars',
    );
  });

  test('nonsense is refused with what would be right', async () => {
    expect(() => layOutLabel(bar({ netMg: 0 }), maker, design('single'), type)).toThrow('above 0 g');
    expect(() => layOutLabel(bar(), maker, design('single', { widthMm: 5 }), type)).toThrow('15–300 mm wide');
    expect(() => layOutLabel(bar(), maker, design('single', { widthMm: NaN }), type)).toThrow(
      'numbers of mm',
    );
    expect(() => layOutLabel(bar(), maker, design('single', { languages: [] }), type)).toThrow('a language');
    expect(() => symbolOf('qr', '')).toThrow('1 to 400 signs');
    for (const text of ['日本', '😀', '\u0000x', 'ß€']) {
      expect(symbolOf('qr', text).rows.length).toBeGreaterThan(20);
      try {
        expect(symbolOf('datamatrix', text).rows.length).toBeGreaterThan(8);
      } catch (error) {
        expect(error).toBeInstanceOf(RangeError);
      }
    }
    expect(() => new LabelType([])).toThrow('regular and a bold');
    const laid = layOutLabel(bar(), maker, design('stickers'), type);
    await expect(labelPdf(laid, type, { copies: 0, title: 'x' })).rejects.toThrow('between 1 and 5000');
    await expect(labelPdf(laid, type, { copies: 1, firstPlace: 21, title: 'x' })).rejects.toThrow(
      'places 1 to 21',
    );
  });

  test('the SVG is its true size, its text is text, and what is typed cannot become markup', () => {
    const laid = layOutLabel(bar({ ownName: 'Salt & <b>pepper</b>' }), maker, design('single'), type);
    const svg = labelSvg(laid.front, laid.design, type, 'a "label"');
    expect(svg).toContain('width="90mm" height="55mm"');
    expect(svg).toContain('Salt &amp; &lt;b&gt;pepper&lt;/b&gt;');
    expect(svg).not.toContain('<b>');
    expect(svg).toContain('<title>a &quot;label&quot;</title>');
  });
});

const readers = ['pdftotext', 'pdffonts', 'pdftoppm', 'zbarimg', 'dmtxread'].every(there);

(readers ? describe : describe.skip)('read back by programs that are not ours', () => {
  let folder: string;
  beforeAll(() => (folder = mkdtempSync(join(tmpdir(), 'wunsch-labels-'))));
  afterAll(() => rmSync(folder, { recursive: true, force: true }));
  const run = (command: string, args: string[]) =>
    execFileSync(command, args, { cwd: folder, encoding: 'utf8', stdio: ['ignore', 'pipe', 'ignore'] });
  const print = async (name: string, d: LabelDesign, copies: number, b = bar()) => {
    const laid = layOutLabel(b, maker, d, type);
    writeFileSync(
      join(folder, `${name}.pdf`),
      await labelPdf(laid, type, {
        copies,
        title: name,
        boxes: d.sheet ? { bars: 10, layOut: (bars) => layOutBox(b, maker, d, { type, bars }) } : null,
      }),
    );
    return laid;
  };

  test.each(['single', 'wrapper', 'stickers', 'mini'])(
    'every word of "%s" is found, with its fonts inside',
    async (key) => {
      const laid = await print(key, design(key), 1);
      const found = run('pdftotext', [`${key}.pdf`, '-']).replaceAll(/\s+/g, ' ');
      for (const side of laid.back ? [laid.front, laid.back] : [laid.front])
        for (const word of said(side).split(/\s+/)) expect(found).toContain(word);
      const fonts = run('pdffonts', [`${key}.pdf`])
        .trim()
        .split('\n')
        .slice(2);
      expect(fonts.length).toBeGreaterThanOrEqual(2);
      for (const font of fonts) expect(font).toMatch(/\byes (yes|no)\s+yes\b/);
    },
  );

  test('a sheet holds its labels at their places, and a reader finds each code at 300 dpi', async () => {
    await print('sheet', design('stickers'), 25);
    run('pdftoppm', ['-r', '300', '-gray', '-png', 'sheet.pdf', 'sheet']);
    const codes = (page: number) =>
      run('zbarimg', ['-q', '--raw', `sheet-${page}.png`])
        .trim()
        .split('\n');
    // 25 bars and the labels of three boxes: 21 on the first sheet, 7 on the second.
    expect([codes(1).length, codes(2).length]).toEqual([21, 7]);
    expect(new Set([...codes(1), ...codes(2)])).toEqual(new Set([bar().pageUrl]));
    expect(run('pdfinfo', ['sheet.pdf'])).toMatch(/Pages:\s+2[^]*Page size:\s+595\.27\d* x 841\.8/);
  });

  test('a Data Matrix of the code on the bar is read from the smallest label', async () => {
    await print('small', design('mini'), 1);
    run('pdftoppm', ['-r', '300', '-png', 'small.pdf', 'small']);
    expect(run('dmtxread', ['-N1', '-m8000', 'small-1.png'])).toBe('THL-06-261125');
  });

  test('German and French are set with their own words and signs', async () => {
    await print('many', design('wrapper', { languages: ['de', 'fr'] }), 1);
    const found = run('pdftotext', ['many.pdf', '-']).replaceAll(/\s+/g, ' ');
    for (const words of [
      'Dunkle Schokolade mit Meersalz',
      'Nährwerte je 100 g',
      'À consommer',
      'Thanh Lộc',
      'VOLLMILCHPULVER',
    ])
      expect(found).toContain(words);
  });
});
