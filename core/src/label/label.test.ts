import { STARTER_INGREDIENTS } from '../recipe/index.ts';
import {
  additiveClass,
  addedSugars,
  designFaults,
  designFaultText,
  euNutrition,
  ingredientName,
  labelContent,
  labelDay,
  ALLERGENS,
  LABEL_WORDS,
  netMassText,
  soldAs,
  STARTER_DESIGNS,
  sweetenedWith,
  typeRules,
  usNutrition,
  type BarFacts,
  type LabelDesign,
} from './index.ts';

const ingredient = (key: string) => ({ id: key, ...STARTER_INGREDIENTS.find((i) => i.key === key)! });
const bar = (lines: BarFacts['lines'], more: Partial<BarFacts> = {}): BarFacts => ({
  lines,
  origins: [],
  broughtAllergens: [],
  bought: {},
  boughtKind: null,
  complete: true,
  netMg: 60_000,
  code: 'A',
  bestBefore: null,
  ownName: '',
  shellPercent: null,
  waterActivity: null,
  pageUrl: '',
  ...more,
});
const dark: BarFacts['lines'] = [
  { ingredient: ingredient('nibs'), massMg: 700 },
  { ingredient: ingredient('cane-sugar'), massMg: 300 },
];

test('ounces are never rounded up', () => {
  // 60 g are 2.1164 oz, 85 g 2.9983, 20 g 0.7055.
  const text = (mg: number) => netMassText(mg, 'US', 'en').replaceAll('\u00a0', ' ');
  expect([text(60_000), text(85_000), text(20_000)]).toEqual([
    'Net Wt 2.1 oz (60 g)',
    'Net Wt 2.9 oz (85 g)',
    'Net Wt 0.70 oz (20 g)',
  ]);
  // From a pound on pounds stand beside the ounces, from four before them: 453.592 g are a pound, 500 g 17.637 oz, 2 kg 70.548 oz.
  expect([text(453_591), text(453_592), text(500_000), text(2_000_000)]).toEqual([
    'Net Wt 15.9 oz (453.5 g)',
    'Net Wt 16.0 oz (1 lb) 453.5 g',
    'Net Wt 17.6 oz (1 lb 1.6 oz) 500 g',
    'Net Wt 4 lb 6.5 oz (2,000 g)',
  ]);
  // What was typed in whole ounces is stored to the milligram, and still is whole ounces.
  expect(
    [1, 2, 2.5, 3, 3.5, 8].map(
      (oz) => text(Math.round(oz * 28_349.523125)).match(/^Net Wt ([\d.]+) oz/)?.[1],
    ),
  ).toEqual(['1.0', '2.0', '2.5', '3.0', '3.5', '8.0']);
  expect(netMassText(12_500, 'EU', 'de')).toBe('12,5\u00a0g');
  // Nor are grams.
  expect(netMassText(12_580, 'EU', 'en')).toBe('12.5\u00a0g');
  expect(netMassText(59_999, 'EU', 'en')).toBe('59.9\u00a0g');
});

test('how cool it is kept is said in the degrees of the market', () => {
  const maker = { name: 'Row', address: '', traces: [], cacaoSchool: 'all' as const };
  const said = (market: 'EU' | 'US', shellPercent: number | null = null) =>
    labelContent(bar(dark, { shellPercent }), maker, {
      ...STARTER_DESIGNS.single!,
      market,
      languages: ['en'],
    })
      .parts.find((p) => p.part === 'storage')!
      .paragraphs.flat()
      .map((run) => run.text.replaceAll('\u00a0', ' '))
      .join('');
  expect(said('EU')).toBe('Keep cool (16–18 °C), dry and dark.');
  // 16 °C are 60.8 °F, 18 are 64.4; 14 are 57.2, 16 are 60.8.
  expect(said('US')).toBe('Keep cool (61–64 °F), dry and dark.');
  expect(said('US', 60)).toMatch(/^Keep cool \(57–61 °F\)/);
});

