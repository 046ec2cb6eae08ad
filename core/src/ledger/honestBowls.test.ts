import { normalDraw, seededRandom, type Random } from '../numerics/index.ts';
import { findDisagreement, type Movement, type Step } from './index.ts';

/*
 * Bowls as they are poured by hand, of which the reconciliation knows nothing: something clings to grinder, bowl and scraper, bars are counted
 * and a little over or under what they should weigh, what is left under a bar's weight is eaten or weighed, backs are trimmed.
 */
const between = (random: Random, low: number, high: number) => low + (high - low) * random();

interface Pour {
  steps: Step[];
  movements: Movement[];
}

/** One charge through grinder, bowl and moulds; grams. `slip` bars too few are written down. */
function poured(random: Random, slip = 0): Pour {
  const movements: Movement[] = [];
  const steps: Step[] = (['grind', 'temper', 'mould'] as const).map((station) => ({
    id: station,
    station,
    status: 'closed',
    batchId: 'b',
    startedAt: '2026-10-02T08:00:00Z',
  }));
  const line = (stepId: string, direction: Movement['direction'], grams: number, more: Partial<Movement>) =>
    movements.push({
      id: `m${movements.length}`,
      stepId,
      direction,
      massMg: Math.round(grams) * 1000,
      source: 'weighed',
      uMg: null,
      ...more,
    });
  const weighed = (grams: number) => Math.round((grams + normalDraw(random) * 1.5) / 2) * 2;
  const rest = (stepId: string, reason: string) => {
    const mine = movements.filter((m) => m.stepId === stepId);
    const left = mine.reduce((sum, m) => sum + (m.direction === 'in' ? m.massMg : -m.massMg), 0);
    line(stepId, 'loss', left / 1000, { reason, source: 'derived' });
  };
  const charge = Math.exp(between(random, Math.log(900), Math.log(7000)));
  const ground = charge * (1 - between(random, 0.004, 0.018)) - between(random, 5, 30);
  const groundRead = weighed(ground);
  line('grind', 'in', weighed(charge), { parcelId: 'charge' });
  line('grind', 'out', groundRead, { parcelId: 'dark' });
  rest('grind', 'hold-up');
  line('temper', 'in', groundRead, { parcelId: 'dark', source: 'derived' });
  const tempered = ground * (1 - between(random, 0.004, 0.018)) - between(random, 5, 30);
  const temperedRead = weighed(tempered);
  line('temper', 'out', temperedRead, { parcelId: 'bowl' });
  rest('temper', 'hold-up');
  line('mould', 'in', temperedRead, { parcelId: 'bowl', source: 'derived' });
  const usable =
    tempered * (1 - between(random, 0.004, 0.018) - between(random, 0.002, 0.012)) - between(random, 5, 30);
  const fill = 60 * (1 + 0.01 * normalDraw(random));
  const bars = Math.floor(usable / fill);
  line('mould', 'out', (bars - slip) * 60, { count: bars - slip, source: 'counted', material: 'bars' });
  line('mould', 'out', weighed(usable - bars * fill), { material: 'rework' });
  rest('mould', random() < 0.5 ? 'trim' : 'unexplained');
  return { steps, movements };
}

const told = (n: number, slip: number) => {
  let found = 0;
  for (let seed = 0; seed < n; seed += 1) {
    const { steps, movements } = poured(seededRandom(7000 + seed), slip);
    if (findDisagreement(steps, movements)!.result.disagrees) found += 1;
  }
  return found / n;
};

test('of a thousand honest bowls of one to seven kilograms, hardly one in twenty is said to disagree', () => {
  const wrong = told(1000, 0);
  expect(wrong).toBeLessThan(0.07);
});

test('a tray of ten bars that was not counted is seen in nine of ten of them', () => {
  expect(told(400, 10)).toBeGreaterThan(0.9);
});
