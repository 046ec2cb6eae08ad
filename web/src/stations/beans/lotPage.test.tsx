import { screen, waitFor, within } from '@testing-library/react';
import { expectedYield, STATIONS } from '@wunsch/core/ledger';
import { show, Wire, type PageOptions } from '../../testing/page.tsx';
import { idOf, LOT, lotView } from '../../testing/views.ts';
import LotPage from './LotPage.tsx';

const DAY = 86_400_000;
const ago = (days: number) => new Date(Date.now() - days * DAY).toISOString();

async function open(view = lotView(), options: PageOptions = {}) {
  const wire = new Wire().has(`/api/lots/${LOT.id}`, view).has('/api/skills', { signed: [], practised: [] });
  const page = show(<LotPage />, { route: '/beans/:lotId', at: `/beans/${LOT.id}`, ...options });
  await screen.findByRole('heading', { level: 1 });
  return { ...page, wire };
}
const plain = (element: Element | null | undefined) => (element?.textContent ?? '').replace(/\u00a0/g, ' ');
const said = () => plain(document.body);
const heads = () => screen.getAllByRole('heading', { level: 2 }).map(plain);

test('a fresh lot stands with what came and what is left, and claims no yields', async () => {
  await open();
  expect(plain(screen.getByRole('heading', { level: 1 }).parentElement)).toMatch(
    /NKO Nkondo Growers41\.00 kg left of 60\.00 kg/,
  );
  expect(screen.getByText('Yields stand here once a step of a batch is closed.')).toBeTruthy();
  expect(screen.getByText('Not enough yet: needs two weeks of use.')).toBeTruthy();
  expect(said()).not.toMatch(/NaN|Infinity|undefined/);
});

test('what it is too moist or too dry for is said, until it is used up', async () => {
  const { unmount } = await open(lotView({ facts: { moisture: 8.6 } }));
  const moist = /mould|moist/i;
  expect(screen.getAllByText(moist).length).toBeGreaterThan(0);
  unmount();
  await open(lotView({ facts: { moisture: 8.6, remainingMg: 0 } }));
  expect(within(screen.getByRole('heading', { level: 1 }).closest('header')!).queryByText(moist)).toBeNull();
});

test('how long it lasts follows how it is drawn, and when to order what it takes to arrive', async () => {
  await open(
    lotView({
      facts: { leadWeeks: 8, remainingMg: 20_000_000 },
      draws: [70, 56, 42, 28, 14, 3].map((days) => ({ at: ago(days), massMg: 8_000_000 })),
    }),
  );
  expect(said()).toMatch(/[\d.]+ kg a week, from \d+ weeks\d+\.\d weeks left/);
  // Five weeks left, eight to arrive.
  expect(screen.getByText(/^Order now: below the reorder point/)).toBeTruthy();
});

test('without the weeks it takes to arrive there is no day to order by, and it is asked for', async () => {
  await open(lotView({ draws: [70, 42, 14, 3].map((days) => ({ at: ago(days), massMg: 4_000_000 })) }));
  expect(screen.getByText(/^Enter the weeks from order to arrival/)).toBeTruthy();
});

