import type { TastedBatch } from '@wunsch/contract';
import { adviseTrial } from '@wunsch/core/dialIn';
import { saidOf, settingOf, trialsOf } from './trials.ts';

const card = (by: string, liking: number, more: Partial<TastedBatch['cards'][number]> = {}) => ({
  at: '2026-10-01T10:00:00.000Z',
  by,
  liking,
  sour: null,
  grit: null,
  fits: {},
  session: null,
  ...more,
});

const batch = (more: Partial<TastedBatch> = {}): TastedBatch => ({
  batchId: 'b1',
  code: 'TL-01',
  lotId: 'l1',
  lotName: 'Tideline',
  bar: null,
  kind: 'dark',
  madeAt: null,
  bestBefore: null,
  bars: 0,
  roastDose: 12,
  acidLeft: 0.35,
  sugar: 30,
  hours: 30,
  gritUm: 20,
  cards: [card('AK', 6)],
  ...more,
});

test('what nobody measured is left out; a dose of nothing is nothing measured', () => {
  expect(settingOf(batch({ gritUm: null, roastDose: 0 }))).toEqual({ acid: 0.35, sugar: 30, conche: 30 });
  expect(settingOf(batch({ sugar: 0 }))).toMatchObject({ sugar: 0 });
  expect(trialsOf([batch({ cards: [] })])).toEqual([]);
});

test('words of a card are counted as they were meant, and a little grit is no fault', () => {
  const tasted = batch({
    cards: [
      card('AK', 6, { fits: { sour: 1, bitter: 0 }, grit: 1 }),
      card('JB', 5, { fits: { sour: 1 }, grit: 5.5 }),
      card('MR', 7, { fits: { sour: -1 } }),
    ],
  });
  const [trial] = trialsOf([tasted]);
  expect(trial!.signals.sour!.mean).toBeCloseTo(1 / 3, 10);
  expect(trial!.signals).toMatchObject({
    bitter: { mean: 0, tasters: 1 },
    gritty: { mean: 0.5, tasters: 2 },
  });
  expect(trial!.signals.sweet).toBeUndefined();
  expect(saidOf(tasted, 'sour')).toEqual({ much: 2, little: 1, of: 3 });
  expect(saidOf(tasted, 'sweet')).toBeNull();
});

test('a lot everybody found too sour is advised more roast or more air', () => {
  const sour = batch({
    cards: ['AK', 'JB', 'MR', 'TL'].map((by) => card(by, 5, { fits: { sour: 1, bitter: 0, sweet: 0 } })),
  });
  const { turns } = adviseTrial({ trials: trialsOf([sour]), lotId: 'l1' });
  const turned = Object.fromEntries(turns.map((t) => [t.factor, t.to > t.from]));
  expect(turned['conche']).toBe(true);
  expect(turned['acid']).toBe(false);
});
