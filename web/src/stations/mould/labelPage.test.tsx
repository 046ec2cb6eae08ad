import { screen, waitFor } from '@testing-library/react';
import type { LabelView } from '@wunsch/contract';
import { STARTER_DESIGNS, type LabelDesign } from '@wunsch/core/label';
import { show, Wire, type PageOptions } from '../../testing/page.tsx';
import { idOf } from '../../testing/views.ts';
import LabelPage from './LabelPage.tsx';

const PARCEL = idOf(80);
const MINE = idOf(90);
const design = (more: Partial<LabelDesign> = {}): LabelDesign => ({ ...STARTER_DESIGNS['single']!, ...more });
const DESIGNS = [
  { id: 'single', name: 'single', version: 0, active: true, design: design() },
  { id: MINE, name: 'Our strip', version: 3, active: true, design: design({ widthMm: 80 }) },
  { id: idOf(91), name: 'Old strip', version: 5, active: false, design: design({ widthMm: 70 }) },
];
const VIEW: LabelView = {
  code: 'NKO-14-261102',
  bars: 52,
  netMg: 60_000,
  front: '<svg xmlns="http://www.w3.org/2000/svg"/>',
  back: null,
  fits: true,
  soldAs: 'Dark chocolate',
  checks: [
    { name: 'allergens', state: 'met', params: {} },
    { name: 'ingredients', state: 'missing', params: {} },
  ],
  source: 'Regulation (EU) No 1169/2011',
  places: 1,
};

async function open(
  view: Partial<LabelView> | null = {},
  options: PageOptions = {},
  designs: object[] = DESIGNS,
) {
  const wire = new Wire().has('/api/label-designs', designs);
  const asked: string[] = [];
  const answer = globalThis.fetch;
  globalThis.fetch = (input, init) => {
    const path = String(input);
    if (!path.startsWith(`/api/labels/${PARCEL}`)) return answer(input, init);
    asked.push(path);
    const body = view
      ? { ...VIEW, ...view }
      : { status: 422, code: 'no-bars', title: '', detail: 'no', type: '' };
    return Promise.resolve(new Response(JSON.stringify(body), { status: view ? 200 : 422 }));
  };
  const page = show(<LabelPage />, {
    route: '/label/:batchId/:parcelId',
    at: `/label/${idOf(10)}/${PARCEL}`,
    ...options,
  });
  if (view) await screen.findByRole('heading', { level: 1, name: /NKO-14-261102/ });
  return { ...page, wire, asked };
}
const plain = (element: Element | null) => (element?.textContent ?? '').replace(/\u00a0/g, ' ');
const field = (name: RegExp | string) => screen.getByLabelText<HTMLInputElement>(name);
const width = () => field(/^(Width|Breite)/);
beforeEach(() => localStorage.clear());

test('the workshop’s own design comes first, one that was put away is not offered', async () => {
  const { asked } = await open();
  expect(asked).toEqual([`/api/labels/${PARCEL}?design=${MINE}`]);
  expect(screen.getAllByRole<HTMLOptionElement>('option').map((o) => o.textContent)).not.toContain(
    'Old strip',
  );
  expect(screen.getByRole('img').style.width).toBe('80mm');
});

test.each([
  ['de' as const, 'EUR', { market: 'EU', languages: ['de'] }],
  ['en' as const, 'GBP', null],
  ['de' as const, 'USD', { market: 'US', languages: ['en'] }],
])(
  'a first label is for the workshop’s market and in its reader’s language: %s, %s',
  async (language, currency, told) => {
    const { asked } = await open({}, { language, workshop: { currency } }, [DESIGNS[0]!]);
    const as = new URL(asked[0]!, 'http://x').searchParams.get('as');
    if (told) expect(JSON.parse(as!)).toMatchObject(told);
    else expect(as).toBeNull();
  },
);

test('what the market asks for and is missing stands first, named', async () => {
  await open();
  expect(screen.getAllByRole('listitem').map(plain)).toEqual([
    'The ingredients are not on it.',
    'allergens stand out',
  ]);
  expect(screen.getByLabelText('missing')).toBeTruthy();
  expect(screen.getByText('1 thing is missing')).toBeTruthy();
});

test('what a machine held before it is told in words, for the maker to look at', async () => {
  const before = { allergen: 'milk', machine: 'Bowl', batch: 'MK-01' };
  await open({ checks: [{ name: 'carriedOver', state: 'look', params: before }] });
  expect(plain(screen.getByRole('listitem'))).toBe(
    'milk: Bowl held it before (MK-01), and no cleaning is noted in between. Note the cleaning, or say that it may contain some.',
  );
});

test('all of them are printed with what was chosen: copies, and a label for each box', async () => {
  const { user } = await open();
  const all = () => screen.getByRole('link', { name: /52|58|all/i });
  expect(all().getAttribute('href')).toMatch(new RegExp(`label\\.pdf\\?design=${MINE}&copies=52&first=1$`));
  await user.click(screen.getByRole('checkbox', { name: /box/i }));
  expect(screen.getAllByRole('link').at(-1)!.getAttribute('href')).toMatch(/perBox=\d+$/);
});

test('a sheet that was begun goes on at its next place', async () => {
  const { user } = await open({ places: 24 });
  const first = field(/first|begin|place/i);
  await user.clear(first);
  await user.type(first, '5');
  const sheet = screen.getAllByRole('link').find((a) => /copies=20&first=5/.test(a.getAttribute('href')!));
  expect(sheet).toBeTruthy();
});

test('what does not fit is never cut: nothing can be printed, and it is said', async () => {
  await open({ fits: false });
  expect(screen.queryByRole('link', { name: /52/ })).toBeNull();
  expect(screen.getByText(/Nothing is ever cut off/)).toBeTruthy();
});

test.each([
  ['en' as const, /A label is 15 to 300 mm wide and 10 to 420 mm high, not 9 × 55 mm/],
  ['de' as const, /Ein Etikett ist 15 bis 300 mm breit und 10 bis 420 mm hoch, nicht 9 × 55 mm/],
])(
  'a design that cannot be printed is told of in the page’s language and not asked for: %s',
  async (language, said) => {
    const { user, asked } = await open({}, { language });
    await user.clear(width());
    await user.type(width(), '9');
    const alerts = screen.getAllByRole('alert').map(plain).join(' ');
    expect(alerts).toMatch(said);
    expect(asked).toHaveLength(1);
  },
);

test('a design that was changed is seen as changed, and kept under its name or a new one', async () => {
  const { user, wire, asked } = await open();
  await user.clear(width());
  await user.type(width(), '85');
  await waitFor(() => expect(asked.at(-1)).toMatch(/as=/));
  await user.click(screen.getByRole('button', { name: /Change .Our strip/ }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]).toMatchObject({
    path: `/api/label-designs/${MINE}`,
    ifMatch: '"3"',
    body: { name: 'Our strip', design: { widthMm: 85 } },
  });
});

test('a change is there after a reload', async () => {
  const first = await open();
  await first.user.clear(width());
  await first.user.type(width(), '85');
  first.unmount();
  await open();
  expect(width().value).toBe('85');
});

test('who only looks prints, and changes no design', async () => {
  const { user } = await open({}, { role: 'viewer' });
  await user.clear(width());
  await user.type(width(), '85');
  expect(screen.queryByRole('button', { name: /Our strip/ })).toBeNull();
});

test('what has no label says why', async () => {
  await open(null);
  expect(await screen.findByRole('heading', { level: 1 })).toBeTruthy();
});
