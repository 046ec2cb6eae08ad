import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { COUNT_REASONS, ENTRY_KINDS } from '@wunsch/contract';
import { CLUES, SIGNS } from '@wunsch/core/faults';
import { ALLERGENS } from '@wunsch/core/label';
import { LOSSES, MACHINE_KINDS, MATERIALS, STATIONS, STEP_KINDS } from '@wunsch/core/ledger';
import { endOnPaper, materialOnPaper } from '@wunsch/core/print';
import { STARTER_PLANS } from '@wunsch/core/roast';
import { REJECT_REASONS } from '@wunsch/core/sort';
import { de as deFrame } from './de.ts';
import { deRooms } from './deRooms.ts';
import { en as enFrame } from './en.ts';
import { enRooms } from './enRooms.ts';
import { inFahrenheit } from './fahrenheit.ts';

const en = { ...enFrame, ...enRooms };
const de = { ...deFrame, ...deRooms };

const keys = Object.keys(en) as (keyof typeof en)[];
const holes = (text: string) => [...text.matchAll(/\{(\w+)\}/g)].map((m) => m[1]!).sort();

test('both languages have the same keys', () => expect(Object.keys(de).sort()).toEqual([...keys].sort()));

test('every kind of entry is told in the trail', () =>
  expect(ENTRY_KINDS.filter((kind) => !(`trail.${kind}` in en))).toEqual([]));

test('whatever the ledger, the trail or a finding may name has a word', () => {
  const named: Record<string, readonly string[]> = {
    loss: [...LOSSES, ...REJECT_REASONS, ...COUNT_REASONS],
    deed: STEP_KINDS,
    material: MATERIALS,
    station: STATIONS,
    allergen: ALLERGENS,
    sign: SIGNS,
    // Of a clue that is asked for, both answers.
    clue: CLUES.flatMap((clue) =>
      ['name', ...(`clue.${clue}.q` in en ? ['said.yes', 'said.no'] : ['yes', 'no'])].map(
        (p) => `${clue}.${p}`,
      ),
    ),
    plan: STARTER_PLANS.map((p) => p.name),
    'roast-stage': STARTER_PLANS.flatMap((p) => p.stages.map((s) => s.name)),
    'machine-kind': Object.values(MACHINE_KINDS).flat(),
  };
  const missing = Object.entries(named).flatMap(([group, words]) =>
    words.map((word) => `${group}.${word}`).filter((key) => !(key in en)),
  );
  expect(missing).toEqual([]);
});

test('papers call things what the screens call them', () => {
  expect(MATERIALS.map((m) => materialOnPaper(m, 'de'))).toEqual(MATERIALS.map((m) => de[`material.${m}`]));
  expect(MATERIALS.map((m) => materialOnPaper(m, 'en'))).toEqual([...MATERIALS]);
  const ends = [
    'mislaid',
    'stolen',
    'miscounted',
    'unexplained',
    'other',
    'gift',
    'sample',
    'sold',
    'eaten',
    'broken',
  ];
  expect(ends.map((e) => endOnPaper(e, 'de'))).toEqual(ends.map((e) => de[`loss.${e}` as keyof typeof de]));
  expect(endOnPaper('to my aunt', 'de')).toBe('to my aunt');
});

