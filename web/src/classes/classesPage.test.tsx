import { screen } from '@testing-library/react';
import type { ClassBrief } from '@wunsch/contract';
import { show, Wire, type PageOptions } from '../testing/page.tsx';
import { idOf } from '../testing/views.ts';
import ClassesPage from './ClassesPage.tsx';

const brief = (n: number, title: string, startsAt: string, more: Partial<ClassBrief> = {}) =>
  ({
    id: idOf(n),
    title,
    startsAt,
    places: 8,
    guests: 3,
    state: 'planned',
    liking: null,
    ...more,
  }) as ClassBrief;

async function open(classes: ClassBrief[], options: PageOptions = {}) {
  new Wire().has('/api/classes', classes);
  const page = show(<ClassesPage />, options);
  await screen.findByRole('heading', { level: 1 });
  return page;
}

test('the next one stands first, then those that have been, the last of them first; called off come last', async () => {
  await open([
    brief(1, 'Spring', '2026-04-01T10:00:00Z', { state: 'held', liking: 7.4 }),
    brief(2, 'Off', '2026-12-01T10:00:00Z', { state: 'called-off' }),
    brief(3, 'Far', '2027-02-01T10:00:00Z'),
    brief(4, 'Autumn', '2026-10-01T10:00:00Z', { state: 'held' }),
    brief(5, 'Near', '2026-12-20T10:00:00Z', { guests: 8 }),
  ]);
  const links = screen.getAllByRole('link').filter((a) => a.getAttribute('href')!.includes('/classes/'));
  expect(links.map((a) => a.textContent)).toEqual(['Near', 'Far', 'Autumn', 'Spring', 'Off']);
  expect(links[0]!.getAttribute('href')).toBe(`/plan/classes/${idOf(5)}`);
  expect(links[0]!.closest('tr')!.textContent).toMatch(/8.*8/);
  expect(links[3]!.closest('tr')!.textContent).toMatch(/7\.4/);
});

test('where there is none yet a maker begins one; who may only look is told what there would be', async () => {
  const { user, unmount } = await open([]);
  await user.click(screen.getByRole('button'));
  expect(await screen.findByRole('dialog')).toBeTruthy();
  unmount();
  await open([], { role: 'viewer' });
  expect(screen.queryAllByRole('button')).toEqual([]);
});
