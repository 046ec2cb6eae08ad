import { screen, waitFor, within } from '@testing-library/react';
import { Wire, show } from '../../testing/page.tsx';
import { LOT, lotView } from '../../testing/views.ts';
import { CutTestPanel } from './CutTest.tsx';

beforeEach(() => localStorage.clear());
const open = async (user: ReturnType<typeof show>['user']) =>
  user.click(screen.getByRole('button', { name: /cut test/i }));
const counted = () => screen.getByRole('dialog').querySelector('[role=status]')!.textContent;

test('one key a bean, one key to take it back, shares with their exact intervals', async () => {
  const wire = new Wire();
  const { user } = show(<CutTestPanel view={lotView()} mayMake />);
  await open(user);
  await user.keyboard('bbbbbbbbbm');
  expect(counted()).toMatch(/^10/);
  const mouldy = within(screen.getByRole('dialog')).getByRole('button', { name: /Mouldy/ });
  // 1 of 10: 10 % [0.25, 44.50] (Clopper and Pearson).
  expect(mouldy.textContent).toMatch(/10\.0.%.*\[0\.25–44\.50\]/);
  await user.keyboard('z');
  expect(counted()).toMatch(/^9/);
  expect(mouldy.textContent).toMatch(/0\.0.%/);
  await user.click(screen.getByRole('button', { name: /^Keep/ }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toMatchObject({
    lotId: LOT.id,
    data: { kind: 'cutTest', counts: { brown: 9, mouldy: 0 } },
  });
});

test('a cut test that is interrupted goes on where it was', async () => {
  new Wire();
  const first = show(<CutTestPanel view={lotView()} mayMake />);
  await open(first.user);
  await first.user.keyboard('bbbs');
  first.unmount();
  const { user } = show(<CutTestPanel view={lotView()} mayMake />);
  await open(user);
  expect(counted()).toMatch(/^4/);
  await user.keyboard('z');
  expect(counted()).toMatch(/^3/);
});

test('no more than 300 beans are counted', async () => {
  new Wire();
  const { user } = show(<CutTestPanel view={lotView()} mayMake />);
  await open(user);
  await user.keyboard('{b>305/}');
  expect(counted()).toMatch(/^300/);
});

test('weighed beans give the count of 100 g and its spread; nonsense is not kept', async () => {
  const wire = new Wire();
  const { user } = show(<CutTestPanel view={lotView()} mayMake />);
  const field = screen.getByRole<HTMLInputElement>('textbox');
  const keep = screen.getByRole<HTMLButtonElement>('button', { name: /^Keep/ });
  await user.type(field, '1.1 0.9 heavy');
  expect(keep.disabled).toBe(true);
  await user.clear(field);
  await user.type(field, '1.1 0,9 1.0');
  expect(keep.disabled).toBe(false);
  await user.click(keep);
  await waitFor(() => expect(wire.sent.length).toBeGreaterThanOrEqual(1));
  expect(wire.sent[0]!.body).toMatchObject({ data: { kind: 'beanCount', grams: [1.1, 0.9, 1] } });
  await waitFor(() => expect(wire.sent[1]?.body).toMatchObject({ beansPer100g: 100 }));
});

test('whoever may only look is not offered to count', () => {
  new Wire();
  show(<CutTestPanel view={lotView()} mayMake={false} />);
  expect(screen.queryByRole('button', { name: /cut test/i })).toBeNull();
});
