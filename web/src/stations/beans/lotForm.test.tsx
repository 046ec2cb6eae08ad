import { screen, waitFor } from '@testing-library/react';
import type { LotSent } from '@wunsch/contract';
import type { z } from 'zod';
import { show, Wire, type PageOptions } from '../../testing/page.tsx';
import { LotForm } from './LotForm.tsx';

const open = (options?: PageOptions) => {
  const wire = new Wire();
  const received: string[] = [];
  const { user } = show(
    <LotForm onClose={() => undefined} onReceived={(id) => received.push(id)} />,
    options,
  );
  return { wire, user, received, said: () => wire.sent.at(-1)!.body as z.output<typeof LotSent> };
};
const receive = () => screen.getByRole('button', { name: 'Weigh it in' });

test('name and weight are enough; the code comes from the name', async () => {
  const { wire, user, received, said } = open();
  await user.type(screen.getByLabelText('Name of the lot'), 'Nkondo Growers');
  await user.type(screen.getByLabelText('Weight on arrival'), '60');
  await user.click(receive());
  await waitFor(() => expect(received).toHaveLength(1));
  expect(said()).toMatchObject({
    name: 'Nkondo Growers',
    code: 'NK',
    material: 'dry beans',
    massMg: 60_000_000,
    pricePerKg: 0,
    onHold: false,
    sheet: null,
  });
  expect(wire.sent[0]!.path).toBe(`/api/lots/${received[0]}`);
});

test('what is needed is named, and a price nobody can read keeps the lot back', async () => {
  const { wire, user, received } = open();
  await user.click(receive());
  expect(screen.getAllByText('This is needed, and must make sense.').length).toBeGreaterThan(0);
  expect(document.activeElement).toBe(screen.getByLabelText('Weight on arrival'));
  await user.type(screen.getByLabelText('Name of the lot'), 'Nkondo');
  await user.type(screen.getByLabelText('Weight on arrival'), '60');
  const price = screen.getByLabelText('Price per kg');
  await user.type(price, '9..50');
  await user.click(receive());
  expect(wire.sent).toHaveLength(0);
  expect(document.activeElement).toBe(price);
  await user.clear(price);
  await user.type(price, '9.50');
  await user.click(receive());
  await waitFor(() => expect(received).toHaveLength(1));
  expect((wire.sent[0]!.body as { pricePerKg: number }).pricePerKg).toBe(950);
});

test('beans that cost nothing are told from those whose price nobody knows, and a price takes it back', async () => {
  const { user, received, said } = open();
  await user.type(screen.getByLabelText('Name of the lot'), 'Own beans');
  await user.type(screen.getByLabelText('Weight on arrival'), '20');
  const free = () => screen.queryByLabelText('It cost nothing: a customer’s own, or a gift');
  await user.click(free()!);
  await user.type(screen.getByLabelText('Price per kg'), '9');
  expect(free()).toBeNull();
  await user.clear(screen.getByLabelText('Price per kg'));
  expect((free() as HTMLInputElement).checked).toBe(true);
  await user.click(receive());
  await waitFor(() => expect(received).toHaveLength(1));
  expect(said()).toMatchObject({ pricePerKg: 0, isFree: true });
});

test('what was typed of beans is not kept under a couverture, which has a sheet instead', async () => {
  const { user, received, said } = open();
  await user.type(screen.getByLabelText('Name of the lot'), 'Dark 62');
  await user.type(screen.getByLabelText('Weight on arrival'), '5');
  await user.type(screen.getByLabelText('Variety'), 'Criollo');
  await user.type(screen.getByLabelText('Moisture'), '6.9');
  await user.selectOptions(screen.getByLabelText('What is it'), 'couverture');
  expect(screen.queryByLabelText('Variety')).toBeNull();
  await user.click(receive());
  await waitFor(() => expect(received).toHaveLength(1));
  expect(said()).toMatchObject({ material: 'couverture', variety: '', moisture: null, harvest: '' });
  expect(said().sheet).not.toBeNull();
});

test('a workshop that weighs in pounds types pounds', async () => {
  const { user, received, said } = open({ workshop: { massSystem: 'pounds' } });
  await user.type(screen.getByLabelText('Name of the lot'), 'Nkondo');
  await user.type(screen.getByLabelText('Weight on arrival'), '132');
  const price = screen.getByLabelText<HTMLInputElement>('Price per lb');
  await user.type(price, '4.10{Tab}');
  expect(price.value).toBe('4.10');
  await user.click(receive());
  await waitFor(() => expect(received).toHaveLength(1));
  expect(said().massMg / 453_592.37).toBeCloseTo(132, 4);
  // A kilogram costs what 2.2046 pounds do.
  expect(said().pricePerKg).toBe(904);
});

test('a refusal is said in words, and what was typed stands', async () => {
  const { wire, user, received } = open();
  wire.refuse({ status: 409, code: 'code-taken', detail: 'another lot is called NK already' });
  await user.type(screen.getByLabelText('Name of the lot'), 'Nkondo');
  await user.type(screen.getByLabelText('Weight on arrival'), '60');
  await user.click(receive());
  expect((await screen.findByRole('alert')).textContent).toBe('This code is taken; choose another.');
  expect(screen.getByLabelText('Name of the lot')).toHaveProperty('value', 'Nkondo');
  expect(received).toEqual([]);
});

test('of fresh beans two thirds are water; pods have no moisture, and nothing is wanted of what is roasted', async () => {
  const { user, received, said } = open();
  const moisture = () => screen.queryByLabelText('Moisture');
  const choose = (material: string) => user.selectOptions(screen.getByLabelText('What is it'), material);
  expect(screen.getByText('6.5–8 % is wanted')).toBeTruthy();
  await choose('Nibs');
  expect(moisture()).not.toBeNull();
  expect(screen.queryByText(/% is wanted/)).toBeNull();
  await choose('Pods');
  expect(moisture()).toBeNull();
  await choose('Wet beans');
  expect(screen.getByText('60–67 % is usual with the pulp on')).toBeTruthy();
  await user.type(screen.getByLabelText('Name of the lot'), 'Home plot');
  await user.type(screen.getByLabelText('Weight on arrival'), '200');
  await user.type(moisture()!, '64');
  await user.click(receive());
  await waitFor(() => expect(received).toHaveLength(1));
  expect(said()).toMatchObject({ material: 'wet beans', moisture: 64 });
});
