import { screen, waitFor } from '@testing-library/react';
import { useLocation } from 'react-router';
import { SWRConfig } from 'swr';
import { show, Wire } from '../testing/page.tsx';
import { idOf, LOT } from '../testing/views.ts';
import { nextCode, StartBatch } from './StartBatch.tsx';

const other = { ...LOT, id: idOf(7), code: 'THL', name: 'Thanh Loc' };
const start = () =>
  screen.getAllByRole<HTMLButtonElement>('button').find((b) => b.type === 'submit' && b.closest('form'))!;

test('codes go on from the highest there is', () => {
  expect(nextCode('NKO', ['NKO-01', 'NKO-13', 'nko-02', 'NK-99'])).toBe('NKO-14');
  expect(nextCode('NKO', [])).toBe('NKO-01');
  expect(nextCode('NKO-13', ['NKO-13'])).toBe('NKO-14');
});

test('a lot so new that the list has not got it is waited for, and never replaced by another', async () => {
  const wire = new Wire().has('/api/lots', [other]).has('/api/batches?code=NKO-&limit=500', []);
  const { user } = show(
    <SWRConfig value={{ refreshInterval: 150 }}>
      <StartBatch lotId={LOT.id} onClose={() => undefined} />
    </SWRConfig>,
  );
  await waitFor(() => expect(screen.getByRole('option', { name: /THL/ })).toBeTruthy());
  expect(screen.getByLabelText<HTMLSelectElement>('Lot').value).toBe('');
  expect(start().disabled).toBe(true);
  wire.has('/api/lots', [other, LOT]);
  await waitFor(() => expect(screen.getByLabelText<HTMLSelectElement>('Lot').value).toBe(LOT.id));
  await waitFor(() => expect(start().disabled).toBe(false));
  await user.click(start());
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toMatchObject({ lotId: LOT.id, code: 'NKO-01' });
});

test('where none is asked for, the first that is not held is proposed', async () => {
  new Wire()
    .has('/api/lots', [{ ...other, onHold: true }, LOT])
    .has('/api/batches?code=NKO-&limit=500', [{ code: 'NKO-04' }]);
  show(<StartBatch onClose={() => undefined} />);
  await waitFor(() => expect(screen.getByLabelText<HTMLSelectElement>('Lot').value).toBe(LOT.id));
  await waitFor(() => expect(screen.getByLabelText<HTMLInputElement>(/code/i).value).toBe('NKO-05'));
});

test('a recipe that is known already goes along: versions that are made now, and none that was replaced', async () => {
  const of = (n: number, number: number, current: boolean) => ({
    id: idOf(n),
    name: 'Harbour 70',
    number,
    current,
  });
  const wire = new Wire()
    .has('/api/lots', [LOT])
    .has('/api/batches?code=NKO-&limit=500', [])
    .has('/api/recipes', [of(50, 1, false), of(51, 2, true)]);
  const { user } = show(<StartBatch onClose={() => undefined} />);
  await screen.findByRole('option', { name: 'Harbour 70 (version 2)' });
  const recipe = screen.getByLabelText<HTMLSelectElement>('Recipe');
  expect([...recipe.options].map((o) => o.value)).toEqual(['', idOf(51)]);
  await user.selectOptions(recipe, idOf(51));
  await waitFor(() => expect(start().disabled).toBe(false));
  await user.click(start());
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toMatchObject({ lotId: LOT.id, recipeId: idOf(51) });
});

describe('nibs that another batch has left', () => {
  const nibs = {
    id: idOf(32),
    material: 'nibs',
    label: '',
    lotId: null,
    batchId: idOf(10),
    batchCode: 'NKO-14',
    lotCode: LOT.code,
    stepId: idOf(22),
    remainingMg: 1_000_000,
    count: null,
    place: '',
    onHold: false,
    madeAt: '2026-11-20T09:00:00Z',
  };
  const begin = async (lots: object[]) => {
    const wire = new Wire()
      .has('/api/lots', lots)
      .has('/api/stock?of=work', [nibs, { ...nibs, id: idOf(33), material: 'husk' }])
      .has('/api/batches?code=NKO-&limit=500', [{ code: 'NKO-14' }]);
    const page = show(
      <>
        <StartBatch onClose={() => undefined} />
        <Here />
      </>,
    );
    await screen.findByRole('option', { name: /NKO-14\s+Nibs/ });
    return { ...page, wire };
  };

  test('may become a batch of their own, weighed in at the recipe', async () => {
    const { user, wire } = await begin([LOT]);
    const select = screen.getByLabelText<HTMLSelectElement>('Lot');
    expect([...select.options].filter((o) => o.parentElement!.tagName === 'OPTGROUP')).toHaveLength(1);
    await user.selectOptions(select, nibs.id);
    expect(screen.queryByLabelText('How much to begin with')).toBeNull();
    await waitFor(() => expect(start().disabled).toBe(false));
    await user.click(start());
    await waitFor(() => expect(wire.sent).toHaveLength(1));
    expect(wire.sent[0]!.body).toMatchObject({ lotId: LOT.id, code: 'NKO-15', plannedMg: null });
    await waitFor(() => expect(screen.getByTestId('here').textContent).toMatch(/^\/recipe\/.*\?weigh=1$/));
  });

  test('are what a batch is begun with where the lot is used up', async () => {
    const { user, wire } = await begin([{ ...LOT, remainingMg: 0 }]);
    expect(screen.getByLabelText<HTMLSelectElement>('Lot').value).toBe(nibs.id);
    await waitFor(() => expect(start().disabled).toBe(false));
    await user.click(start());
    await waitFor(() => expect(wire.sent[0]!.body).toMatchObject({ lotId: LOT.id, code: 'NKO-15' }));
  });
});

function Here() {
  const { pathname, search } = useLocation();
  return <p data-testid="here">{pathname + search}</p>;
}
