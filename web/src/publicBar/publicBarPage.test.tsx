import { screen, waitFor } from '@testing-library/react';
import type { PublicBar } from '@wunsch/contract';
import { show, Wire, type PageOptions } from '../testing/page.tsx';
import PublicBarPage from './PublicBarPage.tsx';

const run = (text: string, bold = false) => ({ text, bold });

/** A page of which nothing but what always stands there was chosen. */
const BARE: PublicBar = {
  name: 'Kilombo 72',
  code: 'NKO-14-261102',
  maker: { name: 'Test row', address: '1 The Row' },
  netMass: '60 g',
  label: {
    cacao: [run('Cacao: 72% minimum')],
    ingredients: [run('Cocoa beans, cane sugar, '), run('hazelnuts', true)],
    traces: [run('May contain '), run('milk', true)],
    storage: [run('Keep cool and dry.')],
  },
  bestBefore: '2028-05-22',
  words: '',
  origin: null,
  growers: null,
  map: null,
  ribbon: null,
  days: null,
  making: null,
  people: null,
};

async function open(
  more: Partial<PublicBar> | null = {},
  options: PageOptions = {},
  at = '/bar/NKO-14-261102',
) {
  window.history.pushState(null, '', at);
  const wire = new Wire();
  const turned: string[] = [];
  if (more)
    for (const language of ['en', 'de'])
      wire.has(`/api/bar/NKO-14-261102?language=${language}`, { ...BARE, ...more });
  const page = show(<PublicBarPage onLanguage={(language) => turned.push(language)} />, options);
  if (more) await screen.findByRole('heading', { level: 1, name: more.name ?? BARE.name });
  return { ...page, wire, turned };
}
const plain = (element: Element | null) => (element?.textContent ?? '').replace(/\u00a0/g, ' ');

test('what always stands there: what it is, what is in it with allergens bold, how it keeps', async () => {
  await open();
  expect(screen.getByText('hazelnuts').tagName).toBe('B');
  expect(screen.getByText('milk').tagName).toBe('B');
  expect(screen.getByText('Best before 22 May 2028')).toBeTruthy();
  expect(screen.getAllByText(/Test row/)).toHaveLength(2);
});

test('what was not chosen is not there, nor is a heading for it', async () => {
  await open();
  expect(screen.getAllByRole('heading', { level: 2 }).map(plain)).toEqual(['What is in it', 'Keeping']);
  expect(document.body.textContent).not.toMatch(/null|undefined|NaN/);
});

test('what was chosen is told in plain words', async () => {
  await open({
    origin: [
      { name: 'Nkondo Growers', country: 'Uganda', region: 'Uganda', harvest: '2026' },
      { name: 'Thanh Loc', country: 'Vietnam', region: '', harvest: '' },
    ],
    growers: ['Amina', 'Okello'],
    days: [
      { station: 'roast', day: '2026-11-02' },
      { station: 'mould', day: '2026-11-30' },
    ],
    making: { gritUm: 19.4, doseMinutes: 11.6 },
    people: ['Ada'],
    ribbon: [
      { station: 'roast', grams: 94.2, lost: 5.8 },
      { station: 'grind', grams: 128, lost: 0.2 },
      // What is read adds up: 126.5 reads as 127, as 127.4 does.
      { station: 'temper', grams: 127.4, lost: 0.6 },
      { station: 'mould', grams: 126.5, lost: 0.9 },
    ],
  });
  // What is said twice is said once.
  expect(screen.getByText('Nkondo Growers, Uganda, 2026')).toBeTruthy();
  expect(screen.getByText('Grown by Amina, Okello')).toBeTruthy();
  expect(plain(screen.getByText(/^From/))).toBe('From 2 Nov 2026 to 30 Nov 2026: 29 days');
  expect(plain(screen.getByText(/^Roasted/))).toMatch(/gently \(as much as 12 min at 120 °C\)/);
  expect(plain(screen.getByText(/^Ground/))).toMatch(/19 µm: so fine the tongue finds no grain/);
  const rows = screen.getAllByRole('listitem').map(plain);
  // A loss too small to be weighed at home is left out.
  expect(rows).toEqual([
    '94 g after Roast(6 g left behind)',
    '128 g after Grind',
    '127 g after Temper(1 g left behind)',
    '127 g after Mould',
  ]);
});

test.each([
  [6, 'lightly'],
  [9, 'gently'],
  [16, 'gently'],
  [17, 'deeply'],
])('a roast of %d equivalent minutes is called %s', async (doseMinutes, word) => {
  await open({ making: { gritUm: null, doseMinutes } });
  expect(plain(screen.getByText(/^Roasted/))).toMatch(word);
});

