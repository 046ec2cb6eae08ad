import { readdirSync, readFileSync } from 'node:fs';
import type { WordKey } from '../words/en.ts';
import { isBegun, PLACES, placesFor } from './places.ts';

test('with several words each must fit, in any case and without accents', () => {
  const say = (key: WordKey) => (key === 'also.trace' ? 'Rückruf einer Charge, EPCIS' : key);
  expect(placesFor('ruckruf CHA', say).map((p) => p.by)).toEqual(['Rückruf einer Charge']);
  expect(placesFor('ruckruf lot', say)).toEqual([]);
  expect(placesFor('r', say)).toEqual([]);
  expect(placesFor('  ', say)).toEqual([]);
});

test('each leads to a page there is, and each page without a name in its address is among them', () => {
  const app = readFileSync(new URL('../app.tsx', import.meta.url), 'utf8');
  const routes = [...app.matchAll(/(?:path: |station\()'([a-z/]+)'/g)].map((m) => `/${m[1]}`);
  const paths = PLACES.map((p) => p.path.split('?')[0]!);
  expect(paths.filter((p) => p !== '/' && !routes.includes(p))).toEqual([]);
  // Where something new is begun, the page it belongs to leads on.
  const elsewhere = ['//', '/ledger/letter', '/practice/cards'];
  expect(routes.filter((r) => !paths.includes(r) && !elsewhere.includes(r))).toEqual([]);
  // What is begun is done by its page, and only for who may.
  expect(PLACES.filter((p) => isBegun(p) && !p.makes)).toEqual([]);
  const asked = PLACES.flatMap((p) => /[?&]do=([a-z-]+)/.exec(p.path)?.[1] ?? []);
  const sources = new URL('..', import.meta.url);
  const answered = readdirSync(sources, { recursive: true, encoding: 'utf8' })
    .filter((f) => f.endsWith('.tsx') && !f.endsWith('.test.tsx'))
    .flatMap((f) => [...readFileSync(new URL(f, sources), 'utf8').matchAll(/useAsked\('([a-z-]+)'/g)])
    .map((m) => m[1]);
  expect([...asked].sort()).toEqual([...answered].sort());
  expect(new Set(PLACES.map((p) => p.path)).size).toBe(PLACES.length);
});
