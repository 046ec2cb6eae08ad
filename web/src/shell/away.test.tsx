import { screen, waitFor } from '@testing-library/react';
import type { ReactElement } from 'react';
import { SWRConfig } from 'swr';
import BatchPage from '../batch/BatchPage.tsx';
import LotPage from '../stations/beans/LotPage.tsx';
import { show, Wire } from '../testing/page.tsx';
import { batchView, idOf, lotView, SPENT } from '../testing/views.ts';

const view = batchView();
const lot = lotView();
/** Pages of one thing, each with where it is read and something that stands on it. */
const PAGES: [string, ReactElement, string, string, object, () => unknown][] = [
  [
    'a batch',
    <BatchPage key="b" />,
    `/batch/${view.batch.id}`,
    `/api/batches/${view.batch.id}`,
    view,
    () => screen.getByRole('heading', { name: view.batch.code }),
  ],
  [
    'a lot',
    <LotPage key="l" />,
    `/beans/${lot.lot.id}`,
    `/api/lots/${lot.lot.id}`,
    lot,
    () => screen.getByRole('heading', { name: new RegExp(lot.lot.name) }),
  ],
];
const open = (page: ReactElement, at: string) =>
  show(
    <SWRConfig
      value={{ refreshInterval: 100, dedupingInterval: 0, shouldRetryOnError: true, errorRetryInterval: 100 }}
    >
      {page}
    </SWRConfig>,
    {
      at,
      route: at.startsWith('/batch') ? '/batch/:batchId' : '/beans/:lotId',
    },
  );
const rounds = (n: number) => new Promise((done) => setTimeout(done, n * 100 + 50));

describe.each(PAGES)('the page of %s', (_, page, at, path, data, stands) => {
  test('stays when the server goes away, and is read again when it is back', async () => {
    const wire = new Wire().has(path, data).has(`/api/batches/${view.batch.id}/cost`, SPENT);
    open(page, at);
    await waitFor(() => expect(stands()).toBeTruthy());
    wire.goAway();
    await rounds(4);
    expect(stands()).toBeTruthy();
    expect(screen.queryByText('Not found')).toBeNull();
    wire.goAway(false);
    await rounds(2);
    expect(stands()).toBeTruthy();
  });

  test('opened while the server is away it waits, and does not say that there is no such thing', async () => {
    const wire = new Wire().has(path, data).has(`/api/batches/${view.batch.id}/cost`, SPENT);
    wire.goAway();
    open(page, at);
    await rounds(3);
    expect(screen.queryByText('Not found')).toBeNull();
    wire.goAway(false);
    await waitFor(() => expect(stands()).toBeTruthy(), { timeout: 8000 });
  });

  test('what is not there is said not to be', async () => {
    new Wire();
    const { fetch } = globalThis;
    globalThis.fetch = (input, init) =>
      String(input).includes(idOf(99)!)
        ? Promise.resolve(
            new Response(JSON.stringify({ status: 404, code: 'not-found', detail: 'no such thing' }), {
              status: 404,
            }),
          )
        : fetch(input, init);
    open(page, at.replace(/[^/]+$/, idOf(99)!));
    expect(await screen.findByText('Not found')).toBeTruthy();
  });
});
