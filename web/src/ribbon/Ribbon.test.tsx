import { screen } from '@testing-library/react';
import { batchFlow, type Movement, type Step } from '@wunsch/core/ledger';
import { show } from '../testing/page.tsx';
import { Ribbon } from './Ribbon.tsx';
import { RibbonTable } from './RibbonTable.tsx';

const step = (id: string, station: Step['station'], status: Step['status']): Step => ({
  id,
  batchId: 'b',
  station,
  status,
  startedAt: '2026-10-01T08:00:00Z',
});
let n = 0;
const line = (
  stepId: string,
  direction: Movement['direction'],
  massMg: number,
  more: Partial<Movement> = {},
) => ({
  id: `m${(n += 1)}`,
  stepId,
  direction,
  massMg,
  source: 'weighed' as const,
  ...more,
});

/** 12 kg sorted to 11.69, in the oven; the rest is to come. */
const flow = batchFlow({
  steps: [step('s', 'sort', 'closed'), step('r', 'roast', 'open')],
  movements: [
    line('s', 'in', 12_000_000, { parcelId: 'lot' }),
    line('s', 'out', 11_690_000, { parcelId: 'p', material: 'sorted beans' }),
    line('s', 'loss', 296_000, { reason: 'flat' }),
    line('s', 'loss', 14_000, { reason: 'sweepings' }),
    line('r', 'in', 11_690_000, { parcelId: 'p' }),
  ],
  parcels: [],
  barMg: 60_000,
});

test('whoever hears the page hears where the mass is, what was lost, and the bars with their range', () => {
  show(<Ribbon flow={flow} column={92} height={262} scale={9e-6} detail="full" />);
  const ribbon = screen.getByRole('img');
  const text = document.getElementById(ribbon.getAttribute('aria-labelledby')!)!.textContent!;
  expect(text).toMatch(/Starts with 12\.00.kg; now at Roast with 11\.69.kg/);
  expect(text).toMatch(/flat 296.g, sweepings 14.g/);
  expect(text).toMatch(/\d+.*\d+ bars|bars.*\d+/);
});

test('one mass, one height: the band is drawn to the page’s scale', () => {
  const { container } = show(<Ribbon flow={flow} column={92} height={262} scale={9e-6} detail="full" />);
  const solid = [...container.querySelectorAll('rect')].filter((r) => Number(r.getAttribute('height')) > 100);
  const heights = solid.map((r) => Number(r.getAttribute('height')));
  expect(Math.max(...heights)).toBeCloseTo(12_000_000 * 9e-6, 1);
  expect(heights.some((h) => Math.abs(h - 11_690_000 * 9e-6) < 0.2)).toBe(true);
});

test('what is to come is pale and dashed', () => {
  const { container } = show(<Ribbon flow={flow} column={92} height={262} scale={9e-6} detail="full" />);
  expect(container.querySelectorAll('[stroke-dasharray="4 3"]').length).toBeGreaterThan(2);
  expect(container.querySelectorAll('[opacity="0.22"]').length).toBeGreaterThan(2);
});

test('on a phone it says nothing in letters, and still says it to those who hear', () => {
  const { container } = show(<Ribbon flow={flow} column={40} height={130} scale={4e-6} detail="none" />);
  expect([...container.querySelectorAll('text')].map((t) => t.textContent).join('')).not.toMatch(/kg/);
  expect(screen.getByRole('img')).toBeTruthy();
});

/** Sugar weighed in with the recipe, vanilla and then butter, twice, with the stones turning. */
const joinedTwice = batchFlow({
  steps: [step('i', 'recipe', 'closed'), step('g', 'grind', 'open')],
  movements: [
    line('i', 'in', 9_500_000, { parcelId: 'nibs' }),
    line('i', 'in', 2_400_000, { label: 'Cane sugar', ingredientId: 'cane sugar' }),
    line('i', 'out', 11_900_000, { parcelId: 'mix', material: 'charge' }),
    line('g', 'in', 11_900_000, { parcelId: 'mix' }),
    line('g', 'in', 10_000, { label: 'vanilla', ingredientId: 'vanilla' }),
    line('g', 'in', 300_000, { label: 'Cocoa butter', ingredientId: 'cocoa butter' }),
    line('g', 'in', 320_000, { label: 'Cocoa butter', ingredientId: 'cocoa butter' }),
  ],
  parcels: [],
  barMg: 60_000,
});

test.each([
  [87, 5e-6, null],
  [262, 9e-6, 'Cocoa butter +1 '],
])('names of what joins at two stations never stand on each other: %i px high', (height, scale, second) => {
  const { container } = show(
    <Ribbon flow={joinedTwice} column={90} height={height} scale={scale} detail="short" />,
  );
  const [sugar, butter] = [...container.querySelectorAll('text[text-anchor=end]')];
  expect(sugar!.textContent).toMatch(/^Cane sugar 20.%$/);
  // Where its name has no room its share still stands there.
  expect(butter!.textContent).toMatch(second ? /^Cocoa butter \+1 5.%$/ : /^5.%$/);
  const place = (e: Element, name: string) => Number(e.getAttribute(name));
  const begins = place(butter!, 'x') - butter!.textContent!.length * 6.4;
  const apart = Math.abs(place(butter!, 'y') - place(sugar!, 'y'));
  expect(begins > place(sugar!, 'x') || apart >= 13.5).toBe(true);
});

test('as a table: each station with what went in, was lost by name and share, and what is expected', () => {
  show(<RibbonTable flow={flow} />);
  const rows = [...screen.getByRole('table', { hidden: true }).querySelectorAll('tbody tr')].map((r) =>
    [...r.querySelectorAll('td')].map((d) =>
      d.textContent!.replaceAll('\u00a0', ' ').replaceAll('\u202f', ' '),
    ),
  );
  expect(rows[0]).toEqual(['Sort', '12.00 kg', '', 'flat 296 g (2.5 %), sweepings 14 g (0.1 %)', '11.69 kg']);
  expect(rows[1]!.slice(0, 2)).toEqual(['Roast', '11.69 kg']);
  const winnow = rows.find((r) => r[0] === 'Winnow')!;
  expect(winnow[4]).toMatch(/^[\d.]+ kg – [\d.]+ kg$/);
});

test('the table speaks German and pounds where the page does', () => {
  show(<RibbonTable flow={flow} />, { language: 'de', workshop: { massSystem: 'pounds' } });
  const text = screen.getByRole('table', { hidden: true }).textContent!;
  expect(text).toMatch(/Rösten/);
  expect(text).toMatch(/26.lb/);
});
