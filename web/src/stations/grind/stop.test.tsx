import { screen } from '@testing-library/react';
import type { GrindView } from '@wunsch/contract';
import { show } from '../../testing/page.tsx';
import { Stop } from './Forecast.tsx';

const at = (hour: number) => `2026-11-27T${String(hour).padStart(2, '0')}:00:00.000Z`;
const forecast: NonNullable<GrindView['forecast']> = {
  curve: { rate: 0.09, finest: 14, coarse: 80 },
  hoursToAim: { median: 20, low: 18, high: 24 },
  aimAt: { at: at(20), low: at(18), high: at(23) },
  chanceReached: 0.99,
  nextReading: { at: at(15), rangeLeft: 0.7 },
  morning: { at: at(7), median: 24, low: 22, high: 27 },
  slowed: null,
  runs: 3,
  band: [],
} as never;
const view = (more: Partial<typeof forecast> | null, um = 30): GrindView =>
  ({
    aimUm: 20,
    needs: 2,
    readings: [{ id: 'a', hours: 8, um, uUm: 1.5, at: at(8) }],
    forecast: more && { ...forecast, ...more },
  }) as never;
const open = (grind: GrindView, language: 'en' | 'de' = 'en') => show(<Stop grind={grind} />, { language });

test('it says when, between when and when, from how many readings, and when the next one tells most', () => {
  open(view({}));
  expect(screen.getByText(/reading.*3/i)).toBeTruthy();
  expect(screen.getByText(/30%|30 %/)).toBeTruthy();
  expect(screen.queryByText(/at all/)).toBeNull();
});

test('stones that may never get there are told of by the chance that they do; that they cannot, outright', () => {
  const { redraw } = open(view({ chanceReached: 0.6 }));
  expect(screen.getByText(/^The stones get that fine at all with a chance of 60/)).toBeTruthy();
  redraw(<Stop grind={view({ aimAt: null, chanceReached: 0.02 })} />);
  expect(screen.getByText(/14/).textContent).toMatch(/20/);
  expect(screen.queryByText(/chance of/)).toBeNull();
});

test('too little to tell says how many readings are missing; a paste about to go gummy is marked', () => {
  const { redraw } = open(view(null), 'de');
  expect(screen.getByText(/2/)).toBeTruthy();
  redraw(<Stop grind={view({}, 11.5)} />);
  expect(screen.getByText(/12/, { selector: 'span' })).toBeTruthy();
});
