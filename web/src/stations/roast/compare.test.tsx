import { screen, within } from '@testing-library/react';
import type { RoastRecord } from '@wunsch/contract';
import { roastDose } from '@wunsch/core/roast';
import { show, Wire, type PageOptions } from '../../testing/page.tsx';
import { idOf } from '../../testing/views.ts';
import ComparePage from './ComparePage.tsx';

const STARTED = '2026-11-20T09:00:00.000Z';

/** A roast of 1 kg that warms steadily from 24 to 124 °C in 20 minutes, every 15 s; a hot probe comes down to it first. */
function roast(n: number, more: { hotC?: number; offset?: number; liking?: number } = {}): RoastRecord {
  const beans = Array.from({ length: 81 }, (_, i): [number, number] => [
    15 * i,
    24 + 1.25 * i + (more.offset ?? 0),
  ]);
  let reads = more.hotC ?? 24;
  const points = beans.map(([s, c], i): [number, number] => {
    if (more.hotC === undefined) return [s, c];
    if (i > 0) reads += (c - reads) * 0.6;
    return [s, reads];
  });
  return {
    step: {
      id: idOf(n),
      batchId: idOf(10 + n),
      kind: 'roast',
      startedAt: STARTED,
      status: 'closed',
      details: { load: 1 },
    },
    batchCode: `NKO-${n}`,
    lot: { id: idOf(1), code: 'NKO', name: 'Nkondo Growers', beansPer100g: 95, moisture: 0.065 },
    inMg: 1_000_000,
    outMg: 940_000,
    events: [],
    series: [
      { stepId: idOf(n), place: 'bean', probe: 'A', startedAt: STARTED, points, count: points.length },
    ],
    liking: more.liking ?? null,
    sourness: null,
    tastings: more.liking === undefined ? 0 : 3,
  } as unknown as RoastRecord;
}

function open(roasts: RoastRecord[], options: PageOptions = {}) {
  const ids = roasts.map((r) => r.step.id).join(',');
  new Wire()
    .has(`/api/roasts?ids=${ids}&limit=6&width=240`, roasts)
    .has('/api/roasts?limit=40&width=10', roasts);
  return show(<ComparePage />, { route: '/roast/compare', at: `/roast/compare?ids=${ids}`, ...options });
}

/** Cells of a roast's row by the titles of their columns. */
async function row(code: RegExp): Promise<Record<string, string>> {
  const table = await screen.findByRole('table', { name: 'What became of them' });
  const said = (element: HTMLElement | undefined) => (element?.textContent ?? '').replace(/\s+/g, ' ').trim();
  const titles = within(table).getAllByRole('columnheader').map(said);
  const cells = within(within(table).getByRole('row', { name: code })).getAllByRole('cell');
  return Object.fromEntries(titles.map((t, i) => [t, said(cells[i])]));
}

const DOSE = roastDose(roast(1).series[0]!.points.map(([seconds, celsius]) => ({ seconds, celsius })));

test('two roasts stand side by side with dose, pace and how far they are apart', async () => {
  open([roast(1, { liking: 7.2 }), roast(2, { offset: -4 })]);
  const [a, b] = [await row(/NKO-1/), await row(/NKO-2/)];
  expect(a['Roast dose']).toBe(`${DOSE.toFixed(1)} min`);
  expect(a['Pace at 90 °C']).toBe('5.0 °C/min');
  expect(a.Lost).toBe('6.0 %');
  expect(a['Liking']).toBe('7.2 (3)');
  expect(b['Largest difference']).toMatch(/^−4\.0 K, at /);
  expect(Object.keys(a)).not.toContain('Turned at');
});

test('a probe that was hot from the drum gives the dose and pace of the beans, and where it turned', async () => {
  open([roast(1), roast(2, { hotC: 205 })]);
  const [cool, hot] = [await row(/NKO-1/), await row(/NKO-2/)];
  expect(Math.abs(Number.parseFloat(hot['Roast dose']!) - DOSE)).toBeLessThan(0.3);
  expect(hot['Pace at 90 °C']).toBe('5.0 °C/min');
  expect(cool['Turned at']).toBe('—');
  expect(hot['Turned at']).toMatch(/^\d\d °C, at \d\.\d min$/);
  // Compared from where it tells of the beans: it lags a little and no more.
  expect(Math.abs(Number.parseFloat(hot['Largest difference']!.replace('−', '-')))).toBeLessThan(12);
});

