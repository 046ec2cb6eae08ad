import { screen, within } from '@testing-library/react';
import type { RoastForecast } from '@wunsch/core/roast';
import { show } from '../../testing/page.tsx';
import { Gauges } from './Gauges.tsx';

const at = (median: number, low = median, high = median) => ({ median, low, high });

const forecast = {
  moisture: { now: at(4), end: at(2, 1, 3) },
  acid: { now: at(0.7), end: at(0.4, 0.3, 0.5) },
  dose: { now: at(4), end: at(10, 9, 12) },
  logReduction: { now: at(2), end: at(5, 4, 6) },
} as RoastForecast;

test('what is foretold is told as a range and drawn as wide as it is', () => {
  show(<Gauges forecast={forecast} aim={undefined} />);
  const gauges = within(screen.getByRole('group', { name: 'Inside the beans, estimated' }));
  const widths = [...document.querySelectorAll('[data-range]')].map((band) => {
    const { left, width } = (band as HTMLElement).style;
    return [left, width].map((w) => Number.parseFloat(w));
  });
  // Moisture falls: its scale runs from 8 % on the left to 0; the dose's ends a tenth above what it may come to.
  expect(widths[0]).toEqual([62.5, 25]);
  expect(widths[1]).toEqual([50, 20]);
  expect(widths[2]![0]).toBeCloseTo((9 / 13.2) * 100, 6);
  expect(widths[3]).toEqual([50, 25]);
  expect(gauges.getByText(/ends at 1\.0 to 3\.0/)).toBeTruthy();
  expect(gauges.getByText(/ends at 50 % to 70 %/)).toBeTruthy();
});
