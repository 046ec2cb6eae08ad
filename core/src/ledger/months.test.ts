import { monthBounds } from './index.ts';

describe('a month of the books', () => {
  test.each([
    ['2025-12', 'UTC', '2025-12-01T00:00:00.000Z', '2026-01-01T00:00:00.000Z'],
    ['2024-02', 'UTC', '2024-02-01T00:00:00.000Z', '2024-03-01T00:00:00.000Z'],
    // Clocks are put back on 25 October and forward on 29 March in Berlin.
    ['2026-10', 'Europe/Berlin', '2026-09-30T22:00:00.000Z', '2026-10-31T23:00:00.000Z'],
    ['2026-03', 'Europe/Berlin', '2026-02-28T23:00:00.000Z', '2026-03-31T22:00:00.000Z'],
    ['2026-11', 'America/New_York', '2026-11-01T04:00:00.000Z', '2026-12-01T05:00:00.000Z'],
    ['2026-01', 'Asia/Kolkata', '2025-12-31T18:30:00.000Z', '2026-01-31T18:30:00.000Z'],
    ['2026-12', 'Pacific/Auckland', '2026-11-30T11:00:00.000Z', '2026-12-31T11:00:00.000Z'],
  ])('%s in %s', (month, zone, from, to) => {
    expect(monthBounds(month, zone)).toMatchObject({ from, to, firstDay: `${month}-01` });
  });

  test('months follow each other without a gap, and their days are those of the place', () => {
    for (const zone of ['Europe/Berlin', 'America/Sao_Paulo', 'Asia/Kolkata', 'Australia/Lord_Howe'])
      for (let n = 0; n < 36; n += 1) {
        const name = (k: number) => `${2025 + Math.floor(k / 12)}-${String((k % 12) + 1).padStart(2, '0')}`;
        const [one, next] = [monthBounds(name(n), zone), monthBounds(name(n + 1), zone)];
        expect(one.to).toBe(next.from);
        expect(one.nextDay).toBe(next.firstDay);
        const day = new Intl.DateTimeFormat('sv', { timeZone: zone }).format(new Date(one.from));
        expect(day).toBe(one.firstDay);
      }
  });

  test.each([
    ['2026-13', 'UTC', /written like 2026-10/],
    ['October', 'UTC', /written like 2026-10/],
    ['', 'UTC', /written like 2026-10/],
    ['2026-10', 'Mars/Olympus', /no time zone/],
    ['2026-10', '', /no time zone/],
  ])('%s in %s is refused', (month, zone, why) => {
    expect(() => monthBounds(month, zone)).toThrow(why);
  });
});
