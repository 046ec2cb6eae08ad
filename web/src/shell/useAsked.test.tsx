import { screen, waitFor } from '@testing-library/react';
import { Link, useLocation } from 'react-router';
import { Wire, show } from '../testing/page.tsx';
import { useAsked } from './useAsked.ts';

function Page({ asked }: { asked: string[] }) {
  useAsked('order', () => asked.push('order'));
  useAsked('what-if', () => asked.push('what-if'));
  return (
    <>
      <Link to="/plan?zoom=day&do=what-if">from Find</Link>
      <output aria-label="where">{useLocation().search}</output>
    </>
  );
}

const where = () => screen.getByLabelText('where').textContent;

test('what the address asks for is done once, and the address asks no longer', async () => {
  new Wire();
  const asked: string[] = [];
  show(<Page asked={asked} />, { at: '/plan?do=order&zoom=day' });
  await waitFor(() => expect(asked).toEqual(['order']));
  expect(where()).toBe('?zoom=day');
});

test('it is asked of a page that stands already as well, and again', async () => {
  new Wire();
  const asked: string[] = [];
  const { user } = show(<Page asked={asked} />, { at: '/plan' });
  for (let n = 1; n < 3; n += 1) {
    await user.click(screen.getByText('from Find'));
    await waitFor(() => expect(asked).toHaveLength(n));
    expect(where()).toBe('?zoom=day');
  }
  expect(asked).toEqual(['what-if', 'what-if']);
});

test('whoever may only look is not asked', async () => {
  new Wire();
  const asked: string[] = [];
  show(<Page asked={asked} />, { at: '/plan?do=order', role: 'viewer' });
  await waitFor(() => expect(where()).toBe(''));
  expect(asked).toEqual([]);
});
