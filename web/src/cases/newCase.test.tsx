import { screen, waitFor } from '@testing-library/react';
import type { FaultView } from '@wunsch/contract';
import { show, Wire, type PageOptions } from '../testing/page.tsx';
import { batchView, idOf } from '../testing/views.ts';
import NewCase, { faultPath } from './NewCase.tsx';

const nothing: FaultView = { findings: [], ranked: [], questions: [], settledBy: null, learnedFrom: 0 };

function open(at = '/case/new', options: PageOptions = {}) {
  localStorage.clear();
  const wire = new Wire()
    .has('/api/find?q=NKO-14-261102', [
      { kind: 'bars', title: 'NKO-14-261102', text: '', path: `/batch/${idOf(10)}` },
    ])
    .has(`/api/batches/${idOf(10)}`, batchView());
  for (const code of ['', 'NKO-14-261102', 'XX'])
    for (const signs of [[], ['streaks'], ['streaks', 'soft']] as const)
      for (const batch of [null, idOf(10)]) wire.has(faultPath(batch, signs, {}, code), nothing);
  const { user } = show(<NewCase />, { at, ...options });
  const keep = () => screen.getByRole<HTMLButtonElement>('button', { name: 'Keep as a case' });
  const sign = (name: RegExp) => user.click(screen.getByRole('button', { name }));
  const scan = async (code: string) => {
    await user.click(screen.getByLabelText('Code on the bar'));
    await user.paste(code);
  };
  return { wire, user, keep, sign, scan };
}

test('nothing is kept before something is seen or said', async () => {
  const { user, keep, sign } = open();
  expect(keep().disabled).toBe(true);
  await sign(/^Grey streaks/);
  expect(keep().disabled).toBe(false);
  await sign(/^Grey streaks/);
  expect(keep().disabled).toBe(true);
  await user.type(screen.getByLabelText('In their own words'), 'dull');
  expect(keep().disabled).toBe(false);
});

test('a code finds its batch; the case is one entry with what is seen, told and kept how', async () => {
  const { wire, user, keep, sign, scan } = open();
  await scan('NKO-14-261102');
  expect(await screen.findByText('Of batch NKO-14.')).toBeTruthy();
  await sign(/^Grey streaks/);
  await sign(/^Soft/);
  await user.click(screen.getByRole('radio', { name: 'a customer' }));
  await user.type(screen.getByLabelText('Name'), 'Ina W.');
  await user.type(screen.getByLabelText('How it was kept'), 'in the cupboard');
  await user.dblClick(keep());
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]).toMatchObject({
    path: expect.stringMatching(/^\/api\/cases\//),
    body: {
      code: 'NKO-14-261102',
      batchId: idOf(10),
      signs: ['streaks', 'soft'],
      from: 'customer',
      name: 'Ina W.',
      kept: 'in the cupboard',
    },
  });
});

test('a code nobody knows is said to be one, and is kept all the same', async () => {
  const { wire, user, keep, sign, scan } = open();
  await scan('XX');
  expect(await screen.findByText(/^No bar of this code is known/)).toBeTruthy();
  await sign(/^Grey streaks/);
  await user.click(keep());
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toMatchObject({ code: 'XX', batchId: null });
});

test('what a tasting card found is said already; a batch that is given is not asked for', async () => {
  const { keep } = open(`/case/new?batch=${idOf(10)}&signs=streaks,green`);
  expect(await screen.findByRole('heading', { name: /NKO-14/ })).toBeTruthy();
  expect(screen.queryByLabelText('Code on the bar')).toBeNull();
  expect(screen.getByRole('button', { name: /^Grey streaks/ }).getAttribute('aria-pressed')).toBe('true');
  expect(keep().disabled).toBe(false);
});

test('who only looks may ask what it comes from, and keeps no case', async () => {
  const { sign } = open('/case/new', { role: 'viewer' });
  await sign(/^Grey streaks/);
  expect(screen.getByRole('button', { name: /^Grey streaks/ }).getAttribute('aria-pressed')).toBe('true');
  expect(screen.queryByRole('button', { name: 'Keep as a case' })).toBeNull();
});
