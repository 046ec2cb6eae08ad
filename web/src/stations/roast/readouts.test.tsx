import type { RoastForecast } from '@wunsch/core/roast';
import { show } from '../../testing/page.tsx';
import { Readouts } from './Readouts.tsx';

const STARTED = Date.parse('2026-11-26T09:00:00Z');

/** Read every ten seconds for twenty minutes, and looked at so much later. */
function open(laterS: number, forecast: RoastForecast | null = null) {
  const bean = Array.from({ length: 121 }, (_, i) => ({ seconds: i * 10, celsius: 60 + i * 0.3 }));
  const range = { median: 96, low: 90, high: 100 };
  const corridor = { line: [0, 3600].map((seconds) => ({ seconds, ...range, air: 120 })) } as RoastForecast;
  show(
    <Readouts
      bean={bean}
      isHot={false}
      oven={bean.map((b) => ({ ...b, celsius: 118 }))}
      now={1200 + laterS}
      setC={122}
      stageName="soak"
      corridor={corridor}
      forecast={forecast}
      end={2100}
      startedAt={STARTED}
    />,
  );
  return (document.body.textContent ?? '').replace(/[\u00a0\u202f]/g, ' ');
}

test.each([
  ['just now', 5, true, false, true],
  ['five minutes ago', 300, true, true, true],
  ['eight hours ago', 28_800, false, true, false],
])('read %s', (_, later, isCompared, isDated, hasPace) => {
  const told = open(later);
  expect(told).toMatch(/96\.0 °C/);
  expect(/in the corridor/.test(told)).toBe(isCompared);
  expect(/read 09:20/.test(told)).toBe(isDated);
  expect(/\+1\.8 °C\/min/.test(told)).toBe(hasPace);
});

test('the pace is the one of the forecast where that has readings enough, since the probe’s own jumps', () => {
  const range = { median: 0, low: 0, high: 0 };
  const forecast = { paceNow: -0.4, pace: range, end: range } as RoastForecast;
  expect(open(5, { ...forecast, readings: 60 })).toMatch(/−0\.4 °C\/min/);
  expect(open(5, { ...forecast, readings: 2 })).toMatch(/\+1\.8 °C\/min/);
});
