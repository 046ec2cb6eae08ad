import { screen, waitFor, within } from '@testing-library/react';
import type { CardsReading, PalateTest } from '@wunsch/contract';
import { judgeCards, judgePalate } from '@wunsch/core/trainer';
import { show, Wire, type PageOptions } from '../testing/page.tsx';
import CardsPage from './CardsPage.tsx';
import PalatePage from './PalatePage.tsx';

const finish = () => screen.getByRole<HTMLButtonElement>('button', { name: 'That is my answer' });

function pour(options: PageOptions = {}) {
  const wire = new Wire();
  return { ...show(<PalatePage />, options), wire };
}

/** The rows of the only table, as text. */
const rows = () =>
  within(screen.getByRole('table'))
    .getAllByRole('row')
    .slice(1)
    .map((row) =>
      within(row)
        .getAllByRole('cell')
        .map((c) => c.textContent),
    );

test('the table is for whoever pours: it is shown when asked for and gone when poured', async () => {
  const { user } = pour();
  await user.click(screen.getByRole('button', { name: 'Draw the cups' }));
  expect(screen.queryByRole('table')).toBeNull();
  await user.click(screen.getByRole('button', { name: 'I pour: show the table' }));
  const poured = rows();
  expect(poured).toHaveLength(8);
  expect(new Set(poured.map(([code]) => code)).size).toBe(8);
  // What is mixed is what is poured, and water needs no mixing.
  const mixed = screen.getAllByRole('listitem').map((li) => li.textContent);
  const kinds = new Set(poured.map(([, what]) => what).filter((what) => what !== 'plain water'));
  expect(mixed).toHaveLength(kinds.size);
  expect(screen.queryByText(/^Caffeine by the gram is strong/) !== null).toBe(
    poured.some(([, what]) => what!.startsWith('caffeine')),
  );
  await user.click(screen.getByRole('button', { name: 'Poured: hide the table' }));
  expect([screen.queryByRole('table'), finish().disabled]).toEqual([null, true]);
});

test('half a litre of each solution is half of what a litre takes', async () => {
  const { user } = pour();
  await user.click(screen.getByRole('button', { name: 'Draw the cups' }));
  await user.click(screen.getByRole('button', { name: 'I pour: show the table' }));
  const perLitre = new Map(
    rows().flatMap(([, what]) => {
      const [, name, grams] = /^(.+) ([\d.]+) g\/l$/.exec(what!) ?? [];
      return name ? [[name, Number(grams)] as const] : [];
    }),
  );
  for (const li of screen.getAllByRole('listitem')) {
    const [, name, grams] = /^(.+): ([\d.]+) g in 500 ml$/.exec(li.textContent)!;
    expect(Math.abs(Number(grams) - perLitre.get(name!)! / 2)).toBeLessThan(0.051);
  }
});

test('what was said of each cup is kept as one entry and judged by the cups themselves', async () => {
  const { user, wire } = pour();
  await user.click(screen.getByRole('button', { name: 'Draw the cups' }));
  await user.click(screen.getByRole('button', { name: 'I pour: show the table' }));
  const poured = rows();
  await user.click(screen.getByRole('button', { name: 'Poured: hide the table' }));
  for (const [code] of poured)
    await user.click(
      within(screen.getByRole('radiogroup', { name: code! })).getByRole('radio', { name: 'sweet' }),
    );
  expect(finish().disabled).toBe(false);
  await user.click(finish());
  await screen.findByRole('heading', { name: 'What it came to' });
  expect(wire.sent).toHaveLength(1);
  const { exercise, cups, answers } = wire.sent[0]!.body as PalateTest;
  expect([exercise, answers]).toEqual(['name', Array(8).fill('sweet')]);
  expect(cups.map((c) => c.code)).toEqual(poured.map(([code]) => code));
  const { points, right } = judgePalate(exercise, cups, answers);
  expect(right).toBe(poured.filter(([, what]) => what!.startsWith('sugar')).length);
  expect(screen.getByText(String(points))).toBeTruthy();
  expect(screen.getByText(new RegExp(`^${right} of 8 named rightly\\.`))).toBeTruthy();
  expect(rows().filter(([, , said]) => said === 'sweet')).toHaveLength(right);
});

