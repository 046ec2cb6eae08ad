import { screen, waitFor, within } from '@testing-library/react';
import type { BatchPages } from '@wunsch/contract';
import { show, Wire, type PageOptions } from '../testing/page.tsx';
import { batchView, idOf } from '../testing/views.ts';
import { PublishPanel } from './PublishPanel.tsx';

const view = { ...batchView(), recipe: { id: idOf(30), name: 'Dark 70' } as never };
const nothing: BatchPages = { batch: null, recipe: null, addresses: [] };

function open(pages: BatchPages, options?: PageOptions) {
  const wire = new Wire().has(`/api/pages/of-batch/${view.batch.id}`, pages);
  return { ...show(<PublishPanel view={view} />, options), wire };
}

test('nobody outside sees anything until the owner says what; the growers’ names are asked about', async () => {
  const { user, wire } = open(nothing, { role: 'owner' });
  expect(await screen.findByText('Off: nobody outside sees anything of this batch.')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Switch on …' }));
  const form = within(await screen.findByRole('dialog'));
  expect(form.getByRole<HTMLInputElement>('checkbox', { name: 'the growers’ names' }).checked).toBe(false);
  expect(form.getByRole<HTMLInputElement>('checkbox', { name: /those who made it/ }).checked).toBe(false);
  expect(form.queryByText('Ask growers before you name them.')).toBeNull();
  await user.click(form.getByRole('checkbox', { name: 'the growers’ names' }));
  expect(form.getByText('Ask growers before you name them.')).toBeTruthy();
  await user.click(form.getByRole('checkbox', { name: /on a map/ }));
  await user.click(form.getByRole('radio', { name: 'this batch' }));
  await user.click(form.getByRole('button', { name: 'Save' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]).toMatchObject({
    path: `/api/pages/${view.batch.id}`,
    body: { of: 'batch', isOn: true, shows: ['origin', 'ribbon', 'days', 'making', 'growers'], words: '' },
  });
});

test('what is on can be switched off; a maker sees that it is on and cannot change it', async () => {
  const page = { isOn: true, shows: ['origin'], words: 'Made by the sea' } as never;
  const on: BatchPages = { batch: page, recipe: null, addresses: ['https://saltmarsh.example/bar/NKO-14-A'] };
  const { user, wire, unmount } = open(on, { role: 'owner' });
  expect(await screen.findByRole('link', { name: /bar\/NKO-14-A/ })).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Change …' }));
  const form = within(await screen.findByRole('dialog'));
  await user.click(form.getByRole('radio', { name: 'Off' }));
  expect(form.queryByRole('checkbox')).toBeNull();
  await user.click(form.getByRole('button', { name: 'Save' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toMatchObject({ isOn: false, shows: ['origin'], words: 'Made by the sea' });
  unmount();
  open(on, { role: 'maker' });
  expect(await screen.findByText('On: whoever scans a bar sees what you have chosen.')).toBeTruthy();
  expect(screen.queryByRole('button')).toBeNull();
});
