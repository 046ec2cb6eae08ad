import { screen, waitFor } from '@testing-library/react';
import { tabledMix, TEMPER_PATHS } from '@wunsch/core/temper';
import { Wire, show } from '../../testing/page.tsx';
import { batchView, idOf, step } from '../../testing/views.ts';
import { ButterSeed } from './ButterSeed.tsx';
import { PathNote } from './PathNote.tsx';
import { SetTest } from './SetTest.tsx';
import { TablePanel } from './TablePanel.tsx';

const dark = TEMPER_PATHS.dark;

test('on the table: how much stays hot, when the rest comes back, and what both come to', async () => {
  const { user } = show(<TablePanel massMg={3_000_000} bowlC={46} path={dark} />);
  // A quarter: with more the table would have to be colder than the path goes.
  expect(screen.getByText('750 g')).toBeTruthy();
  expect(screen.queryByText(/leave less/)).toBeNull();
  const back = Number(/[\d.]+/.exec(screen.getByTestId('bring-back').textContent)![0]);
  expect(back).toBeCloseTo(dark.coolC, 0);
  // Mixed by the heat balance it comes to the working temperature.
  expect(tabledMix({ hot: 0.25, tabled: 0.75, hotC: 46, tabledC: back })).toBeCloseTo(dark.workC, 1);
  await user.type(screen.getByLabelText('The tabled part at'), '26');
  const mixed = tabledMix({ hot: 0.25, tabled: 0.75, hotC: 46, tabledC: 26 });
  expect(screen.getByTestId('mixed').textContent).toContain(mixed.toFixed(1));
  const hot = screen.getByLabelText('Left hot');
  await user.clear(hot);
  await user.type(hot, '60');
  expect(screen.getByText(/leave less/)).toBeTruthy();
});

test('the less hot the bowl, the more of it stays hot; one that is no longer hot is told', () => {
  show(<TablePanel massMg={3_000_000} bowlC={40} path={dark} />);
  expect(screen.getByLabelText<HTMLInputElement>('Left hot').value).toBe('36');
  expect(screen.queryByText(/leave less/)).toBeNull();
});

test('a dip is timed by the page: the clock writes its minutes into the test', async () => {
  const wire = new Wire();
  const bowl = step('temper');
  const { user } = show(<SetTest view={batchView({ steps: [bowl] })} step={bowl} />);
  await user.click(screen.getByRole('button', { name: 'Dip it and start the clock' }));
  expect(screen.getByRole('timer').textContent).toMatch(/^0:0\d$/);
  await user.click(screen.getByRole('button', { name: 'It has set' }));
  expect(screen.queryByRole('timer')).toBeNull();
  await user.click(screen.getByRole('button', { name: 'Log the test' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  const { data } = wire.sent[0]!.body as { data: { kind: string; minutes: number } };
  expect(data.kind).toBe('setTest');
  expect(data.minutes).toBeGreaterThan(0);
  expect(data.minutes).toBeLessThan(1);
});

test('butter seed is made of the butter there is, for a few bowls like this one, and rings when it should be a cream', async () => {
  const wire = new Wire()
    .has('/api/ingredients', [
      { id: idOf(1), name: 'Cocoa butter', cacao: 'butter' },
      { id: idOf(2), name: 'Cane sugar', cacao: 'none' },
    ])
    .has('/api/supplies', [
      {
        parcelId: idOf(3),
        ingredientId: idOf(2),
        name: 'Cane sugar',
        supplier: '',
        receivedOn: '2026-11-01',
        remainingMg: 9e6,
      },
      {
        parcelId: idOf(4),
        ingredientId: idOf(1),
        name: 'Cocoa butter',
        supplier: 'Quay',
        receivedOn: '2026-11-01',
        remainingMg: 2e6,
      },
    ])
    .has('/api/stock?of=work', [
      {
        id: idOf(5),
        material: 'cocoa butter',
        label: 'Butter seed',
        remainingMg: 40_000,
        onHold: false,
        madeAt: '2026-11-01T10:00:00Z',
      },
    ]);
  const { user } = show(<ButterSeed usualMg={30_000} />);
  expect((await screen.findByRole('list', { name: 'Butter and butter seed here' })).textContent).toMatch(
    /Butter seed.*40.g/,
  );
  await user.click(screen.getByRole('button', { name: 'Make butter seed' }));
  const from = await screen.findByLabelText<HTMLSelectElement>('Of');
  expect([...from.options].map((o) => o.value)).toEqual([idOf(4), idOf(5)]);
  await user.click(screen.getByRole('button', { name: 'Begun: ring then' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toMatchObject({ parcelId: idOf(4), massMg: 120_000, hours: 18 });
});

test('without butter there is nothing to make seed of, and that is said', async () => {
  new Wire();
  const { user } = show(<ButterSeed usualMg={0} />);
  expect(screen.getByText('None here.')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Make butter seed' }));
  expect(await screen.findByText(/There is no cocoa butter/)).toBeTruthy();
  expect(screen.getByRole('button', { name: 'Begun: ring then' })).toHaveProperty('disabled', true);
});

test('where a path comes from is said, and that it drifts', () => {
  const own = { path: dark, bowls: 7, driftC: -0.6 };
  const { unmount } = show(<PathNote path={dark} given={dark} from="own" own={own} />);
  const note = screen.getByTestId('path-note').textContent;
  expect(note).toContain('from 7 bowls with good bars');
  expect(note).toContain('0.6 °C cooler');
  unmount();
  show(<PathNote path={dark} given={dark} from="milk-fat" own={null} />);
  expect(screen.getByTestId('path-note').textContent).toBe('Moved down for the milk fat in this recipe.');
});
