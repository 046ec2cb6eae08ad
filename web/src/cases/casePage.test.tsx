import { cleanup, screen, waitFor, within } from '@testing-library/react';
import { CaseView, type CaseUpdate } from '@wunsch/contract';
import { show, Wire, type PageOptions } from '../testing/page.tsx';
import { idOf } from '../testing/views.ts';
import CasePage from './CasePage.tsx';
import { SignChoice } from './SignChoice.tsx';
import { useCaseFacts } from './useCaseFacts.ts';

const ID = idOf(70);
/** Bars of the batch that lie in the shop. */
const inShop = (parcelId: string, count: number) => ({
  parcelId,
  material: 'bars',
  label: '',
  batchId: idOf(10),
  batchCode: 'NKO-14',
  lotCode: null,
  place: 'shop',
  massMg: count * 60_000,
  contentMg: count * 60_000,
  count,
  onHold: false,
});

const caseOf = (more: object = {}) =>
  CaseView.parse({
    id: ID,
    number: 7,
    version: 3,
    at: '2026-11-20T08:00:00.000Z',
    by: 'AK',
    from: 'customer',
    code: 'NKO-14-261102',
    batchId: idOf(10),
    batchCode: 'NKO-14',
    recipeName: 'Dark 72',
    signs: ['streaks'],
    clues: {},
    text: 'Grey all over.',
    kept: 'in the car',
    name: 'Ina W.',
    contact: '',
    reply: '',
    closedAt: null,
    cause: null,
    lotId: idOf(1),
    recipeId: idOf(50),
    closing: null,
    faults: {
      findings: [],
      ranked: [{ cause: 'storeWarm', station: null, odds: 0.8, because: [] }],
      questions: [],
      settledBy: null,
      learnedFrom: 0,
    },
    sisters: {
      bars: { made: 402, here: 120, delivered: 200, sold: 60, given: 0, broken: 0, missing: 22 },
      here: [inShop(idOf(80), 70), inShop(idOf(81), 50)],
      customers: [{ customerId: idOf(90), name: 'Harbour Café', count: 200, massMg: 12_000_000, lines: [] }],
      nameless: [{ destination: 'sold', count: 60, massMg: 3_600_000 }],
    },
    photographs: [],
    ...more,
  });

async function open(more: object = {}, options: PageOptions = {}) {
  localStorage.clear();
  const wire = new Wire().has(`/api/cases/${ID}`, caseOf(more));
  const page = show(<CasePage />, { route: '/case/:caseId', at: `/case/${ID}`, ...options });
  await screen.findByRole('heading', { level: 1 });
  const again = (then: object) => wire.has(`/api/cases/${ID}`, caseOf({ ...more, ...then }));
  const sign = (name: RegExp) => screen.getByRole('button', { name });
  return { ...page, wire, again, sign };
}
const plain = (element: Element | null) => (element?.textContent ?? '').replace(/\u00a0/g, ' ');
const said = (wire: Wire, n = -1) => wire.sent.at(n)!.body as CaseUpdate;

