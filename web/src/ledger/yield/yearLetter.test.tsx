import { screen, within } from '@testing-library/react';
import { YieldBook, type BatchCost, type CaseBrief, type TastedBatch } from '@wunsch/contract';
import { noCosts } from '@wunsch/core/cost';
import { show, Wire } from '../../testing/page.tsx';
import { idOf } from '../../testing/views.ts';
import YearLetter from './YearLetter.tsx';

const moulded = (n: number) => ({
  batchId: idOf(n),
  batchCode: `NK-${n}`,
  station: 'mould',
  lotId: idOf(1),
  lotName: 'Nkondo Growers',
  machine: '',
  by: 'AK',
  at: '2025-06-03T10:00:00.000Z',
  inMg: 5_000_000,
  outMg: 4_900_000,
});
const BOOK = YieldBook.parse({
  years: [2026, 2025],
  year: 2025,
  came: { massMg: 20_000_000, lots: 1 },
  yields: [moulded(11), moulded(12)],
  flow: [{ station: 'sort', inMg: 20_000_000, outMg: 19_000_000, besideMg: 0, losses: [] }],
});
const cost = (n: number, recipeName: string | null, bars: number, each: number, fetched = 0) =>
  ({
    batchId: idOf(n),
    code: `NK-${n}`,
    lotCode: 'NK',
    recipeName,
    startedAt: '2025-06-01T10:00:00.000Z',
    barMg: 60_000,
    bars,
    bar: { ...noCosts(), beans: each },
    channels: fetched > 0 ? [{ channel: 'shop', bars, fetched }] : [],
  }) as unknown as BatchCost;
const tasted = (n: number, madeAt: string, ...likings: number[]) =>
  ({
    batchId: idOf(n),
    code: `NK-${n}`,
    lotName: 'Nkondo Growers',
    bar: { recipe: 'Dark 72', lotId: idOf(1) },
    madeAt,
    cards: likings.map((liking) => ({ liking })),
  }) as unknown as TastedBatch;
const closed = (n: number, closedAt: string) =>
  ({
    id: idOf(n),
    code: 'NK-11',
    batchCode: 'NK-11',
    signs: ['bloom'],
    cause: 'warm',
    closedAt,
  }) as unknown as CaseBrief;

const open = (costs: BatchCost[]) => {
  const wire = new Wire()
    .has('/api/yields?year=2025', BOOK)
    .has('/api/costs?from=2024-01-01&before=2026-01-02&limit=1000', costs)
    .has('/api/tasted-batches', [
      tasted(11, '2025-06-03T12:00:00.000Z', 7, 8, 8),
      tasted(12, '2025-07-03T12:00:00.000Z', 9),
      tasted(13, '2026-02-03T12:00:00.000Z', 10, 10, 10),
    ])
    .has('/api/cases', [closed(21, '2025-08-01T09:00:00.000Z'), closed(22, '2026-01-02T09:00:00.000Z')]);
  return { wire, ...show(<YearLetter />, { at: '/ledger/letter?year=2025' }) };
};
const part = (name: string) => within(screen.getByRole('heading', { name }).closest('section')!);

test('a year long past has its own bars and costs, whatever has been made since', async () => {
  open([cost(11, 'Dark 72', 60, 120, 24_000), cost(12, 'Dark 72', 20, 160), cost(30, 'Milk', 500, 90)]);
  const title = await screen.findByRole('heading', { level: 1 });
  expect(title.textContent).toBe('Test row, 2025');
  expect(title.closest('article')!.textContent!.replaceAll(/\s/g, ' ')).toMatch(/20\.00 kg.* 80 bars/);
  // Of what was moulded in another year nothing stands here; the mean is by the bar.
  expect(
    part('What a bar cost')
      .getAllByRole('listitem')
      .map((li) => li.textContent),
  ).toEqual(['Dark 72, 80 bars£1.30 each']);
  expect(screen.getByText(/has fetched £240\.00 so far/)).toBeTruthy();
});

test('the best liked are of that year, and one lucky tasting does not win', async () => {
  open([]);
  await screen.findByRole('heading', { level: 1 });
  expect(
    part('Best liked')
      .getAllByRole('link')
      .map((a) => a.textContent),
  ).toEqual(['NK-11', 'NK-12']);
  expect(part('What was learned').getAllByRole('listitem')).toHaveLength(1);
});
