import { screen } from '@testing-library/react';
import { Wire, show } from '../../testing/page.tsx';
import { batchView, idOf, observation, step } from '../../testing/views.ts';
import { PickedSample } from './PickedSample.tsx';

const field = (name: string) => screen.getByLabelText<HTMLInputElement>(name);
const draw = (options = {}) => {
  const winnow = step('winnow');
  return show(<PickedSample view={batchView({ steps: [winnow] })} step={winnow} />, options);
};

test('the verdict stands there while it is typed, before anything is kept', async () => {
  const wire = new Wire();
  const { user } = draw();
  await user.type(field('Sample'), '200');
  await user.type(field('Husk found'), '2');
  expect(screen.getByRole('status').textContent).toMatch(/1\.00.% husk/);
  expect(screen.getByText(/within 1\.75.%/)).toBeTruthy();
  expect(wire.sent).toEqual([]);
});

test('more found than there was in the sample is refused where it was typed', async () => {
  new Wire();
  const { user } = draw();
  await user.type(field('Sample'), '5');
  await user.type(field('Husk found'), '7');
  expect(field('Husk found').getAttribute('aria-invalid')).toBe('true');
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Keep the sample' }).disabled).toBe(true);
});

test('a handful of few pieces is told apart from a verdict, with the sample that would settle it', async () => {
  new Wire();
  const { user } = draw();
  await user.type(field('Sample'), '8');
  await user.type(field('Husk found'), '0.12');
  await user.type(field('Pieces, if counted'), '12');
  expect(screen.getByText(/A sample of .* in all should settle it/)).toBeTruthy();
});

test('it is sent in milligrams, and the next may be typed while it travels', async () => {
  const wire = new Wire();
  wire.hold();
  const { user } = draw();
  await user.type(field('Sample'), '200 g');
  await user.type(field('Husk found'), '1,500 mg'.replace(' mg', ''));
  await user.clear(field('Husk found'));
  await user.type(field('Husk found'), '1.5');
  await user.type(field('Pieces, if counted'), '40');
  await user.click(screen.getByRole('button', { name: 'Keep the sample' }));
  expect(field('Sample').value).toBe('');
  await user.type(field('Sample'), '8');
  wire.release();
  await screen.findByText(/Husk.*0\.75|0\.75.*husk/i);
  expect(wire.sent[0]!.body).toMatchObject({
    batchId: idOf(10),
    stepId: idOf(20),
    data: { kind: 'picked', of: 'husk', foundMg: 1500, sampleMg: 200_000, pieces: 40 },
  });
  expect(field('Sample').value).toBe('8');
});

test('earlier samples stay readable with their verdicts, in German too', () => {
  new Wire();
  const winnow = step('winnow');
  const view = batchView({
    steps: [winnow],
    observations: [
      observation(1, { kind: 'picked', of: 'husk', foundMg: 9000, sampleMg: 200_000, pieces: null }),
    ],
  });
  show(<PickedSample view={view} step={winnow} />, { language: 'de' });
  expect(screen.getByRole('status').textContent).toMatch(/4,50.%/);
});