describe('how many beans some bars need', () => {
  const winnowed = (values: number[]) =>
    values.map((value) => ({ station: 'winnow' as const, lotId: idOf(77), value }));
  const need = () => Number(said().match(/([\d.]+) kg of it \(/)![1]);

  test('a new lot goes by the usual yields of the trade, backwards', async () => {
    await open();
    expect(screen.getByText(/^Usual yields of the trade/)).toBeTruthy();
    const overall = STATIONS.filter((s) => s !== 'beans' && s !== 'recipe' && s !== 'taste').reduce(
      (share, station) => share * expectedYield({ station, lot: [], workshop: [] }).mean,
      1,
    );
    // 200 bars of 60 g, seven tenths beans.
    expect(need()).toBeCloseTo((200 * 0.06 * 0.7) / overall, 1);
  });

  test.each([
    ['couverture', 1, ['temper', 'mould']],
    ['cocoa butter', 0.1, ['grind', 'temper', 'mould']],
    ['nibs', 0.7, ['grind', 'temper', 'mould']],
    ['roasted beans', 0.7, ['winnow', 'grind', 'temper', 'mould']],
  ] as const)(
    '%s lose only what is lost from there on, and are their usual share of a bar',
    async (material, share, way) => {
      await open(lotView({ facts: { material } }));
      const overall = way.reduce(
        (all, station) => all * expectedYield({ station, lot: [], workshop: [] }).mean,
        1,
      );
      expect(need()).toBeCloseTo((200 * 0.06 * share) / overall, 1);
    },
  );

  test('where other lots yielded less here, it needs more, and says what it rests on', async () => {
    const { unmount } = await open();
    const usual = need();
    unmount();
    await open(lotView({ elsewhere: winnowed([0.66, 0.67, 0.65, 0.66, 0.66, 0.67]) }));
    expect(need()).toBeGreaterThan(usual * 1.02);
    expect(
      screen.getByText(/^From what other lots have yielded here, \d+\.\d.% from lot to bar/),
    ).toBeTruthy();
  });

  test('its own batches count before those of others', async () => {
    const own = [0.84, 0.85, 0.84, 0.85, 0.84, 0.85].map((value, n) => ({
      station: 'winnow' as const,
      value,
      batchId: idOf(400 + n),
      batchCode: `NKO-${n}`,
      startedAt: ago(100 - n),
    }));
    await open(lotView({ yields: own, elsewhere: winnowed([0.66, 0.67, 0.65]) }));
    expect(screen.getByText(/^Backwards through this lot’s yields/)).toBeTruthy();
    const mixed = need();
    document.body.innerHTML = '';
    await open(lotView({ elsewhere: winnowed([0.66, 0.67, 0.65]) }));
    expect(mixed).toBeLessThan(need());
  });

  test('more than there is is said, with how much', async () => {
    const { user } = await open(lotView({ facts: { remainingMg: 2_000_000 } }));
    expect(screen.getByText(/more is needed/)).toBeTruthy();
    const bars = screen.getByLabelText('Bars');
    await user.clear(bars);
    await user.type(bars, '10');
    expect(screen.getByText('There is enough in store.')).toBeTruthy();
  });
});

test('a hold is put on and ended from the version on the page', async () => {
  const { user, wire } = await open();
  await user.click(screen.getByRole('button', { name: 'Put on hold' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]).toMatchObject({
    path: `/api/lots/${LOT.id}/facts`,
    ifMatch: '"3"',
    body: { onHold: true, code: 'NKO' },
  });
});

test('wet beans ferment and dry; a batch is begun with what they have become', async () => {
  await open(lotView({ facts: { material: 'wet beans' } }));
  expect(screen.getByText(/^Raw beans carry germs/)).toBeTruthy();
  expect(screen.queryByText(/Keep beans dry/)).toBeNull();
  expect(heads()).toEqual(
    expect.arrayContaining(['Ferment and dry', 'Drying by weighing', 'Facts', 'Plots']),
  );
  expect(heads()).not.toContain('How long it lasts');
  expect(screen.queryByRole('button', { name: 'Start a batch' })).toBeNull();
});

test('bought couverture has no cut test and no pests to hold', async () => {
  await open(lotView({ facts: { material: 'couverture', moisture: null, beansPer100g: null } }));
  expect(heads().join()).not.toMatch(/Cut test|Pest|Plots/);
  expect(said()).not.toMatch(/raw beans carry germs/);
});

test('a lot nobody knows is said not to be there', async () => {
  new Wire();
  globalThis.fetch = () =>
    Promise.resolve(
      new Response(JSON.stringify({ status: 404, code: 'not-found', title: '', detail: 'no', type: '' }), {
        status: 404,
      }),
    );
  show(<LotPage />, { route: '/beans/:lotId', at: '/beans/none' });
  expect(await screen.findByText('Not found')).toBeTruthy();
});

test('who only looks changes nothing of it', async () => {
  await open(lotView(), { role: 'viewer' });
  for (const name of ['Put on hold', 'Start a batch', 'Change the facts'])
    expect(screen.queryByRole('button', { name })).toBeNull();
});

test('what the sheet of bought chocolate says is in it stands among its facts', async () => {
  const sheet = {
    maker: 'The importer',
    makerLot: '',
    bestBefore: null,
    kind: 'dark',
    cacao: 62,
    fat: null,
    ingredients: 'cocoa mass, sugar, whole milk powder, soya lecithin',
    // Nobody has ticked the milk; its ingredients name it.
    allergens: ['soy'],
    meltC: null,
    coolC: null,
    workLowC: null,
    workHighC: null,
  };
  await open(lotView({ facts: { material: 'couverture', sheet: sheet as never } }));
  const fact = (name: string) => screen.getByText(name).nextElementSibling?.textContent;
  expect(fact('Its ingredients')).toBe('cocoa mass, sugar, whole milk powder, soya lecithin');
  expect(fact('Allergens in it')).toBe('milk, soy');
});
