import { screen, waitFor } from '@testing-library/react';
import type { BatchView, Reminder } from '@wunsch/contract';
import { show, Wire, type PageOptions } from '../testing/page.tsx';
import { batchView, idOf, ingredientId, LOT } from '../testing/views.ts';
import { Reminders } from './Reminders.tsx';

const reminder = (n: number, text: string, more: Partial<Reminder> = {}): Reminder => ({
  id: idOf(n),
  station: 'temper',
  text,
  lotId: null,
  recipeId: null,
  recipeIds: [],
  caseId: null,
  caseNumber: null,
  at: '2026-11-01T08:00:00Z',
  by: 'AK',
  ...more,
});
const [OLD, NEW] = [idOf(50), idOf(51)];
const ALL = [
  reminder(1, 'Warm the bowl first', { caseId: idOf(9), caseNumber: 4 }),
  reminder(2, 'Polish the moulds', { station: 'mould' }),
  reminder(3, 'This lot seeds slowly', { lotId: LOT.id }),
  reminder(4, 'Another lot', { lotId: idOf(77) }),
  reminder(5, 'Runs thick', { recipeId: OLD, recipeIds: [OLD, NEW] }),
  reminder(6, 'Another recipe', { recipeId: idOf(60), recipeIds: [idOf(60)] }),
];
const batch = (recipeId: string | null): BatchView =>
  batchView(
    recipeId
      ? {
          recipe: {
            id: recipeId,
            name: 'Seventy',
            number: 1,
            kind: 'dark',
            current: true,
            aimUm: 20,
            tempered: null,
            conched: null,
            beansShare: 70,
            notes: '',
            follows: null,
            createdAt: '2026-10-01T08:00:00Z',
            by: 'AK',
            lines: [{ ingredientId: ingredientId('nibs'), massMg: 7_000_000 }],
          },
        }
      : {},
  );

async function open(view: BatchView, options: PageOptions = {}) {
  const wire = new Wire().has('/api/reminders', ALL);
  const page = show(<Reminders station="temper" view={view} />, options);
  await screen.findByText('Warm the bowl first');
  const told = screen.getAllByRole('listitem').map((li) => li.querySelector('b')!.textContent);
  return { ...page, wire, told };
}

test('a station is reminded of what is for it: for all, for the lot, for the recipe in whichever version', async () => {
  const { told, unmount } = await open(batch(NEW));
  expect(told).toEqual(['Warm the bowl first', 'This lot seeds slowly', 'Runs thick']);
  unmount();
  expect((await open(batch(null))).told).toEqual(['Warm the bowl first', 'This lot seeds slowly']);
});

test('one leads to its case, and is ticked off in one entry; who may only look cannot', async () => {
  const { user, wire, unmount } = await open(batch(OLD));
  expect(screen.getByRole('link').getAttribute('href')).toBe(`/case/${idOf(9)}`);
  await user.click(screen.getAllByRole('button')[1]!);
  await waitFor(() => expect(wire.sent.map((s) => s.path)).toEqual([`/api/reminders/${idOf(3)}/done`]));
  unmount();
  await open(batch(OLD), { role: 'viewer' });
  expect(screen.queryAllByRole('button')).toEqual([]);
});
