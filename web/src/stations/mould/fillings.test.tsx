import { screen, waitFor, within } from '@testing-library/react';
import type { FillingMake, FillingRecord } from '@wunsch/contract';
import { fillingWater } from '@wunsch/core/mould';
import { STARTER_INGREDIENTS } from '@wunsch/core/recipe';
import { show, Wire } from '../../testing/page.tsx';
import { idOf, movement, step } from '../../testing/views.ts';
import FillingsPage from './FillingsPage.tsx';

const starter = (key: string, n: number) => ({
  ...STARTER_INGREDIENTS.find((i) => i.key === key)!,
  id: idOf(n),
  version: 1,
  priceNow: STARTER_INGREDIENTS.find((i) => i.key === key)!.pricePerKg,
});
const shelf = [starter('cream', 30), starter('butter', 31), starter('hazelnuts', 32)];
const couverture = {
  id: idOf(40),
  material: 'couverture',
  label: '',
  lotCode: 'CV',
  batchCode: null,
  remainingMg: 5_000_000,
  onHold: false,
  madeAt: '2026-11-01T08:00:00.000Z',
};
/** A kilo of it: dark, 60 % cacao of which 38 are butter. */
const made = {
  parcelId: idOf(40),
  pricePerKg: 1200,
  unknown: [] as string[],
  lines: [
    { massMg: 600_000, ingredient: { ...starter('liquor', 41), name: 'CV lot', pricePerKg: 0 } },
    { massMg: 400_000, ingredient: { ...starter('cane-sugar', 41), name: 'CV lot', pricePerKg: 0 } },
  ],
};
const ganache: FillingRecord = {
  id: idOf(50),
  parcelId: idOf(51),
  name: 'Cream ganache',
  madeAt: '2026-11-20T08:00:00.000Z',
  by: 'AK',
  madeMg: 880_000,
  leftMg: 300_000,
  boiledOffMg: 20_000,
  waterActivity: 0.84,
  bestBefore: '2026-12-11',
  onHold: false,
  lines: [
    {
      parcelId: idOf(40),
      ingredientId: null,
      material: 'couverture',
      label: '',
      code: 'CV',
      massMg: 500_000,
    },
    {
      parcelId: null,
      ingredientId: idOf(30),
      material: 'ingredient',
      label: 'Cream',
      code: null,
      massMg: 400_000,
    },
  ],
};

/** A water activity from so much to so much. */
const RANGE = /^0\.\d+ to 0\.\d+$/;

function fillings(records: FillingRecord[], composition: object = made) {
  const wire = new Wire()
    .has('/api/fillings', records)
    .has('/api/ingredients', shelf)
    .has('/api/stock-items', [couverture])
    .has(`/api/compositions?of=${idOf(40)}`, [composition]);
  const { user } = show(<FillingsPage />);
  const type = async (label: string, text: string) => {
    await user.clear(screen.getByLabelText(label));
    await user.type(screen.getByLabelText(label), `${text}{Tab}`);
  };
  const field = (label: string) => screen.getByLabelText<HTMLInputElement>(label);
  const record = () => screen.getByRole<HTMLButtonElement>('button', { name: 'Record this filling' });
  const put = async (n: number, what: RegExp, grams: string) => {
    const select = screen.getByLabelText(`What goes in, ${n}`);
    const option = await within(select).findByRole<HTMLOptionElement>('option', { name: what });
    await user.selectOptions(select, option);
    await type(`Mass, ${n}`, grams);
  };
  return { wire, user, type, field, record, put };
}

test('what goes into the pot tells its water as it is typed; what came out is one entry, and what was typed is forgotten', async () => {
  const { wire, user, type, field, record, put } = fillings([]);
  expect(await screen.findByText('No filling made yet')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Make a filling' }));
  await type('What it is called', 'Cream ganache');
  await put(1, /^CV · Couverture/, '500');
  await put(2, /^Cream$/, '400');
  // 400 g of cream hold 234 g of water, the cacao 6 g more: 26.7 % of 900 g.
  expect(await screen.findByText('26.7 %')).toBeTruthy();
  const [low, high] = screen.getByText(RANGE).textContent!.split(' to ');
  expect(Number(low)).toBeGreaterThan(0.85);
  expect(Number(high)).toBeLessThan(0.97);
  expect(screen.getByText('Allergens: milk')).toBeTruthy();
  // (500 g at 12.00 and 400 g at 4.80 a kilo) over 900 g.
  expect(screen.getByText('£8.80/kg')).toBeTruthy();
  // Three days by the wetter of the two.
  expect(field('Best before').value).toBe('2026-11-29');
  expect(record().disabled).toBe(true);
  await type('Weighed when it is done', '901');
  expect(screen.getByText('Only 900 g went in: check the weights.')).toBeTruthy();
  expect(record().disabled).toBe(true);
  await type('Weighed when it is done', '660');
  expect(screen.getByText('Where are the other 240 g?')).toBeTruthy();
  await user.click(screen.getByRole('radio', { name: 'boiled off' }));
  expect(await screen.findByText('0.0 %')).toBeTruthy();
  await type('Weighed when it is done', '640');
  expect(screen.getByRole('alert').textContent).toMatch(/More is said to have boiled off/);
  await type('Weighed when it is done', '880');
  await type('Water activity of the filling', '0.86');
  expect(field('Best before').value).toBe('2026-12-06');
  await user.dblClick(record());
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body as FillingMake).toMatchObject({
    name: 'Cream ganache',
    lines: [
      { parcelId: idOf(40), massMg: 500_000 },
      { ingredientId: idOf(30), massMg: 400_000 },
    ],
    made: { massMg: 880_000 },
    lost: 'boiled off',
    waterActivity: 0.86,
    bestBefore: '2026-12-06',
    handsOnMinutes: null,
  });
  await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
  await user.click(screen.getByRole('button', { name: 'Make a filling' }));
  expect(field('What it is called').value).toBe('');
});

