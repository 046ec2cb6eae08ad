import { screen } from '@testing-library/react';
import type { PlanRoomView } from '@wunsch/contract';
import { show } from '../testing/page.tsx';
import { DayHead } from './DayHead.tsx';
import type { Scale } from './scale.ts';

const day = { day: '2026-11-26', at: Date.parse('2026-11-26'), top: 0, height: 120, closed: false };
const scale = { zoom: 'weeks', days: [day], height: 120 } as unknown as Scale;

/** The lines beside a day for people with so many hours of work each. */
function beside(hours: Record<string, number>) {
  const people = Object.keys(hours).map((initials) => ({ id: initials, name: initials, initials }));
  show(
    <DayHead
      day={day}
      scale={scale}
      isFirstOfMonth={false}
      people={people as unknown as PlanRoomView['people']}
      hours={new Map(Object.entries(hours))}
      isNarrow={false}
    />,
  );
  return screen.queryAllByRole('listitem').map((l) => l.textContent!.replace(/\u00a0/g, ' '));
}

test('where there is room everybody stands there, busy or not', () => {
  expect(beside({ AK: 2, JB: 0, MR: 1.5 })).toEqual(['AK2 h', 'JB', 'MR1.5 h']);
});

test('of a dozen those who have something to do, most first', () => {
  expect(beside({ A: 0, B: 0, C: 1, D: 0, E: 0, F: 3, G: 0 })).toEqual(['F3 h', 'C1 h']);
});

test('and of many busy ones how many more there are', () => {
  expect(beside({ A: 1, B: 2, C: 3, D: 4, E: 5, F: 0 })).toEqual(['E5 h', 'D4 h', 'C3 h', '2 more at work']);
});
