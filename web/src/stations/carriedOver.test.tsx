import { screen, waitFor } from '@testing-library/react';
import type { MachineBefore, Recipe } from '@wunsch/contract';
import { show, Wire } from '../testing/page.tsx';
import { batchView, idOf, ingredientId, SHELF, step } from '../testing/views.ts';
import { CarriedOver } from './CarriedOver.tsx';

const machineId = idOf(80);
const before: MachineBefore = {
  machine: 'Ida',
  cleanedAt: null,
  cleanedBy: null,
  runs: [
    { batchCode: 'NK-08', at: '2026-11-24T08:00:00.000Z', allergens: ['nuts'] },
    { batchCode: 'VA-03', at: '2026-11-22T08:00:00.000Z', allergens: ['milk', 'nuts'] },
  ],
};
const view = (more: object = {}) => batchView({ allergens: [], recipe: null, ...more });

test('what a machine held is told with the last batch of it; noting the cleaning is one entry', async () => {
  const wire = new Wire().has(`/api/machine-before?machine=${machineId}`, before);
  const { user } = show(<CarriedOver view={view()} machineId={machineId} />);
  expect(
    await screen.findByText(/Ida held milk \(VA-03, 22 Nov 2026\), nuts \(NK-08, 24 Nov 2026\) before/),
  ).toBeTruthy();
  await user.dblClick(screen.getByRole('button', { name: 'It was cleaned' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.path).toMatch(/^\/api\/machine-events\//);
  expect(wire.sent[0]!.body).toEqual({ machineId, kind: 'cleaned' });
});

test('of a run that has begun it was cleaned before that', async () => {
  const run = step('grind', { machineId, startedAt: '2026-11-25T08:00:00.000Z' });
  const at = encodeURIComponent(run.startedAt);
  const wire = new Wire().has(`/api/machine-before?machine=${machineId}&at=${at}`, before);
  const { user } = show(<CarriedOver view={view()} machineId={machineId} step={run} />);
  await user.click(await screen.findByRole('button', { name: 'It was cleaned' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toEqual({ machineId, kind: 'cleaned', at: '2026-11-25T07:59:00.000Z' });
});

test('nothing is said of what the batch holds, its recipe will bring, or every label speaks of', async () => {
  const milk: Recipe = {
    id: idOf(70),
    name: 'Milk 45',
    number: 1,
    kind: 'milk',
    current: true,
    beansShare: 45,
    aimUm: 20,
    tempered: null,
    conched: null,
    notes: '',
    follows: null,
    createdAt: '2026-10-01T08:00:00Z',
    by: 'AK',
    lines: [{ ingredientId: ingredientId('whole-milk-powder'), massMg: 1_000_000 }],
  };
  const more = { batchCode: 'NK-09', at: '2026-11-24T20:00:00.000Z', allergens: ['sesame', 'soy'] };
  new Wire()
    .has(`/api/machine-before?machine=${machineId}`, { ...before, runs: [more, ...before.runs] })
    .has('/api/ingredients', SHELF);
  show(<CarriedOver view={view({ recipe: milk, allergens: ['soy'] })} machineId={machineId} />, {
    workshop: { traces: ['nuts'] },
  });
  expect(await screen.findByText(/Ida held sesame \(NK-09, 24 Nov 2026\) before/)).toBeTruthy();
});
