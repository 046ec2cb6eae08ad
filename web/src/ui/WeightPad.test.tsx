import { cleanup, screen, waitFor } from '@testing-library/react';
import { ApiProblem } from '../shell/api.ts';
import { show, type PageOptions } from '../testing/page.tsx';
import { WeightPad, type WeightPadProps } from './WeightPad.tsx';

function open(more: Partial<WeightPadProps> = {}, options: PageOptions = {}) {
  const taken: number[] = [];
  let closed = 0;
  const page = show(
    <WeightPad
      title="Nibs"
      action="Weigh nibs"
      onWeight={(mg) => {
        taken.push(mg);
        return Promise.resolve();
      }}
      onClose={() => (closed += 1)}
      {...more}
    />,
    options,
  );
  return { ...page, taken, closed: () => closed };
}
const key = (name: string) => screen.getByRole('button', { name });
const field = () => screen.getByLabelText<HTMLInputElement>('Weight');

test('sticky fingers type on the large keys', async () => {
  const { user, taken, closed } = open();
  for (const k of ['6', '8', '1', '1']) await user.click(key(k));
  await user.click(key('Delete the last digit'));
  await user.click(key('0'));
  expect(field().value).toBe('6810');
  expect(screen.getByText(/= 6\.81.kg/)).toBeTruthy();
  await user.click(key('Weigh nibs'));
  expect(taken).toEqual([6_810_000]);
  await waitFor(() => expect(closed()).toBe(1));
});

test('what is suggested is taken to the milligram, however it is rounded for the eye', async () => {
  const { user, taken } = open(
    { initial: 1_000_000, max: 1_000_000 },
    { workshop: { massSystem: 'pounds' } },
  );
  expect(field().value).toBe('2.205');
  await user.click(key('Weigh nibs'));
  expect(taken).toEqual([1_000_000]);
});

test('the unit keys change what the number means', async () => {
  const { user, taken } = open();
  await user.type(field(), '2.5');
  await user.click(key('kg'));
  await user.keyboard('{Enter}');
  await user.click(key('Weigh nibs'));
  expect(taken[0]).toBe(2_500_000);
});

test('a German pad has a comma, an American one pounds', async () => {
  const german = open({}, { language: 'de' });
  await german.user.click(key('1'));
  await german.user.click(key(','));
  await german.user.click(key('5'));
  await german.user.click(key('kg'));
  await german.user.click(key('Weigh nibs'));
  expect(german.taken).toEqual([1_500_000]);
  german.unmount();
  const pounds = open({}, { workshop: { massSystem: 'pounds' } });
  await pounds.user.type(field(), '2');
  await pounds.user.click(key('Weigh nibs'));
  expect(pounds.taken).toEqual([907_185]);
});

test('more than can be there is said with its bounds, and not sent', async () => {
  const { user, taken } = open({ max: 12_000_000 });
  await user.type(field(), '68110');
  expect(screen.getByRole('status').textContent).toMatch(/68110 is outside .* to 12\.00.kg/);
  expect(key('Weigh nibs')).toHaveProperty('disabled', true);
  await user.keyboard('{Enter}');
  expect(taken).toEqual([]);
});

test('all there is, with one tap', async () => {
  const { user, taken } = open({ all: 9_380_001 });
  await user.click(screen.getByRole('button', { name: /^All of it/ }));
  await user.click(key('Weigh nibs'));
  expect(taken).toEqual([9_380_001]);
});

describe('a number that is hardly anything of all there is', () => {
  const bulk = { bulk: 27_900_000, max: 28_458_000 };

  test('is asked about, and becomes kilograms with one tap', async () => {
    const { user, taken } = open(bulk);
    await user.type(field(), '27.31');
    expect(screen.getByText(/hardly anything of 27\.90.kg/)).toBeTruthy();
    await user.click(screen.getByRole('button', { name: /^Did you mean 27\.31.kg\?$/ }));
    expect(screen.queryByText(/hardly anything/)).toBeNull();
    await user.click(key('Weigh nibs'));
    expect(taken).toEqual([27_310_000]);
  });

  test('is taken where it is meant; with its own unit nobody asks', async () => {
    const { user, taken } = open(bulk);
    await user.type(field(), '20');
    await user.click(screen.getByRole('button', { name: /^Yes, 20.g$/ }));
    expect(taken).toEqual([20_000]);
    cleanup();
    const again = open(bulk);
    await again.user.type(field(), '20 g');
    expect(screen.queryByText(/hardly anything/)).toBeNull();
    expect(screen.queryByRole('button', { name: /^Did you mean/ })).toBeNull();
  });

  test('is a matter of course among losses, and where kilograms would be more than there is', async () => {
    const { user } = open({ max: 27_900_000 });
    await user.type(field(), '20');
    expect(screen.queryByText(/hardly anything/)).toBeNull();
    cleanup();
    const again = open(bulk);
    await again.user.type(field(), '310');
    expect(screen.queryByText(/hardly anything/)).toBeNull();
  });
});

