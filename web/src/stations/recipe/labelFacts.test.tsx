import { screen } from '@testing-library/react';
import type { RecipeLine } from '@wunsch/core/recipe';
import { show, Wire } from '../../testing/page.tsx';
import { SHELF } from '../../testing/views.ts';
import { LabelFacts } from './LabelFacts.tsx';

const line = (key: string, massMg: number): RecipeLine => ({
  ingredient: SHELF.find((i) => i.key === key)!,
  massMg,
});

test('what the label will say of a sweetener stands with the recipe already, by the market chosen', async () => {
  new Wire();
  const { user, container } = show(
    <LabelFacts lines={[line('nibs', 650), line('erythritol', 350)]} barMg={60_000} />,
  );
  await user.click(screen.getByRole('radio', { name: 'EU' }));
  expect(container.textContent).toContain('cocoa nibs, sweetener: erythritol. Excessive consumption may');
  expect(container.textContent).toContain('May be sold as chocolate, with sweetener');
  expect(screen.getByRole('cell', { name: 'of which polyols' })).toBeTruthy();
  await user.click(screen.getByRole('radio', { name: 'US' }));
  expect(container.textContent).toContain('cocoa nibs, erythritol.');
  expect(container.textContent).not.toMatch(/sweetener|laxative/);
});