test('the name follows the bowl, what is laid in, and what it is filled with', () => {
  expect(soldAs(bar(dark), 'EU', 'en')).toBe('Dark chocolate');
  expect(soldAs(bar(dark), 'EU', 'de')).toBe('Dunkle Schokolade');
  const nutty = [...dark, { ingredient: ingredient('hazelnuts'), massMg: 100 }];
  expect(soldAs(bar(nutty), 'EU', 'de')).toBe('Dunkle Schokolade mit gerösteten Haselnüssen');
  expect(soldAs(bar(dark, { shellPercent: 60 }), 'EU', 'fr')).toBe('Chocolat noir fourré');
  expect(soldAs(bar(dark, { shellPercent: 60, netMg: 12_000 }), 'EU', 'en')).toBe('Chocolates');
  expect(soldAs(bar([{ ingredient: ingredient('cane-sugar'), massMg: 1 }]), 'EU', 'en')).toBeNull();
  expect(soldAs(bar(dark, { ownName: 'Marsh 70' }), 'EU', 'en')).toBe('Marsh 70');
  expect(soldAs(bar([], { boughtKind: 'white' }), 'EU', 'en')).toBe('White chocolate');
});

test('the European statement keeps the order and the rounding of the rule', () => {
  const form = euNutrition(
    {
      fat: 42.3,
      saturates: 25.8,
      carbohydrate: 33.4,
      sugars: 29.96,
      fibre: 10.2,
      protein: 8.24,
      salt: 0.011,
    },
    'en',
  );
  expect(form.rows.map((r) => [r.name, r.amount.replaceAll('\u00a0', ' ')])).toEqual([
    // 37 × 42.3 + 17 × (33.4 + 8.24) + 8 × 10.2 kJ; 9, 4 and 2 kcal.
    ['energy', '2,355 kJ / 568 kcal'],
    ['fat', '42 g'],
    ['of which saturates', '26 g'],
    ['carbohydrate', '33 g'],
    ['of which sugars', '30 g'],
    ['fibre', '10 g'],
    ['protein', '8.2 g'],
    ['salt', '0 g'],
  ]);
});

test('the US statement counts fibre as carbohydrate, rounds by its rule, and states the whole of a small bar', () => {
  const per100 = { fat: 42, saturates: 26, carbohydrate: 33, sugars: 30, fibre: 10, protein: 8, salt: 0.02 };
  const rows = (netMg: number) => {
    const form = usNutrition(per100, 29, netMg);
    return {
      under: form.under,
      ...Object.fromEntries(
        form.rows.map((r) => [
          r.name,
          `${r.amount.replaceAll('\u00a0', ' ')} ${r.daily.replaceAll('\u00a0', ' ')}`.trim(),
        ]),
      ),
    };
  };
  expect(rows(50_000)).toMatchObject({
    under: '1 serving, serving size 50 g',
    Calories: '280',
    'Total Fat': '21 g 27 %',
    'Saturated Fat': '13 g 65 %',
    Sodium: '0 mg 0 %',
    'Total Carbohydrate': '22 g 8 %',
    'Dietary Fiber': '5 g 18 %',
    'Includes Added Sugars': '15 g 29 %',
  });
  expect(rows(60_000)).toMatchObject({ under: '2 servings, serving size 30 g', Calories: '170' });
});

test('sugars are added by sugar, not by milk or fruit', () => {
  const lines = [
    { ingredient: ingredient('cane-sugar'), massMg: 300 },
    { ingredient: ingredient('whole-milk-powder'), massMg: 200 },
    { ingredient: ingredient('freeze-dried-raspberry'), massMg: 500 },
  ];
  expect(addedSugars(lines, (l) => l.ingredient.id === 'freeze-dried-raspberry')).toBeCloseTo(29.97, 6);
  expect(addedSugars([], () => false)).toBe(0);
});