test('a case tells where the other bars of its batch are, and sets aside those that are here', async () => {
  const { user, wire } = await open();
  const sisters = within(screen.getByRole('heading', { name: 'Its sister bars' }).closest('section')!);
  expect(plain(sisters.getByText(/402/))).toMatch(/402.*120.*260/);
  // All of them are in the list, those that lie in one place together.
  expect(sisters.getAllByRole('listitem').map(plain)).toEqual([
    '120 at shop',
    '200 Harbour Café',
    expect.stringMatching(/^60 .*sold/),
  ]);
  await user.click(sisters.getByRole('button', { name: 'Set what is here aside' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toMatchObject({
    parcelIds: [idOf(80), idOf(81)],
    onHold: true,
    reason: 'Case 7',
  });
});

/** The pictures of a case alone, so that what the server has can be put in by hand. */
function Signs({ view }: { view: CaseView }) {
  const { facts, change } = useCaseFacts(view);
  return <SignChoice label="signs" chosen={facts.signs} onChoose={(signs) => change({ signs })} />;
}

test('pictures tapped one after another are seen at once, and kept one after another from the version that is on the page', async () => {
  const wire = new Wire();
  const { user, redraw } = show(<Signs view={caseOf()} />);
  const sign = (name: RegExp) => screen.getByRole('button', { name });
  const pressed = () => screen.getAllByRole('button', { pressed: true }).map((b) => b.textContent);
  await user.click(sign(/^Soft/));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  await user.click(sign(/^Gritty/));
  await user.click(sign(/^Flat/));
  expect(pressed()).toHaveLength(4);
  // The page has not caught up yet: another from the same version would be refused.
  expect(wire.sent).toHaveLength(1);
  redraw(<Signs view={caseOf({ signs: ['streaks', 'soft'], version: 4 })} />);
  await waitFor(() => expect(wire.sent).toHaveLength(2));
  expect(wire.sent.map((s) => s.ifMatch)).toEqual(['"3"', '"4"']);
  expect(wire.sent.map((s) => (s.body as CaseUpdate).signs)).toEqual([
    ['streaks', 'soft'],
    ['streaks', 'soft', 'gritty', 'flat'],
  ]);
  redraw(<Signs view={caseOf({ signs: ['streaks', 'soft', 'gritty', 'flat'], version: 5 })} />);
  await waitFor(() => expect(pressed()).toHaveLength(4));
  expect(wire.sent).toHaveLength(2);
});

test('while the server is away every change is kept, not only the first', async () => {
  const wire = new Wire();
  wire.goAway();
  const { user, door } = show(<Signs view={caseOf()} />);
  for (const name of [/^Soft/, /^Gritty/]) await user.click(screen.getByRole('button', { name }));
  await waitFor(() => expect(door.outbox.waiting()).toHaveLength(2));
  expect(door.outbox.waiting().map((e) => (e.body as CaseUpdate).signs)).toEqual([
    ['streaks', 'soft'],
    ['streaks', 'soft', 'gritty'],
  ]);
});

test('what somebody else changed meanwhile is not written over: the page goes back to what there is', async () => {
  const { user, wire, sign } = await open();
  wire.refuse({ status: 412, code: 'changed-meanwhile', detail: 'changed' });
  await user.click(sign(/^Soft/));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  await waitFor(() => expect(sign(/^Soft/).getAttribute('aria-pressed')).toBe('false'));
  expect(sign(/^Grey streaks/).getAttribute('aria-pressed')).toBe('true');
});

test('a reply is drafted from what it most likely is, can be changed, and outlives a reload until it is kept', async () => {
  const { user, wire, again, unmount } = await open();
  const box = () => screen.getByRole<HTMLTextAreaElement>('textbox', { name: 'A reply' });
  expect(box().value).toMatch(/Ina W\./);
  expect(box().value).toMatch(/NKO-14-261102/);
  await user.clear(box());
  await user.type(box(), 'Dear Ina, we are sorry.');
  unmount();
  show(<CasePage />, { route: '/case/:caseId', at: `/case/${ID}` });
  await screen.findByRole('heading', { level: 1 });
  expect(box().value).toBe('Dear Ina, we are sorry.');
  wire.refuse({ status: 403, code: 'forbidden', detail: 'no' });
  await user.click(screen.getByRole('button', { name: 'Save' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  // A refusal costs nothing that was typed.
  expect(box().value).toBe('Dear Ina, we are sorry.');
  await user.click(screen.getByRole('button', { name: 'Save' }));
  await waitFor(() => expect(wire.sent).toHaveLength(2));
  expect(said(wire).reply).toBe('Dear Ina, we are sorry.');
  // Once it stands in the case it is kept there alone.
  cleanup();
  again({ reply: 'Dear Ina, we are sorry.', version: 4 });
  show(<CasePage />, { route: '/case/:caseId', at: `/case/${ID}` });
  await screen.findByRole('heading', { level: 1 });
  await waitFor(() => expect(localStorage.getItem(`wunsch.typed.reply ${ID}`)).toBeNull());
  expect(box().value).toBe('Dear Ina, we are sorry.');
});

test('who should not eat on is told so, whatever it comes from', async () => {
  await open({ signs: ['webbing'] });
  expect(screen.getByRole<HTMLTextAreaElement>('textbox', { name: 'A reply' }).value).toMatch(
    /not eat|do not eat/i,
  );
});

test('a closed case shows its cause and action, and asks nothing any more', async () => {
  await open({
    closing: {
      at: '2026-11-21T08:00:00.000Z',
      by: 'JB',
      cause: 'storeWarm',
      action: 'Sent another.',
      clues: {},
    },
    closedAt: '2026-11-21T08:00:00.000Z',
    cause: 'storeWarm',
  });
  expect(screen.getByText('Sent another.')).toBeTruthy();
  expect(screen.queryByRole('button', { name: /^Close/ })).toBeNull();
  expect(screen.queryByRole('button', { name: /^Soft/ })).toBeNull();
});

test('a case without a batch has no sister bars, and says so', async () => {
  await open({ batchId: null, batchCode: null, sisters: null, code: 'XX' });
  expect(plain(screen.getByRole('heading', { level: 1 }).parentElement)).toMatch(/XX/);
  expect(screen.queryByRole('button', { name: /aside/ })).toBeNull();
});

test('who only looks reads the case and changes nothing', async () => {
  await open({}, { role: 'viewer' });
  expect(screen.getByText('Grey all over.')).toBeTruthy();
  for (const name of [/aside/, /^Soft/, /^Save/, /^Close/])
    expect(screen.queryByRole('button', { name })).toBeNull();
});