test.each([
  // 280 g, read off a scale that says 9.9 oz, typed in pounds; and the other way about.
  ['pounds', 281_000, '0.62', /^Did you mean 0\.62.lb\?$/, 281_227],
  ['pounds', 1_000_000, '35.3', /^Did you mean 35\.3.oz\?$/, 1_000_738],
  ['metric', 1_400_000, '1.38', /^Did you mean 1\.38.kg\?$/, 1_380_000],
] as const)(
  'in %s, %d mg expected: %s is asked about, since it would be that in another unit',
  async (massSystem, initial, typed, button, mg) => {
    const { user, taken } = open({ initial, max: 200_000_000 }, { workshop: { massSystem } });
    // The unit that is not what the number was read in.
    await user.click(key(massSystem === 'metric' ? 'g' : typed === '0.62' ? 'oz' : 'lb'));
    await user.clear(field());
    await user.type(field(), typed);
    expect(screen.getByText(/were to be expected\. Is the unit right\?/)).toBeTruthy();
    await user.click(screen.getByRole('button', { name: button }));
    expect(screen.queryByText(/were to be expected/)).toBeNull();
    await user.click(key('Weigh nibs'));
    expect(taken).toEqual([mg]);
  },
);

test('a part of what was expected, that is it in no unit, is taken without a word', async () => {
  const { user, taken } = open({ initial: 281_000 }, { workshop: { massSystem: 'pounds' } });
  await user.clear(field());
  await user.type(field(), '5');
  expect(screen.queryByText(/were to be expected/)).toBeNull();
  await user.click(key('Weigh nibs'));
  expect(taken).toEqual([141_748]);
  cleanup();
  // Twice as much is not pounds for kilograms.
  const more = open({ initial: 660_000 });
  await more.user.clear(field());
  await more.user.click(key('kg'));
  await more.user.type(field(), '1.5');
  expect(screen.queryByText(/were to be expected/)).toBeNull();
});

test('what the server refuses stays on the pad with the reason, to be mended', async () => {
  const problem = { type: '', title: '', status: 409, code: 'x', detail: 'only 3 kg are there' };
  const { user, closed } = open({ onWeight: () => Promise.reject(new ApiProblem(problem)) });
  await user.type(field(), '5000');
  await user.click(key('Weigh nibs'));
  await screen.findByText('only 3 kg are there');
  expect(field().value).toBe('5000');
  expect(closed()).toBe(0);
  await user.type(field(), '{Backspace}');
  expect(screen.queryByText('only 3 kg are there')).toBeNull();
});

test('an impatient double tap is one weight', async () => {
  let go = () => {};
  const taken: number[] = [];
  const { user } = open({
    onWeight: (mg) => {
      taken.push(mg);
      return new Promise<void>((resolve) => (go = resolve));
    },
  });
  await user.type(field(), '100{Enter}{Enter}');
  await user.click(key('Weigh nibs'));
  go();
  expect(taken).toEqual([100_000]);
});

test('a weight that is hard to believe is asked about while it stands there, and taken where it is meant', async () => {
  const { user, taken } = open({ doubt: (mg) => (mg < 5_000_000 ? 'Nearly all would be gone.' : null) });
  await user.type(field(), '1430');
  expect(screen.getByText(/Nearly all would be gone/)).toBeTruthy();
  expect(screen.queryByRole('button', { name: 'Weigh nibs' })).toBeNull();
  // The nought that was missing.
  await user.type(field(), '0');
  expect(screen.queryByText(/Nearly all/)).toBeNull();
  expect(key('Weigh nibs')).toBeTruthy();
  await user.clear(field());
  await user.type(field(), '1430');
  await user.click(screen.getByRole('button', { name: /^Yes, 1\.43.kg$/ }));
  expect(taken).toEqual([1_430_000]);
});
