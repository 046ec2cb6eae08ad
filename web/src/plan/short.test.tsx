import { screen } from '@testing-library/react';
import type { PlanRoomView } from '@wunsch/contract';
import type { MaterialNeed, PlannedStep } from '@wunsch/core/plan';
import { show } from '../testing/page.tsx';
import { useWords } from '../words/words.tsx';
import { setUpWords } from './names.ts';
import { Short } from './Short.tsx';

const room = {
  now: '2026-11-26T08:00:00.000Z',
  timeZone: 'Europe/London',
  deliveryDays: 5,
  beanDeliveryDays: null,
  deliveries: [{ kind: 'packaging', key: 'slow', days: 8 }],
} as unknown as PlanRoomView;

const need = (more: Partial<MaterialNeed>): MaterialNeed => ({
  id: 'x',
  name: 'Cane sugar',
  kind: 'ingredient',
  need: 3e6,
  range80: null,
  onHand: 1e6,
  short: 2e6,
  uses: [{ batch: 'b', stage: 'recipe', amount: 3e6 }],
  ...more,
});
const step = (more: Partial<PlannedStep> = {}) =>
  ({ batch: 'b', stage: 'recipe', start: '2026-12-07T09:00:00.000Z', ...more }) as PlannedStep;
const rows = (
  materials: readonly MaterialNeed[],
  steps: readonly PlannedStep[],
  more: Partial<PlanRoomView> = {},
) => {
  show(<Short room={{ ...room, ...more }} materials={materials} steps={steps} />);
  return screen.queryAllByRole('listitem').map((li) => li.textContent);
};

test('nothing is said where there is enough', () => expect(rows([need({ short: 0 })], [step()])).toEqual([]));

test('of what nobody counts only what is needed is said, and nothing is to be ordered', () => {
  expect(rows([need({ onHand: null, short: 0, need: 304_000 })], [step()])).toEqual([]);
  expect(
    screen.getByText(/^Needed too, and nobody keeps count of what there is: Cane sugar 304.g\.$/),
  ).toBeTruthy();
  expect(screen.queryByRole('heading')).toBeNull();
});

test('what is short is to be ordered so long before that it is there in time', () =>
  expect(rows([need({})], [step()])).toEqual([
    expect.stringMatching(/^Cane sugar2.00\skgorder by Wed 2 Dec$/),
  ]));

test('what takes longer to come is to be ordered earlier: of its own, or of its sort', () => {
  const sleeves = need({ kind: 'packaging', name: 'Sleeve', id: 'slow' });
  const foil = need({ kind: 'packaging', name: 'Foil', id: 'quick' });
  const beans = need({ kind: 'beans', name: 'Nkondo', id: 'slow' });
  const said = rows([sleeves, foil, beans], [step()], { beanDeliveryDays: 60 });
  expect(said[0]).toMatch(/order by Sun 29 Nov$/);
  expect(said[1]).toMatch(/order by Wed 2 Dec$/);
  expect(said[2]).toMatch(/order now, missing from Mon 7 Dec$/);
});

test('where it could no longer be there in time, that is said with the day it is missing from', () =>
  expect(rows([need({})], [step({ start: '2026-11-28T09:00:00.000Z' })])).toEqual([
    expect.stringMatching(/order now, missing from Sat 28 Nov/),
  ]));

test('beans have the range they are needed in, packaging goes by the piece', () => {
  const beans = need({ kind: 'beans', name: 'Nkondo', need: 26e6, range80: [25e6, 27e6] });
  const boxes = need({ kind: 'packaging', name: 'Box', short: 12, need: 12, onHand: 0, uses: [] });
  const foil = need({ kind: 'packaging', name: 'Foil', id: 'y', short: 1, need: 1, onHand: 0, uses: [] });
  const [first, second, third] = rows([beans, boxes, foil], [step()]);
  expect(first).toMatch(/needs 25.00\skg to 27.00\skg/);
  // Nothing in the plan uses them: there is no day.
  expect([second, third]).toEqual(['Box12 pieces', 'Foil1 piece']);
});

function SetUp({ of }: { of: Partial<PlannedStep> }) {
  return <p>{setUpWords(step({ massMg: 9e6, ...of }), 'Ida', useWords(), () => 'Ada')}</p>;
}

test.each([
  [{ setUp: null }, ''],
  [{}, ''],
  [
    { setUp: { kind: 'clean', minutes: 90, after: 'NK-07' } },
    /^before it wash and dry Ida \(90 min\): NK-07 ran there$/,
  ],
  [
    { setUp: { kind: 'flush', minutes: 40, after: null } },
    /flush Ida with a charge to be set aside \(250\sg, 40 min\)$/,
  ],
  [
    {
      setUp: {
        kind: 'clean',
        minutes: 90,
        after: 'NK-07',
        hands: { personId: 'a', start: '2026-11-26T08:00:00.000Z', end: '2026-11-26T09:30:00.000Z' },
      },
    },
    /NK-07 ran there; Ada, .*8:00.*–09:30$/,
  ],
  [
    { setUp: { kind: 'wipe', minutes: 20, after: null, hands: null } },
    /\(20 min\): nobody is free to do it$/,
  ],
] as [Partial<PlannedStep>, string | RegExp][])('a step with %j says what its machine wants', (of, words) => {
  const { container } = show(<SetUp of={of} />);
  if (words === '') expect(container.querySelector('p')!.textContent).toBe('');
  else expect(container.querySelector('p')!.textContent).toMatch(words);
});
