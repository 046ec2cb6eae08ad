import { screen } from '@testing-library/react';
import type { DayStep } from '@wunsch/contract';
import { show, Wire } from '../testing/page.tsx';
import { LatestBell, pressingSteps } from './LatestBell.tsx';

const step = (key: string, latest: string | null, begun = false): DayStep => ({
  key,
  code: key.split('/')[0]!,
  batchId: null,
  stage: 'roast',
  station: 'roast',
  part: 1,
  parts: 1,
  start: '2026-11-27T09:00:00.000Z',
  end: '2026-11-27T10:00:00.000Z',
  latest,
  personId: 'p',
  begun,
  massMg: 2e6,
  setUp: null,
  machineId: null,
  machine: null,
  isReady: false,
});
const now = Date.parse('2026-11-27T10:00:00.000Z');

test.each([
  ['in sixteen minutes', '2026-11-27T10:16:00.000Z', false, false],
  ['in fourteen minutes', '2026-11-27T10:14:00.000Z', false, true],
  ['half an hour ago', '2026-11-27T09:30:00.000Z', false, true],
  ['begun', '2026-11-27T10:14:00.000Z', true, false],
  ['yesterday', '2026-11-26T10:14:00.000Z', false, false],
  ['of no order', null, false, false],
])('latest start %s', (_, latest, begun, rings) =>
  expect(pressingSteps([step('A/roast/1', latest, begun)], now).length > 0).toBe(rings),
);

test('rings for the most pressing, tells of the others, and is hushed until another presses', async () => {
  const soon = (minutes: number) => new Date(Date.now() + minutes * 60_000).toISOString();
  const wire = new Wire();
  const steps = [
    step('MR-17/roast/1', soon(10)),
    step('TL-16/roast/1', soon(5)),
    step('NK-07/roast/1', soon(90)),
  ];
  wire.has('/api/plan-steps?person=019a0000-0000-7000-8000-000000000001', steps);
  const { user } = show(<LatestBell />);
  const line = await screen.findByRole('status');
  expect(line.textContent).toMatch(
    /^TL-16: Roast has to begin by .*, or an order is late; one step more with it/,
  );
  await user.click(screen.getByRole('button', { name: 'Quiet' }));
  expect(screen.queryByRole('status')).toBeNull();
});
