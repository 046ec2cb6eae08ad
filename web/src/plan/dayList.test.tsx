import { screen } from '@testing-library/react';
import type { DayStep } from '@wunsch/contract';
import { show } from '../testing/page.tsx';
import { DayList } from './DayList.tsx';

const NOW = Date.parse('2026-11-26T09:00:00.000Z');

const step = (more: Partial<DayStep> = {}): DayStep => ({
  key: 'b/load/1',
  code: 'NK-08',
  batchId: 'b',
  stage: 'load',
  station: 'grind',
  part: 1,
  parts: 1,
  start: '2026-11-26T10:00:00.000Z',
  end: '2026-11-26T10:30:00.000Z',
  latest: null,
  personId: 'a',
  begun: false,
  massMg: 8e6,
  setUp: null,
  machineId: 'ida',
  machine: 'Ida',
  isReady: false,
  ...more,
});
const clean = { kind: 'clean', minutes: 90, after: 'TL-17' } as const;
const hands = { personId: 'a', start: '2026-11-26T08:30:00.000Z', end: '2026-11-26T10:00:00.000Z' };
const rows = (...steps: DayStep[]) => {
  show(<DayList steps={steps} now={NOW} />);
  return screen.getAllByRole('link').map((a) => [a.textContent, a.getAttribute('href')]);
};

test('a step leads to its batch; one that has none yet to the board', () =>
  expect(rows(step(), step({ key: 'n', batchId: null, part: 2, parts: 3 }))).toEqual([
    [expect.stringMatching(/NK-08Load .* 8\.00\skg, Ida$/), '/batch/b'],
    [expect.stringMatching(/2\/3/), '/plan'],
  ]));

test('bars are knocked out and wrapped by number, not by weight', () =>
  expect(
    rows(step({ key: 'w', stage: 'wrap', station: 'mould', bars: 251, machineId: null, machine: null })),
  ).toEqual([[expect.stringMatching(/NK-08Wrap 251 bars$/), '/batch/b']]));

test('a machine made ready has a line of its own, which leads to the machine', () =>
  expect(
    rows(
      step({ key: 'r', isReady: true, start: hands.start, end: hands.end, setUp: { ...clean, hands } }),
      step({ setUp: { ...clean, hands } }),
    ),
  ).toEqual([
    [expect.stringMatching(/NK-08Wash and dry Ida TL-17 ran there$/), '/machine/ida'],
    // And is not told again at the step itself.
    [expect.not.stringMatching(/ran there/), '/batch/b'],
  ]));

test('where nobody is free for it, or an older plan does not say who, the step tells what its machine wants', () =>
  expect(
    rows(step({ setUp: { ...clean, hands: null } }), step({ key: 'o', setUp: clean })).map(([text]) => text),
  ).toEqual([
    expect.stringMatching(/wash and dry Ida.*nobody is free to do it$/),
    expect.stringMatching(/wash and dry Ida \(90 min\): TL-17 ran there$/),
  ]));

test('what should have begun stands out', () => {
  show(<DayList steps={[step({ latest: '2026-11-26T08:00:00.000Z' })]} now={NOW} />);
  expect(document.querySelector('.bg-signal')).not.toBeNull();
});
