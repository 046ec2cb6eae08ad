import { screen, waitFor, within } from '@testing-library/react';
import type { FaultTableView } from '@wunsch/contract';
import { show, Wire, type PageOptions } from '../testing/page.tsx';
import CauseTablePage from './CauseTablePage.tsx';

type CauseOf = FaultTableView['causes'][number];
const estimated = (written: number | null, now: number, own: number | null = null) => ({ written, now, own });
const cause = (more: Partial<CauseOf>): CauseOf => ({
  cause: 'outEarly',
  station: 'temper',
  cases: 3,
  share: 0.24,
  writtenShare: 0.2,
  prior: estimated(8, 9.6),
  signs: [{ name: 'streaks', ...estimated(0.7, 0.82) }],
  clues: [],
  by: null,
  at: null,
  ...more,
});
const TABLE: FaultTableView = {
  learnedFrom: 5,
  unknownShare: 0.1,
  causes: [
    cause({}),
    cause({
      cause: 'seedLost',
      share: 0.04,
      cases: 0,
      by: 'MR',
      at: '2026-10-02T08:00:00Z',
      prior: estimated(5, 4, 4),
      signs: [{ name: 'streaks', ...estimated(0.6, 0.5, 0.5) }],
      clues: [{ name: 'bowlHot', ...estimated(null, 0.9, 0.9) }],
    }),
  ],
} as FaultTableView;

async function open(options: PageOptions = {}) {
  const wire = new Wire().has('/api/fault-table', TABLE);
  const page = show(<CauseTablePage />, { role: 'owner', ...options });
  await screen.findAllByRole('listitem');
  const rows = screen.getAllByRole('group').map((d) => d.closest('li')!);
  return { ...page, wire, rows };
}
const plain = (element: Element) => element.textContent.replace(/\u00a0/g, ' ');

test('each cause has its share, where it shows, and what is written where the workshop’s cases say otherwise', async () => {
  const { rows } = await open();
  expect(rows).toHaveLength(2);
  expect(plain(rows[0]!)).toMatch(/24 %.*82 %.*70 %/);
  expect(plain(rows[1]!)).toMatch(/4\.0 %.*50 %.*60 %/);
  expect(plain(rows[1]!)).toMatch(/MR/);
});

test('an owner says otherwise, beginning from what is written; an emptied figure no longer counts', async () => {
  const { user, wire, rows } = await open();
  await user.click(rows[0]!.querySelector('summary')!);
  await user.click(within(rows[0]!).getByRole('button'));
  const dialog = within(await screen.findByRole('dialog'));
  const [prior, streaks] = dialog.getAllByRole<HTMLInputElement>('textbox');
  expect(streaks!.value).toMatch(/^70/);
  await user.clear(prior!);
  await user.type(prior!, '9');
  const [more] = dialog.getAllByRole<HTMLSelectElement>('combobox');
  await user.selectOptions(more!, 'soft');
  const keep = dialog.getAllByRole<HTMLButtonElement>('button').at(-1)!;
  await user.clear(streaks!);
  await user.click(keep);
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toEqual({
    cause: 'outEarly',
    estimate: { prior: 9, signs: { soft: 0.5 }, clues: {} },
  });
});

test('what the workshop said is taken back to what is written; a maker changes nothing', async () => {
  const { user, wire, rows, unmount } = await open();
  await user.click(rows[1]!.querySelector('summary')!);
  await user.click(within(rows[1]!).getAllByRole('button').at(-1)!);
  await waitFor(() => expect(wire.sent.map((s) => s.body)).toEqual([{ cause: 'seedLost', estimate: null }]));
  unmount();
  const { rows: seen } = await open({ role: 'maker' });
  expect(within(seen[1]!).queryAllByRole('button')).toEqual([]);
});