test('type is as tall as the rules of both markets ask', () => {
  expect(typeRules('EU', 90 * 55, 60_000)).toMatchObject({ xHeightMm: 0.9, netDigitsMm: 3 });
  expect(typeRules('EU', 90 * 100, 1_000_000)).toMatchObject({ xHeightMm: 1.2, netDigitsMm: 4 });
  // 5 in² are 3225.8 mm².
  expect(typeRules('US', 3225, 60_000).netDigitsMm).toBeCloseTo(1.5875, 9);
  expect(typeRules('US', 3227, 60_000).netDigitsMm).toBeCloseTo(3.175, 9);
});

test('days and names are written as the language does; every starter ingredient has a word in every language', () => {
  expect([labelDay('2028-05-25', 'en'), labelDay('2028-05-25', 'de'), labelDay('2028-05-25', 'fr')]).toEqual([
    '25 May 2028',
    '25.05.2028',
    '25/05/2028',
  ]);
  for (const { name } of STARTER_INGREDIENTS)
    for (const language of ['en', 'de', 'fr'] as const)
      expect([name, ingredientName(name, language).known]).toEqual([name, true]);
  expect(ingredientName('Elderflower', 'de')).toEqual({ text: 'Elderflower', known: false });
  expect(ingredientName('Elderflower', 'de', { de: 'Holunderblüten' })).toEqual({
    text: 'Holunderblüten',
    known: true,
  });
  expect(ingredientName('Elderflower', 'fr', { de: 'Holunderblüten' }).known).toBe(false);
  for (const { allergens } of STARTER_INGREDIENTS)
    for (const a of allergens)
      for (const words of Object.values(LABEL_WORDS)) expect(words.allergens[a]).toBeDefined();
});

test('the fourteen of the rule have a word in every language of a label, each its own', () => {
  expect(new Set(ALLERGENS).size).toBe(14);
  for (const { allergens } of Object.values(LABEL_WORDS))
    expect(new Set(ALLERGENS.map((a) => allergens[a])).size).toBe(14);
});

test('designs to begin with can be printed; what cannot is told with the number that is too much', () => {
  for (const design of Object.values(STARTER_DESIGNS)) expect(designFaults(design)).toEqual([]);
  const wide = { ...STARTER_DESIGNS.stickers!, widthMm: 80 };
  const said = (design: LabelDesign) => designFaults(design).map(designFaultText);
  expect(said(wide)[0]).toBe('3 columns need 251.5 mm, A4 is 210 mm wide');
  expect(said({ ...wide, widthMm: Infinity })).toEqual(['sizes are numbers of mm']);
});

test.each([
  ['a label as wide as a table', { widthMm: 900 }, 'size'],
  ['margins that meet', { marginMm: 40 }, 'margin'],
  ['nothing on the front', { front: [] }, 'empty-front'],
  ['no language', { languages: [] }, 'no-language'],
  ['a name on both sides', { front: ['name'], back: ['name', 'code'] }, 'twice'],
  ['a sheet without rows', { sheet: { ...STARTER_DESIGNS.stickers!.sheet!, rows: 0 } }, 'sheet-numbers'],
  ['more rows than paper', { sheet: { ...STARTER_DESIGNS.stickers!.sheet!, rows: 40 } }, 'too-high'],
])('%s is a fault of its own', (_, more, code) => {
  const faults = designFaults({ ...STARTER_DESIGNS.single!, ...(more as Partial<LabelDesign>) });
  expect(faults.map((f) => f.code)).toContain(code);
  for (const fault of faults) expect(designFaultText(fault)).not.toMatch(/undefined|NaN/);
});

