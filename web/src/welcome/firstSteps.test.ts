import { firstSteps } from './firstSteps.ts';

type Given = Parameters<typeof firstSteps>[0];

const EMPTY: Given = { shape: 'kitchen', lots: [], batches: [], bench: [], picked: false, planned: false };
const dry = { id: 'l1', material: 'dry beans' as const };
const batch = (id: string, state: 'open' | 'finished' | 'void' = 'open', startedAt = '2026-01-02') => ({
  id,
  state,
  startedAt,
});
const flow = (states: Record<string, string>) =>
  ({
    stations: Object.entries(states).map(([station, state]) => ({
      station,
      state,
      outMg: ['done', 'running'].includes(state) ? 1000 : 0,
    })),
  }) as unknown as Given['bench'][number]['flow'];

const shown = (given: Partial<Given>) => firstSteps({ ...EMPTY, ...given })?.map((s) => `${s.id} ${s.state}`);

test('an empty workshop begins at the scale, and each shape with what it needs', () => {
  expect(shown({})!.slice(0, 3)).toEqual(['receive now', 'start ahead', 'sort ahead']);
  expect(shown({ shape: 'school' })!.slice(0, 2)).toEqual(['practise now', 'receive ahead']);
  expect(shown({ shape: 'school' })!.at(-1)).toBe('class ahead');
  expect(shown({ shape: 'school', planned: true })!.at(-1)).toBe('class done');
});

test('an estate begins at the tree: picked, taken in, fermented, and only then a batch', () => {
  const wet = { id: 'w', material: 'wet beans' as const };
  const way = (given: Partial<Given>) => shown({ shape: 'estate', ...given })!.slice(0, 4);
  expect(way({})).toEqual(['harvest now', 'crop ahead', 'ferment ahead', 'start ahead']);
  expect(way({ picked: true })[1]).toBe('crop now');
  expect(way({ picked: true, lots: [wet] })).toEqual([
    'harvest done',
    'crop done',
    'ferment now',
    'start ahead',
  ]);
  // Beans bought dry have been fermented elsewhere.
  expect(way({ lots: [dry] })).toEqual(['harvest done', 'crop done', 'ferment done', 'start now']);
  const to = firstSteps({ ...EMPTY, shape: 'estate', lots: [wet] })!.find((s) => s.id === 'ferment')!.to;
  expect(to).toBe('/beans/w');
  // Whoever buys wet beans sees fermenting come up as well.
  expect(shown({ lots: [wet] })!.slice(0, 3)).toEqual(['receive done', 'ferment now', 'start ahead']);
});

test('bought nibs and chocolate have only so much of the line before them', () => {
  const way = (...materials: Given['lots'][number]['material'][]) =>
    shown({ lots: materials.map((material, i) => ({ id: `l${i}`, material })) })!
      .filter((s) => s.endsWith('ahead'))
      .map((s) => s.split(' ')[0]);
  expect(way('couverture')).toEqual(['temper', 'mould', 'taste']);
  expect(way('nibs')).toEqual(['recipe', 'grind', 'temper', 'mould', 'taste']);
  expect(way('couverture', 'dry beans').slice(0, 3)).toEqual(['sort', 'roast', 'winnow']);
});

test('it follows the first batch along its own route, and leads to where it stands', () => {
  const given = {
    lots: [dry],
    batches: [batch('b2', 'open', '2026-02-01'), batch('b1')],
    bench: [
      {
        id: 'b1',
        flow: flow({
          beans: 'done',
          sort: 'skipped',
          roast: 'done',
          winnow: 'running',
          grind: 'ahead',
          taste: 'ahead',
        }),
      },
    ],
  };
  expect(shown(given)).toEqual([
    'receive done',
    'start done',
    'roast done',
    'winnow now',
    'grind ahead',
    'taste ahead',
  ]);
  expect(firstSteps({ ...EMPTY, ...given })!.find((s) => s.state === 'now')!.to).toBe('/winnow/b1');
});

test('what a first part has gone past is done, though a second one still waits there', () => {
  const line = { roast: 'done', temper: 'running', mould: 'done', taste: 'ahead' };
  const given = { lots: [dry], batches: [batch('b1')], bench: [{ id: 'b1', flow: flow(line) }] };
  expect(shown(given)!.slice(2)).toEqual(['roast done', 'temper done', 'mould done', 'taste now']);
});

test('it ends with the first finished batch, and is not for a workshop that is long at work', () => {
  expect(shown({ lots: [dry], batches: [batch('b1', 'finished')] })).toBeUndefined();
  expect(shown({ lots: [dry], batches: ['a', 'b', 'c'].map((id) => batch(id)) })).toBeUndefined();
  // A batch that was a mistake leaves nothing behind.
  expect(shown({ lots: [dry], batches: [batch('b1', 'void')] })!.slice(0, 2)).toEqual([
    'receive done',
    'start now',
  ]);
});

test('a recipe has been learnt once a bowl was closed, though nibs are left over for another', () => {
  const line = flow({ roast: 'done', winnow: 'done', recipe: 'running', grind: 'waiting' });
  const given = { lots: [dry], batches: [batch('b1')], bench: [{ id: 'b1', flow: line }] };
  expect(shown(given)!.slice(-2)).toEqual(['recipe done', 'grind now']);
});
