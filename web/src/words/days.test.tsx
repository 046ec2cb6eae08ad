import { screen } from '@testing-library/react';
import { show } from '../testing/page.tsx';
import { inZone } from '../testing/zone.ts';
import { useWords } from './words.tsx';

let back = () => undefined as void;
afterEach(() => back());

function Said({ iso }: { iso: string }) {
  return <p>{useWords().day(iso)}</p>;
}

// A best before date is read in every part of the world as it was written.
test.each(['Pacific/Honolulu', 'America/New_York', 'Europe/London', 'Pacific/Fiji', 'Pacific/Auckland'])(
  'a day is the same day in %s, an instant is the day it is there',
  (zone) => {
    const day = new Intl.DateTimeFormat('sv-SE', { timeZone: zone }).format(new Date('2028-05-21T23:30:00Z'));
    back = inZone(zone);
    const { redraw } = show(<Said iso="2028-05-22" />);
    expect(screen.getByText('22 May 2028')).toBeTruthy();
    redraw(<Said iso="2028-05-21T23:30:00.000Z" />);
    expect(screen.getByRole('paragraph').textContent).toBe(`${Number(day.slice(8))} May 2028`);
  },
);

test('in German too', () => {
  show(<Said iso="2028-05-22" />, { language: 'de' });
  expect(screen.getByText('22. Mai 2028')).toBeTruthy();
});

function When({ ms }: { ms: number }) {
  return <p>{useWords().when(new Date(ms).toISOString())}</p>;
}

test('when a thing was, of which only the day is known, is that day', () => {
  back = inZone('America/New_York');
  function Thing() {
    return <p>{useWords().when('2026-11-21')}</p>;
  }
  show(<Thing />);
  expect(screen.getByText('21 Nov 2026')).toBeTruthy();
});

test.each([
  [0, /^\d\d:\d\d$/],
  [2, /^\w{3},? \d\d:\d\d$/],
  [40, /^\d{1,2} \w{3,4}$/],
  // The same day of last year is not taken for this year’s.
  [400, /^\d{1,2} \w{3,4} \d{4}$/],
])('%d days ago is written as far as it has to be', (days, written) => {
  show(<When ms={Date.now() - days * 86_400_000} />);
  expect(screen.getByRole('paragraph').textContent).toMatch(written);
});