test('chocolate that was bought ready is named by what it is made of; beside others it stands with its own', () => {
  const design = (languages: LabelDesign['languages']) => ({ ...STARTER_DESIGNS.single!, languages });
  const couverture = {
    ...ingredient('nibs'),
    id: 'c',
    name: 'Our dark buttons',
    allergens: ['soy', 'milk'] as const,
  };
  const bought = { 'Our dark buttons': 'cocoa mass, sugar, soya lecithin' };
  const said = (lines: BarFacts['lines'], languages: LabelDesign['languages']) => {
    const content = labelContent(
      bar(lines, { bought, boughtKind: 'dark' }),
      { name: 'Us', address: '', cacaoSchool: 'all', traces: [] },
      design(languages),
    );
    const [first] = content.parts.find((p) => p.part === 'ingredients')!.paragraphs;
    return { runs: first!, text: first!.map((r) => r.text).join(''), content };
  };
  const alone = said([{ ingredient: couverture, massMg: 60_000 }], ['en']);
  // Milk is in it and no word of the sheet says so: it is said after.
  expect(alone.text).toBe('Ingredients: cocoa mass, sugar, SOYA lecithin. Contains milk.');
  expect(alone.runs.filter((r) => r.bold).map((r) => r.text)).toEqual(['SOYA', 'milk']);
  expect(alone.content.inOneLanguage).toEqual([]);
  const mixed = said(
    [
      { ingredient: couverture, massMg: 50_000 },
      { ingredient: ingredient('cane-sugar'), massMg: 10_000 },
    ],
    ['en', 'de'],
  );
  expect(mixed.text).toBe(
    'Ingredients: Our dark buttons (cocoa mass, sugar, SOYA lecithin), cane sugar. Contains milk.',
  );
  expect(mixed.content.inOneLanguage).toEqual(['Our dark buttons']);
});