test('no room takes a key of another', () => {
  const rooms = join(fileURLToPath(new URL('.', import.meta.url)), 'en');
  const all = readdirSync(rooms).flatMap((file) =>
    [...readFileSync(join(rooms, file), 'utf8').matchAll(/^ {2}('[^']+'|[a-z]+):/gm)].map((m) => m[1]!),
  );
  expect(all.filter((k, i) => all.indexOf(k) !== i)).toEqual([]);
});

test('each pair of texts fills in the same names', () => {
  const wrong = keys.filter(
    (k) =>
      new Set(holes(en[k])).size !== new Set(holes(de[k])).size ||
      holes(en[k]).some((h) => !holes(de[k]).includes(h)),
  );
  expect(wrong).toEqual([]);
});

test('no text is left empty in one language only, and none shouts', () => {
  expect(keys.filter((k) => (en[k] === '') !== (de[k] === ''))).toEqual([]);
  expect(keys.filter((k) => en[k].includes('!') || de[k].includes('!'))).toEqual([]);
});

test('German is German: long texts differ from the English', () => {
  const same = keys.filter((k) => en[k].length > 24 && en[k] === de[k]);
  expect(same).toEqual([]);
});

test('what the Bench is drawn with speaks before any room has been loaded', () => {
  const root = fileURLToPath(new URL('..', import.meta.url));
  const seen = new Set<string>();
  const asked = new Map<string, string>();
  // What begins a word's name where its end is put together: all that begin so.
  const begun = new Map<string, string>();
  const visit = (file: string) => {
    if (seen.has(file) || !existsSync(file) || file.includes('/words/')) return;
    seen.add(file);
    const text = readFileSync(file, 'utf8');
    // What waits for the words of the rooms is one of them; around pages the frame itself waits.
    if (text.includes('<RoomWords>') && !/(app|Shell)\.tsx$/.test(file)) return;
    // Any text that is the name of a word, wherever it stands: tables name words too.
    for (const [, said] of text.matchAll(/'([^'\n]+)'/g)) if (said! in en) asked.set(said!, file);
    for (const [, group] of text.matchAll(/\bt\(\s*`([a-z-]+\.(?:[a-z-]+\.)*)\$\{/g)) begun.set(group!, file);
    for (const [, group] of text.matchAll(/\bword\(\s*'([a-z-]+)'/g)) begun.set(`${group}.`, file);
    for (const [, from] of text.matchAll(/^import\s+(?!type\b)[^;]*?from\s+'(\.[^']+)'/gms))
      visit(join(dirname(file), from!));
    // Parts that come later belong to it too; pages are other rooms.
    if (!file.endsWith('app.tsx'))
      for (const [, from] of text.matchAll(/import\('(\.[^']+)'\)/g)) visit(join(dirname(file), from!));
  };
  visit(join(root, 'app.tsx'));
  expect(seen.size).toBeGreaterThan(40);
  expect(asked.size).toBeGreaterThan(150);
  expect([...asked].filter(([key]) => !(key in enFrame))).toEqual([]);
  expect(begun.size).toBeGreaterThan(10);
  const late = [...begun].flatMap(([group, file]) =>
    Object.keys(en)
      .filter((key) => key.startsWith(group) && !(key in enFrame))
      .map((key) => [key, file]),
  );
  expect(late).toEqual([]);
});

test('every text a page asks for by its full name is in the catalogue', () => {
  const root = fileURLToPath(new URL('..', import.meta.url));
  const asked = new Map<string, string>();
  for (const name of readdirSync(root, { recursive: true, encoding: 'utf8' })) {
    if (!/\.tsx?$/.test(name) || name.includes('test')) continue;
    const text = readFileSync(join(root, name), 'utf8');
    for (const m of text.matchAll(/\bt\(\s*'([^']+)'/g)) asked.set(m[1]!, name);
  }
  expect(asked.size).toBeGreaterThan(400);
  expect([...asked].filter(([key]) => !(key in en))).toEqual([]);
});

test('whoever works in °F reads the texts in °F: places, ranges and differences', () => {
  expect(inFahrenheit('overnight at 16–18 °C, covered')).toBe('overnight at 61–64 °F, covered');
  expect(inFahrenheit('bei 10 bis 15 °C, dann um 2 °C')).toBe('bei 50 bis 59 °F, dann um 4 °F');
  expect(inFahrenheit('estimated at {um} µm and 40 °C')).toBe('estimated at {um} µm and 104 °F');
  // A pace keeps the unit of its field, and what names both units names both.
  for (const same of ['from, °C/min', '2 °C/min', '°C or °F, decimal comma too'])
    expect(inFahrenheit(same)).toBe(same);
  const left = [...Object.entries(en), ...Object.entries(de)]
    .filter(([, text]) => /\d\s*°C(?!\/)/.test(inFahrenheit(text)))
    .map(([key]) => key);
  expect(left).toEqual([]);
});