test('cups put in order carry numbers, and the right order gets all points', async () => {
  const { user, wire } = pour();
  await user.click(screen.getByRole('radio', { name: /^Put in order/ }));
  await user.click(screen.getByRole('button', { name: 'Draw the cups' }));
  await user.click(screen.getByRole('button', { name: 'I pour: show the table' }));
  const strength = (what: string) => Number(/([\d.]+) g\/l/.exec(what)![1]);
  const poured = rows().map(([code, what]) => ({ code: code!, grams: strength(what!) }));
  const ranked = [...poured].sort((a, b) => a.grams - b.grams).map((c) => c.code);
  await user.click(screen.getByRole('button', { name: 'Poured: hide the table' }));
  for (const { code } of poured)
    await user.click(
      within(screen.getByRole('radiogroup', { name: code })).getByRole('radio', {
        name: String(ranked.indexOf(code) + 1),
      }),
    );
  await user.click(finish());
  expect(await screen.findByText('100')).toBeTruthy();
  expect(screen.getByText(/^6 of 6 pairs in the right order\./)).toBeTruthy();
  expect((wire.sent[0]!.body as PalateTest).answers).toEqual(
    poured.map(({ code }) => ranked.indexOf(code) + 1),
  );
});

test('an answer that was refused can be given again, and nothing is told before', async () => {
  const { user, wire } = pour();
  await user.click(screen.getByRole('radio', { name: /^The same twice/ }));
  await user.click(screen.getByRole('button', { name: 'Draw the cups' }));
  await user.click(screen.getByRole('button', { name: 'I pour: show the table' }));
  await user.click(screen.getByRole('button', { name: 'Poured: hide the table' }));
  for (const group of screen.getAllByRole('radiogroup'))
    await user.click(within(group).getByRole('radio', { name: '5' }));
  wire.refuse({ status: 422, code: 'not-valid', detail: 'no such cup' });
  await user.click(finish());
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(screen.queryByRole('heading', { name: 'What it came to' })).toBeNull();
  await waitFor(() => expect(finish().disabled).toBe(false));
  await user.click(finish());
  expect(await screen.findByRole('heading', { name: 'What it came to' })).toBeTruthy();
});

test('in German the cups read as the trade says it', async () => {
  const { user } = pour({ language: 'de' });
  await user.click(screen.getByRole('button', { name: 'Becher ziehen' }));
  expect(screen.getByRole('button', { name: /Tabelle zeigen/ })).toBeTruthy();
});

test('cards: everybody has to be judged first, and what each really was is told with its figures', async () => {
  const wire = new Wire();
  const { user } = show(<CardsPage />);
  await user.click(screen.getByRole('button', { name: 'Deal the cards' }));
  const groups = screen.getAllByRole('radiogroup');
  expect([groups.length, screen.getAllByRole('img').length]).toEqual([6, 6]);
  for (const img of screen.getAllByRole('img'))
    expect(
      img.getAttribute('aria-label')!.match(/Bar \d: [\d.]+ and [\d.]+, all tasters [\d.]+\./g),
    ).toHaveLength(4);
  expect(finish().disabled).toBe(true);
  for (const group of groups) await user.click(within(group).getByRole('radio', { name: 'steady' }));
  await user.click(finish());
  expect(await screen.findByRole('heading', { name: 'What it came to' })).toBeTruthy();
  const { habits, answers } = wire.sent[0]!.body as CardsReading;
  const { points, right } = judgeCards(habits, answers);
  // Calling everybody steady is worth half.
  expect(points).toBe(50);
  expect(screen.getByText(new RegExp(`^${right} of 6 named rightly\\.`))).toBeTruthy();
  expect(screen.getAllByText(/you said “steady”/)).toHaveLength(6 - right);
  expect(screen.getAllByText(/^The same bar again: ±/)).toHaveLength(6);
  await user.click(screen.getByRole('button', { name: 'Another one' }));
  expect(screen.getByRole('button', { name: 'Deal the cards' })).toBeTruthy();
});