describe('sweeteners', () => {
  const maker = { name: 'Us', address: '', cacaoSchool: 'all' as const, traces: [] };
  const written = (facts: BarFacts, more: Partial<LabelDesign> = {}) => {
    const content = labelContent(facts, maker, {
      ...STARTER_DESIGNS.single!,
      languages: ['en', 'de', 'fr'],
      market: 'EU',
      nutrition: true,
      front: ['name', 'ingredients'],
      back: ['nutrition'],
      ...more,
    });
    const said = (part: string) =>
      content.parts
        .find((p) => p.part === part)!
        .paragraphs.map((runs) =>
          runs
            .map((r) => r.text)
            .join('')
            .replaceAll('\u00a0', ' '),
        );
    return { said, forms: content.parts.find((p) => p.part === 'nutrition')?.forms ?? [] };
  };
  const light: BarFacts['lines'] = [
    { ingredient: ingredient('nibs'), massMg: 650 },
    { ingredient: ingredient('erythritol'), massMg: 347 },
    { ingredient: ingredient('lecithin'), massMg: 3 },
  ];

  test('stand beside the name and before their own, and above a tenth of polyols the label warns', () => {
    const { said, forms } = written(bar(light));
    expect(said('name')).toEqual([
      'Dark chocolate, with sweetener',
      'Dunkle Schokolade, mit Süßungsmittel',
      'Chocolat noir, avec édulcorant',
    ]);
    expect(said('ingredients')).toEqual([
      'Ingredients: cocoa nibs, sweetener: erythritol, emulsifier: sunflower lecithin. Excessive consumption may produce laxative effects.',
      'Zutaten: Kakaokernbruch, Süßungsmittel Erythrit, Emulgator Sonnenblumenlecithin. Kann bei übermäßigem Verzehr abführend wirken.',
      'Ingrédients : éclats de fèves de cacao, édulcorant érythritol, émulsifiant lécithine de tournesol. Une consommation excessive peut avoir des effets laxatifs.',
    ]);
    // 34.7 % of 99.8 g in 100 g.
    expect(forms[0]!.rows.find((r) => r.name === 'of which polyols')).toMatchObject({ amount: '35\u00a0g' });
  });

  test('other markets are told by their own law, and a bar with sugar alone by none', () => {
    const { said } = written(bar(light), { market: 'US', languages: ['en'] });
    expect(said('name')).toEqual(['Bittersweet chocolate']);
    expect(said('ingredients')).toEqual(['Ingredients: cocoa nibs, erythritol, sunflower lecithin.']);
    const plain = written(bar(dark), { languages: ['en'] });
    expect(plain.said('name')).toEqual(['Dark chocolate']);
    expect(plain.forms[0]!.rows.some((r) => /polyols/.test(r.name))).toBe(false);
  });

  test('at a tenth it does not warn; with sugar it says so; two are several', () => {
    const xylitol = { ...ingredient('erythritol'), id: 'x', name: 'Xylit' };
    const lines = (erythritol: number, xylit: number): BarFacts['lines'] => [
      { ingredient: ingredient('nibs'), massMg: 700 },
      { ingredient: ingredient('cane-sugar'), massMg: 300 - erythritol - xylit },
      { ingredient: ingredient('erythritol'), massMg: erythritol },
      { ingredient: xylitol, massMg: xylit },
    ];
    expect(sweetenedWith(bar(lines(100, 0)))).toEqual({ sweeteners: 1, sugars: true, laxative: false });
    expect(sweetenedWith(bar(lines(102, 0)))).toMatchObject({ laxative: true });
    expect(written(bar(lines(50, 40))).said('name')[1]).toBe(
      'Dunkle Schokolade, mit Zucker und Süßungsmitteln',
    );
    expect(sweetenedWith(bar(lines(0, 300)))).toEqual({ sweeteners: 1, sugars: false, laxative: true });
  });

  test('bought chocolate is known by what its sheet lists, in three languages; foods that only sound alike are none', () => {
    const of = (text: string) =>
      sweetenedWith(
        bar([{ ingredient: { ...ingredient('nibs'), name: 'Bought' }, massMg: 1 }], {
          bought: { Bought: text },
        }),
      );
    const polyol = { sweeteners: 1, sugars: false, laxative: true };
    expect(of('cocoa mass, sweetener: maltitol, cocoa butter')).toEqual(polyol);
    expect(of('Kakaomasse, Süßungsmittel Maltit, Kakaobutter')).toEqual(polyol);
    expect(of('pâte de cacao, édulcorant (E 965), beurre de cacao')).toEqual(polyol);
    expect(of('cocoa mass, Birkenzucker')).toEqual(polyol);
    // A syrup of a polyol is no sugar, and one sweetener by two names is one.
    expect(of('cocoa mass, maltitol syrup')).toEqual(polyol);
    expect(of('Kakaomasse, Maltitolsirup')).toEqual(polyol);
    expect(of('pâte de cacao, sirop de maltitol')).toEqual(polyol);
    expect(of('cocoa mass, xylitol (Birkenzucker, E967)')).toEqual(polyol);
    expect(of('cocoa mass, maltitol, steviol glycosides (stevia)')).toEqual({ ...polyol, sweeteners: 2 });
    expect(of('Kakaomasse, Glukosesirup, Erythrit')).toEqual({ ...polyol, sugars: true });
    expect(of('cocoa mass, sugar, steviol glycosides')).toEqual({
      sweeteners: 1,
      sugars: true,
      laxative: false,
    });
    for (const text of [
      'cocoa mass, sugar',
      'Kakaomasse, Rohrzucker, Emulgator: Lecithine',
      'maltodextrin, malt',
    ])
      expect([text, of(text).sweeteners]).toEqual([text, 0]);
    expect(sweetenedWith(bar([]))).toEqual({ sweeteners: 0, sugars: false, laxative: false });
  });

  test('only the starter ingredients that are additives are called so', () => {
    const called = STARTER_INGREDIENTS.flatMap((i) => (additiveClass(i) ? [[i.name, additiveClass(i)]] : []));
    expect(called).toEqual([
      ['Sunflower lecithin', 'emulsifier'],
      ['Erythritol', 'sweetener'],
    ]);
    expect(additiveClass({ ...ingredient('erythritol'), name: 'Stevia', nutrition: null })).toBe('sweetener');
    expect(additiveClass({ ...ingredient('cane-sugar'), name: 'Sugar with stevia' })).toBeNull();
  });
});