test('one is made again, for more pieces: all of it changes along; what is no longer there is asked for', async () => {
  const gone = { ...ganache.lines[0]!, parcelId: idOf(99) };
  const { user, type, field, record } = fillings([{ ...ganache, lines: [gone, ganache.lines[1]!] }]);
  expect(await screen.findByText('55.6 % CV Couverture, 44.4 % Cream')).toBeTruthy();
  expect(screen.getByText('best before 11 Dec 2026')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Make it again' }));
  expect(field('What it is called').value).toBe('Cream ganache');
  expect(screen.getByText('it is 900 g now')).toBeTruthy();
  await type('Scale to', '1.8 kg');
  await user.click(screen.getByRole('button', { name: 'Scale' }));
  expect([field('Mass, 1').value, field('Mass, 2').value]).toEqual(['1,000', '800']);
  await type('Weighed when it is done', '1750');
  expect(record().disabled).toBe(true);
  await user.selectOptions(screen.getByLabelText('What goes in, 1'), `p:${idOf(40)}`);
  await waitFor(() => expect(record().disabled).toBe(false));
});

test('a sheet that does not say what is in it gives no figures', async () => {
  const { user, field, put } = fillings([], { ...made, lines: [], unknown: ['CV lot'] });
  await user.click(await screen.findByRole('button', { name: 'Make a filling' }));
  await put(1, /^CV/, '500');
  await put(2, /^Cream$/, '400');
  expect(await screen.findByText(/The sheet of CV lot does not say how much of it is cacao/)).toBeTruthy();
  expect(screen.queryByText(RANGE)).toBeNull();
  expect(field('Best before').value).toBe('');
});

test('one that does not tell sugar from milk gives the wetter of both as the upper bound', async () => {
  const { user, put } = fillings([], { ...made, unknown: ['CV lot'] });
  await user.click(await screen.findByRole('button', { name: 'Make a filling' }));
  await put(1, /^CV/, '500');
  await put(2, /^Cream$/, '400');
  expect(await screen.findByText(/The sheet of CV lot does not tell its sugar from its milk/)).toBeTruthy();
  const [low, high] = screen.getByText(RANGE).textContent!.split(' to ').map(Number);
  const sugar = fillingWater([
    { ingredient: starter('liquor', 41), massMg: 300_000 },
    { ingredient: starter('cane-sugar', 41), massMg: 200_000 },
    { ingredient: starter('cream', 30), massMg: 400_000 },
  ]).activity!;
  expect(low).toBeCloseTo(sugar.low, 2);
  expect(high).toBeGreaterThan(sugar.high + 0.01);
});

test('its weights are corrected, it is taken out of the books, and how long it keeps is said when it is measured', async () => {
  const lines = [
    movement('in', 500_000, { id: idOf(60), stepId: ganache.id, material: 'couverture' }),
    movement('out', 880_000, { id: idOf(61), stepId: ganache.id, material: 'filling' }),
  ];
  const { wire, user, type, field } = fillings([ganache]);
  wire.has(`/api/fillings/${ganache.id}`, {
    step: step('mould', {
      id: ganache.id,
      kind: 'prepare',
      batchId: null,
      status: 'closed',
      endedAt: ganache.madeAt,
      version: 3,
      details: { fillingName: 'Cream ganache', bestBefore: '2026-11-23' },
    }),
    movements: lines,
  });
  await user.click(await screen.findByText('weights, to be corrected'));
  await user.click((await screen.findAllByRole('button', { name: /^Correct Couverture/ }))[0]!);
  await type('The right weight', '520');
  await user.click(screen.getByRole('button', { name: 'Correct' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toMatchObject({ movementId: idOf(60), massMg: 520_000 });
  await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
  await user.click(screen.getByRole('button', { name: 'How long it keeps' }));
  await type('Water activity of the filling', '0.8');
  // Six weeks from the day it was made.
  expect(field('Best before').value).toBe('2027-01-01');
  await user.click(screen.getByRole('button', { name: 'Keep this' }));
  await waitFor(() => expect(wire.sent).toHaveLength(2));
  expect(wire.sent[1]!).toMatchObject({
    path: `/api/steps/${ganache.id}/details`,
    ifMatch: '"3"',
    body: { details: { fillingName: 'Cream ganache', waterActivity: 0.8, bestBefore: '2027-01-01' } },
  });
  await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
  await user.click(screen.getByRole('button', { name: /^Void/ }));
  await user.type(screen.getByLabelText(/Why/), 'it split');
  await user.click(within(screen.getByRole('dialog')).getByRole('button', { name: /^Void/ }));
  await waitFor(() => expect(wire.sent[2]?.path).toBe(`/api/steps/${ganache.id}/void`));
});
