import { screen, waitFor } from '@testing-library/react';
import { v7 } from 'uuid';
import { ParcelRecord, Trial } from '@wunsch/contract';
import { Wire, show, type PageOptions } from '../../testing/page.tsx';
import TrialsPage from './TrialsPage.tsx';

const part = (code: string, more: object = {}) => ({
  code,
  label: null,
  recipeId: null,
  batchId: null,
  parcelId: null,
  massMg: null,
  scores: [],
  ...more,
});

const trial = (more: object = {}) =>
  Trial.parse({
    id: v7(),
    name: 'Sugar',
    factor: 'early or late',
    createdAt: '2026-11-02T08:00:00.000Z',
    openedAt: null,
    openedBy: null,
    tasters: ['JB'],
    pourers: [],
    iPour: false,
    mine: [],
    parts: [part('205'), part('871')],
    kept: null,
    ...more,
  });

const draw = (given: Trial, options: PageOptions = {}) => {
  const wire = new Wire().has('/api/trials', [given]);
  return { wire, ...show(<TrialsPage />, options) };
};

test('a blind trial is scored by its codes, all in one entry', async () => {
  const given = trial();
  const { wire, user } = draw(given);
  const keep = await screen.findByRole<HTMLButtonElement>('button', { name: 'Keep the scores' });
  expect(keep.disabled).toBe(true);
  await user.type(screen.getByLabelText('Liking of 205'), '7.5');
  await user.type(screen.getByLabelText('Liking of 871'), '4');
  await user.click(keep);
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.path).toMatch(/^\/api\/trial-scores\//);
  expect(wire.sent[0]!.body).toEqual({
    trialId: given.id,
    marks: [
      { code: '205', score: 7.5 },
      { code: '871', score: 4 },
    ],
  });
});

test('what one has said stands there, and is not asked again; a viewer is asked nothing', async () => {
  draw(trial({ mine: [{ code: '205', score: 7.5, note: '' }] }), { role: 'taster' });
  expect(await screen.findByText('you said 7.5')).toBeTruthy();
  expect(screen.queryByLabelText('Liking of 205')).toBeNull();
  expect(screen.getByLabelText('Liking of 871')).toBeTruthy();
  // A taster neither pours nor opens.
  expect(screen.queryByRole('button', { name: 'Open the codes' })).toBeNull();
  expect(screen.queryByRole('button', { name: 'I pour: show the key' })).toBeNull();
});

test('whoever pours asks for the key, is told what it costs, and then has no fields', async () => {
  const given = trial();
  const { wire, user } = draw(given);
  await user.click(await screen.findByRole('button', { name: 'I pour: show the key' }));
  expect(screen.getByText(/cannot taste blind/)).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Show it, I do not taste' }));
  await waitFor(() => expect(wire.sent.map((s) => s.path.split('/')[2])).toEqual(['trial-keys']));
});

test('with the key seen, the codes are shown and nothing can be scored', async () => {
  draw(trial({ iPour: true, pourers: ['AK'] }));
  expect(await screen.findByText('205')).toBeTruthy();
  expect(screen.queryByLabelText('Liking of 205')).toBeNull();
  expect(screen.queryByRole('button', { name: 'Keep the scores' })).toBeNull();
});

test('an opened trial tells what each was; keeping one is one entry', async () => {
  const scores = (values: number[]) => values.map((score, i) => ({ by: 'ABC'[i]!, score, note: '' }));
  const given = trial({
    openedAt: '2026-11-03T08:00:00.000Z',
    openedBy: 'AK',
    parts: [
      part('205', { label: 'early', scores: scores([5, 5.5, 5]) }),
      part('871', { label: 'late', scores: scores([8, 8, 8.5]) }),
    ],
  });
  const { wire, user } = draw(given);
  expect(await screen.findByText(/871, late is liked best, clear of the next/)).toBeTruthy();
  await user.click(screen.getAllByRole('button', { name: 'Keep this one' })[1]!);
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toMatchObject({ trialId: given.id, code: '871' });
});

test('parts weighed out of a parcel need masses that are there', async () => {
  const nibs = ParcelRecord.parse({
    id: v7(),
    material: 'nibs',
    label: '',
    lotId: null,
    batchId: v7(),
    stepId: v7(),
    initialMg: 1,
    remainingMg: 5_000_000,
    count: null,
    place: '',
    madeAt: '2026-11-02T08:00:00.000Z',
    batchCode: 'NK-01',
    lotCode: 'NK',
    onHold: false,
  });
  const { wire, user } = draw(trial());
  wire.has('/api/stock?of=work', [nibs]);
  await user.click(await screen.findByRole('button', { name: 'Begin a trial' }));
  await user.type(screen.getByLabelText('Trial'), 'Grit');
  await user.selectOptions(await screen.findByLabelText('Weighed out of'), nibs.id);
  for (const [n, [label, mass]] of [
    ['fine', '2 kg'],
    ['coarse', '4 kg'],
  ].entries()) {
    await user.type(screen.getByLabelText(`Part ${n + 1}`), label!);
    await user.type(screen.getByLabelText(`Weight of part ${n + 1}`), mass!);
  }
  expect(screen.getByRole('alert').textContent).toMatch(/^Only 5\.00.kg are there/);
  const begin = screen.getAllByRole<HTMLButtonElement>('button', { name: 'Begin a trial' }).at(-1)!;
  expect(begin.disabled).toBe(true);
  await user.clear(screen.getByLabelText('Weight of part 2'));
  await user.type(screen.getByLabelText('Weight of part 2'), '2.5 kg');
  await user.click(begin);
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toMatchObject({
    parcelId: nibs.id,
    parts: [
      { label: 'fine', massMg: 2_000_000 },
      { label: 'coarse', massMg: 2_500_000 },
    ],
  });
});
