import { screen, waitFor } from '@testing-library/react';
import { Wire, show } from '../../testing/page.tsx';
import { batchView, step } from '../../testing/views.ts';
import { GritReading } from './GritReading.tsx';

const draw = () => {
  const grind = step('grind');
  return show(<GritReading view={batchView({ steps: [grind] })} step={grind} />);
};
const take = () => screen.getByRole<HTMLButtonElement>('button', { name: 'Take reading' });

test('a series goes by keyboard alone: number, Enter, number, Enter', async () => {
  const wire = new Wire();
  const { user } = draw();
  const field = screen.getByLabelText<HTMLInputElement>(/^Grit|^Reading/);
  await user.click(field);
  await user.keyboard('31{Enter}');
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(document.activeElement).toBe(field);
  await user.keyboard('28.5{Enter}');
  await waitFor(() => expect(wire.sent).toHaveLength(2));
  expect(wire.sent.map((s) => (s.body as { data: object }).data)).toEqual([
    { kind: 'grit', method: 'micrometer', um: 31, scratchUm: null },
    { kind: 'grit', method: 'micrometer', um: 28.5, scratchUm: null },
  ]);
});

test('the grindometer has two numbers; another method forgets the second', async () => {
  const wire = new Wire();
  const { user } = draw();
  await user.click(screen.getByRole('radio', { name: 'grindometer' }));
  const [dense, scratch] = screen.getAllByRole<HTMLInputElement>('textbox');
  await user.type(dense!, '22');
  await user.type(scratch!, '38');
  await user.click(take());
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toMatchObject({ data: { method: 'grindometer', um: 22, scratchUm: 38 } });
});

test('the tongue is one tap', async () => {
  const wire = new Wire();
  const { user } = draw();
  await user.click(screen.getByRole('radio', { name: 'tongue' }));
  await user.click(screen.getByRole('button', { name: 'gritty' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toMatchObject({ data: { kind: 'grit', method: 'tongue', tongue: 'gritty' } });
});

test('a grain of sand is not a reading of chocolate', async () => {
  new Wire();
  const { user } = draw();
  await user.type(screen.getAllByRole('textbox')[0]!, '5 mm');
  expect(take().disabled).toBe(true);
});
