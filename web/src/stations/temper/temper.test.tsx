import { screen, waitFor } from '@testing-library/react';
import { guardWindow } from '@wunsch/core/temper';
import { Wire, show } from '../../testing/page.tsx';
import { batchView, step } from '../../testing/views.ts';
import { TEMPER_PATHS } from '@wunsch/core/temper';
import { SeedPanel } from './SeedPanel.tsx';
import { SetTest } from './SetTest.tsx';
import { WindowRuler } from './WindowRuler.tsx';

const plain = (text: string | null) => (text ?? '').replace(/[\u00a0\u202f]/g, ' ');
const answer = () => plain(screen.getByTestId('seed-mass').textContent);

test('the seed is worked out as it is typed: 3150 g from 41.5 to 31.8 °C with seed at 20 °C and 36 % fat take 898 g', async () => {
  const { user } = show(
    <SeedPanel bowlC={null} massMg={3_150_000} path={TEMPER_PATHS.dark} fatShare={0.36} />,
  );
  const type = async (name: string, text: string) => {
    await user.clear(screen.getByLabelText(name));
    await user.type(screen.getByLabelText(name), text);
  };
  await type('Bring to', '31.8');
  expect(answer()).toBe('898 g');
  await type('Seed at', '35');
  expect(answer()).toBe('the seed must be cooler than the target');
  await type('Bring to', '45');
  expect(answer()).toBe('the bowl is not warmer than the target');
  await type('Bring to', 'warm');
  expect(answer()).toBe('—');
});

test('a bowl in °F gives the same seed', async () => {
  const { user } = show(
    <SeedPanel bowlC={null} massMg={3_150_000} path={TEMPER_PATHS.dark} fatShare={0.36} />,
    {
      workshop: { temperatureUnit: '°F' },
    },
  );
  await user.clear(screen.getByLabelText('Bring to'));
  await user.type(screen.getByLabelText('Bring to'), '89.24');
  await user.clear(screen.getByLabelText('Seed at'));
  await user.type(screen.getByLabelText('Seed at'), '68');
  await user.clear(screen.getByLabelText('Bowl at'));
  await user.type(screen.getByLabelText('Bowl at'), '106.7');
  expect(answer()).toBe('898 g');
});

test.each([
  [34.1, /too warm/, /Start again from the cool step/],
  [29.4, /too cool/, /Warm by 2 °C/],
  [31.4, /inside/, /Keep it here/],
])('at %s °C the ruler says where the bowl stands and what to do', (celsius, state, act) => {
  const readings = [45, 36, 28, 27.5, 30.8, 31.2, celsius].map((c, i) => ({ seconds: i * 300, celsius: c }));
  const guard = guardWindow(readings, 'dark')!;
  show(<WindowRuler guard={guard} />);
  const text = plain(document.body.textContent);
  expect(text).toMatch(state);
  expect(text).toMatch(act);
  expect(screen.getByRole('img').getAttribute('aria-label')).toMatch(/window .* to /);
});

test('a set test is kept in minutes, and the next may be typed at once', async () => {
  const wire = new Wire();
  const temper = step('temper');
  const { user } = show(<SetTest view={batchView({ steps: [temper] })} step={temper} />);
  const field = screen.getAllByRole<HTMLInputElement>('textbox')[0]!;
  await user.type(field, '4:30');
  await user.click(screen.getByRole('radio', { name: 'patchy' }));
  await user.click(screen.getByRole('button', { name: /log|keep|note/i }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toMatchObject({
    data: { kind: 'setTest', minutes: 4.5, gloss: 'patchy', streaks: false },
  });
  expect(field.value).toBe('');
});