test('a workshop in °F reads them all in °F', async () => {
  open([roast(1), roast(2, { offset: 5 })], { workshop: { temperatureUnit: '°F' } });
  const b = await row(/NKO-2/);
  expect(b['Pace at 194 °F']).toBe('9.0 °F/min');
  expect(b['Largest difference']).toMatch(/^\+9\.0 °F, at /);
});

test('with none chosen it says what to do, and offers those with a curve', async () => {
  new Wire().has('/api/roasts?limit=40&width=10', [roast(1), { ...roast(2), series: [] }]);
  show(<ComparePage />, { route: '/roast/compare', at: '/roast/compare' });
  expect(await screen.findByRole('button', { name: /NKO-1/ })).toBeTruthy();
  expect(screen.queryByRole('button', { name: /NKO-2/ })).toBeNull();
  expect(screen.queryByRole('table', { name: 'What became of them' })).toBeNull();
});

test('a roast older than those offered can be let go, and each stands beside its line', async () => {
  const [old, now] = [roast(1), roast(2)];
  const ids = [old, now].map((r) => r.step.id).join(',');
  new Wire()
    .has(`/api/roasts?ids=${ids}&limit=6&width=240`, [old, now])
    .has(`/api/roasts?ids=${now.step.id}&limit=6&width=240`, [now])
    .has('/api/roasts?limit=40&width=10', [now]);
  const { user } = show(<ComparePage />, { route: '/roast/compare', at: `/roast/compare?ids=${ids}` });
  const table = await screen.findByRole('table', { name: 'What became of them' });
  const drawn = [...table.querySelectorAll('td svg line')].map((l) => l.outerHTML);
  expect(drawn).toHaveLength(2);
  expect(drawn[0]).not.toBe(drawn[1]);
  await user.click(screen.getByRole('button', { name: /^NKO-1/, pressed: true }));
  expect(screen.queryByRole('button', { name: /^NKO-1/ })).toBeNull();
  expect(screen.getByRole('button', { name: /^NKO-2/, pressed: true })).toBeTruthy();
});

test('an older roast is found by its batch or lot, and laid over the one that was chosen', async () => {
  const forty = Array.from({ length: 40 }, (_, i) => roast(i + 100));
  const [old, first] = [roast(1), forty[0]!];
  new Wire()
    .has('/api/roasts?limit=40&width=10', forty)
    .has('/api/roasts?find=nko-1&limit=40&width=10', [old])
    .has('/api/roasts?find=zz&limit=40&width=10', [])
    .has(`/api/roasts?ids=${first.step.id}&limit=6&width=240`, [first])
    .has(`/api/roasts?ids=${first.step.id},${old.step.id}&limit=6&width=240`, [first, old]);
  const { user } = show(<ComparePage />, { route: '/roast/compare', at: '/roast/compare' });
  await user.click(await screen.findByRole('button', { name: /^NKO-100/ }));
  const field = screen.getByRole('searchbox', { name: 'Batch or lot' });
  expect(screen.getByText('The newest 40 are shown; this finds older ones.')).toBeTruthy();
  await user.click(field);
  await user.paste('nko-1 ');
  await user.click(await screen.findByRole('button', { name: /^NKO-1 / }));
  const table = await screen.findByRole('table', { name: 'What became of them' });
  expect(await within(table).findByRole('row', { name: /NKO-1 / })).toBeTruthy();
  // What was chosen before stays, and can be let go.
  expect(screen.getByRole('button', { name: /^NKO-100/, pressed: true })).toBeTruthy();
  await user.clear(field);
  await user.paste('zz');
  expect(await screen.findByText('No roast by this name.')).toBeTruthy();
});