test.each([
  [22, 'no grain'],
  [30, 'hint of grain'],
  [60, 'rustic'],
])('%d µm is told as %s', async (gritUm, word) => {
  await open({ making: { gritUm, doseMinutes: null } });
  expect(plain(screen.getByText(/^Ground/))).toMatch(word);
});

test('something wrong is told once, in one’s own words, with what is seen', async () => {
  const { user, wire } = await open();
  await user.click(screen.getByRole('button', { name: 'Something is wrong with this bar' }));
  expect(screen.getByText(/If somebody has become unwell, call a doctor first/)).toBeTruthy();
  const send = screen.getByRole<HTMLButtonElement>('button', { name: 'Send to the maker' });
  expect(send.disabled).toBe(true);
  // What only a maker meets is not asked for.
  expect(screen.queryByRole('button', { name: /seized|Thick/i })).toBeNull();
  await user.click(screen.getByRole('button', { name: /^Grey streaks/ }));
  await user.type(screen.getByRole('textbox', { name: 'In your own words' }), 'Grey and dull.');
  await user.type(screen.getByRole('textbox', { name: /how the maker can reach you/i }), 'ina@example.org');
  await user.dblClick(send);
  expect((await screen.findByRole('status')).textContent).toBe('Thank you. The maker has it now.');
  expect(wire.sent).toHaveLength(1);
  expect(wire.sent[0]).toMatchObject({
    method: 'POST',
    path: '/api/bar/NKO-14-261102/report',
    body: { text: 'Grey and dull.', signs: ['streaks'], contact: 'ina@example.org', photo: null },
  });
});

test('a report that is refused stays to be sent again, as the same one', async () => {
  const { user, wire } = await open();
  await user.click(screen.getByRole('button', { name: 'Something is wrong with this bar' }));
  await user.type(screen.getByRole('textbox', { name: 'In your own words' }), 'Webs.');
  wire.refuse({ status: 429, code: 'too-many-tries', detail: 'wait' });
  const send = screen.getByRole('button', { name: 'Send to the maker' });
  await user.click(send);
  expect((await screen.findByRole('alert')).textContent).not.toBe('');
  expect(screen.getByRole<HTMLTextAreaElement>('textbox', { name: 'In your own words' }).value).toBe('Webs.');
  await user.click(send);
  await screen.findByRole('status');
  const ids = wire.sent.map((s) => (s.body as { id: string }).id);
  expect(new Set(ids).size).toBe(1);
});

test('a file that is no picture is refused with what is taken', async () => {
  const { user } = await open();
  await user.click(screen.getByRole('button', { name: 'Something is wrong with this bar' }));
  const input = document.querySelector<HTMLInputElement>('input[type=file]')!;
  input.removeAttribute('accept');
  await user.upload(input, new File(['text'], 'notes.txt', { type: 'text/plain' }));
  expect((await screen.findByRole('alert')).textContent).toMatch(/JPEG, PNG or WebP/);
});

test('whoever opens it can turn its language', async () => {
  const { user, turned } = await open({}, { language: 'de' });
  expect(screen.getByText('Mindestens haltbar bis 22. Mai 2028')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'English' }));
  expect(turned).toEqual(['en']);
});

test.each(['/bar/NKO-99', '/bar/', '/bar/%E0%A4%A', '/bar/a%2Fb'])(
  '%s opens a page that says there is none',
  async (at) => {
    const wire = new Wire();
    globalThis.fetch = () =>
      Promise.resolve(
        new Response(JSON.stringify({ status: 404, code: 'no-page', title: '', detail: '', type: '' }), {
          status: 404,
          headers: { 'content-type': 'application/problem+json' },
        }),
      );
    window.history.pushState(null, '', at);
    show(<PublicBarPage onLanguage={() => undefined} />);
    expect(await screen.findByRole('heading', { name: 'No page' })).toBeTruthy();
    await waitFor(() => expect(screen.getByRole('alert').textContent).not.toBe(''));
    expect(wire.sent).toEqual([]);
  },
);

test('a stranger without a net is not told that there is no such bar, and tries again', async () => {
  const wire = new Wire();
  wire.goAway();
  window.history.pushState(null, '', '/bar/NKO-05');
  const { user } = show(<PublicBarPage onLanguage={() => undefined} />);
  expect(await screen.findByRole('heading', { name: 'The page could not be read' })).toBeTruthy();
  globalThis.fetch = () =>
    Promise.resolve(
      new Response(JSON.stringify({ status: 429, code: 'too-many-tries', title: '', detail: '', type: '' }), {
        status: 429,
      }),
    );
  await user.click(screen.getByRole('button', { name: 'Try again' }));
  expect(await screen.findByText('Too many looks from here; wait a minute.')).toBeTruthy();
});
