import { screen, waitFor } from '@testing-library/react';
import { FirstRun as FirstRunBody } from '@wunsch/contract';
import { Wire, show } from '../testing/page.tsx';
import FirstRun from './FirstRun.tsx';

const next = () => screen.getByRole<HTMLButtonElement>('button', { name: 'Next' });

test('five questions make a workshop the server takes', async () => {
  const wire = new Wire();
  const { user } = show(<FirstRun onLanguage={() => undefined} />);
  await user.click(screen.getByRole('radio', { name: /^Estate/i }));
  await user.click(next());
  expect(next().disabled).toBe(true);
  await user.type(screen.getByLabelText('Name of the workshop'), 'Test row');
  await user.selectOptions(screen.getByLabelText('Currency'), 'EUR');
  await user.click(next());
  const machines = screen.getAllByRole<HTMLInputElement>('textbox').map((m) => m.value);
  expect(machines.length).toBeGreaterThan(2);
  await user.click(next());
  await user.click(next());
  await user.type(screen.getByLabelText('Your name'), 'Ada Quill');
  const password = document.querySelector<HTMLInputElement>('input[type=password]')!;
  const open = screen.getByRole<HTMLButtonElement>('button', { name: 'Open the workshop' });
  await user.type(password, 'short');
  expect(open.disabled).toBe(true);
  await user.type(password, ' but longer');
  await user.click(open);
  await waitFor(() => expect(wire.sent).toHaveLength(2));
  const body = FirstRunBody.parse(wire.sent[0]!.body);
  expect(body.workshop).toMatchObject({ name: 'Test row', shape: 'estate', currency: 'EUR', language: 'en' });
  expect(body.owner).toMatchObject({ name: 'Ada Quill', initials: 'AQ', password: 'short but longer' });
  expect(body.machines.length).toBeGreaterThan(1);
  // Signed in at once with what was just chosen.
  expect(wire.sent[1]).toMatchObject({ path: '/api/session', body: { name: 'Ada Quill' } });
});

test('by keyboard alone: what comes next has the focus', async () => {
  const narrow = window.matchMedia;
  window.matchMedia = (media) => ({ ...narrow(media), matches: media === '(pointer: fine)' });
  const { user } = show(<FirstRun onLanguage={() => undefined} />);
  next().focus();
  await user.keyboard('{Enter}');
  expect(document.activeElement).toBe(screen.getByLabelText('Name of the workshop'));
  await user.keyboard('Test row{Enter}');
  expect(document.activeElement).toBe(screen.getAllByRole('textbox')[0]);
  await user.keyboard('{Enter}');
  // Nothing to fill in yet: the question itself.
  expect(document.activeElement).toBe(screen.getByRole('heading', { level: 2 }));
  await user.click(screen.getByRole('button', { name: 'Back' }));
  expect(document.activeElement).toBe(screen.getAllByRole('textbox')[0]);
  window.matchMedia = narrow;
});

test('on a touch screen no keyboard is drawn over it: the question has the focus', async () => {
  const { user } = show(<FirstRun onLanguage={() => undefined} />);
  await user.click(next());
  expect(document.activeElement).toBe(screen.getByRole('heading', { level: 2 }));
});

test.each([
  ['en-US', 'USD', '°F'],
  ['en-GB', 'GBP', '°C'],
  ['es-PE', 'PEN', '°C'],
  ['en', 'GBP', '°C'],
])('from where the browser is, %s, it begins with %s and %s', async (language, currency, degrees) => {
  const is = jest.spyOn(window.navigator, 'language', 'get').mockReturnValue(language);
  const { user } = show(<FirstRun onLanguage={() => undefined} />);
  await user.click(next());
  expect(screen.getByLabelText<HTMLSelectElement>('Currency').value).toBe(currency);
  expect(screen.getByRole<HTMLInputElement>('radio', { name: degrees }).ariaChecked).toBe('true');
  is.mockRestore();
});

test('in a currency with other figures wages and wrapping begin with figures of its own', async () => {
  const wire = new Wire();
  const { user } = show(<FirstRun onLanguage={() => undefined} />);
  await user.click(next());
  await user.type(screen.getByLabelText('Name of the workshop'), 'Test row');
  await user.selectOptions(screen.getByLabelText('Currency'), 'XOF');
  await user.click(next());
  await user.click(next());
  await user.click(next());
  await user.type(screen.getByLabelText('Your name'), 'Ada Quill');
  await user.type(document.querySelector<HTMLInputElement>('input[type=password]')!, 'long enough');
  await user.click(screen.getByRole('button', { name: 'Open the workshop' }));
  await waitFor(() => expect(wire.sent).toHaveLength(2));
  expect(FirstRunBody.parse(wire.sent[0]!.body).workshop).toMatchObject({
    currency: 'XOF',
    labourRate: 9800,
    packagingPerBar: 200,
  });
});

test('in pounds and °F machines and bars begin with round weights', async () => {
  const wire = new Wire();
  const { user } = show(<FirstRun onLanguage={() => undefined} />);
  await user.click(screen.getByRole('radio', { name: /^Shop/i }));
  await user.click(next());
  await user.type(screen.getByLabelText('Name of the workshop'), 'Test row');
  await user.click(screen.getByRole('radio', { name: 'lb and oz' }));
  await user.click(next());
  expect(screen.getAllByLabelText<HTMLInputElement>('Usable maximum').map((m) => m.value)).toEqual([
    '6.5',
    '',
    '20',
    '10',
  ]);
  await user.click(next());
  await user.click(next());
  await user.type(screen.getByLabelText('Your name'), 'Ada Quill');
  await user.type(document.querySelector<HTMLInputElement>('input[type=password]')!, 'a long enough one');
  await user.click(screen.getByRole('button', { name: 'Open the workshop' }));
  await waitFor(() => expect(wire.sent).toHaveLength(2));
  expect(FirstRunBody.parse(wire.sent[0]!.body).workshop).toMatchObject({
    massSystem: 'pounds',
    barMg: 56_699,
  });
});

test('going back keeps what was answered; another shape brings other machines', async () => {
  new Wire();
  const { user } = show(<FirstRun onLanguage={() => undefined} />);
  const machinesOf = async () => {
    await user.click(next());
    const field = screen.getByLabelText<HTMLInputElement>('Name of the workshop');
    if (field.value === '') await user.type(field, 'Test row');
    await user.click(next());
    const names = screen.getAllByRole<HTMLInputElement>('textbox').map((m) => m.value);
    await user.click(screen.getByRole('button', { name: 'Back' }));
    expect(screen.getByLabelText<HTMLInputElement>('Name of the workshop').value).toBe('Test row');
    await user.click(screen.getByRole('button', { name: 'Back' }));
    return names.join();
  };
  const kitchen = await machinesOf();
  await user.click(screen.getByRole('radio', { name: /^Shop/i }));
  expect(await machinesOf()).not.toBe(kitchen);
});

test('what the server refuses is said, and nothing has to be typed again', async () => {
  const wire = new Wire();
  const { user } = show(<FirstRun onLanguage={() => undefined} />);
  await user.click(next());
  await user.type(screen.getByLabelText('Name of the workshop'), 'Test row');
  for (let i = 0; i < 3; i += 1) await user.click(next());
  await user.type(screen.getByLabelText('Your name'), 'Ada');
  await user.type(document.querySelector('input[type=password]')!, 'long enough');
  wire.refuse({ status: 409, code: 'there-is-one', detail: 'there is a workshop here already' });
  await user.click(screen.getByRole('button', { name: 'Open the workshop' }));
  await screen.findByText('there is a workshop here already');
  expect(screen.getByLabelText<HTMLInputElement>('Your name').value).toBe('Ada');
});

test('a reload in the middle costs nothing but passwords, which are asked for once more', async () => {
  const wire = new Wire();
  const first = show(<FirstRun onLanguage={() => undefined} />);
  const { user } = first;
  await user.click(screen.getByRole('radio', { name: /^Shop/i }));
  await user.click(next());
  await user.type(screen.getByLabelText('Name of the workshop'), 'Test row');
  await user.click(next());
  await user.click(next());
  for (const [i, name] of ['Mabel', 'Max'].entries()) {
    await user.click(screen.getByRole('button', { name: 'Add a person' }));
    await user.type(screen.getAllByLabelText('Name')[i]!, name);
  }
  await user.type(screen.getAllByLabelText('Password')[0]!, 'long enough');
  await user.click(next());
  await user.type(screen.getByLabelText('Your name'), 'Mo');
  await user.type(screen.getByLabelText('Password'), 'my own long one');
  first.unmount();
  expect(JSON.stringify({ ...localStorage })).not.toMatch(/long enough|my own long one/);

  show(<FirstRun onLanguage={() => undefined} />);
  expect(screen.getByLabelText<HTMLInputElement>('Your name').value).toBe('Mo');
  await user.type(screen.getByLabelText('Password'), 'my own long one');
  // Somebody had a password: without it the workshop would let in nobody by that name.
  screen.getByText(/has to be typed once more/);
  const open = () => screen.getByRole<HTMLButtonElement>('button', { name: 'Open the workshop' });
  expect(open().disabled).toBe(true);
  await user.click(screen.getByRole('button', { name: 'Back' }));
  screen.getByText(/once more, please/);
  expect(next().disabled).toBe(true);
  await user.type(screen.getAllByLabelText('Password')[0]!, 'long');
  // Told here, not by the server after the last question.
  expect(next().disabled).toBe(true);
  await user.type(screen.getAllByLabelText('Password')[0]!, ' enough');
  expect(screen.queryByText(/once more, please/)).toBeNull();
  await user.click(next());
  await user.click(open());
  await waitFor(() => expect(wire.sent).toHaveLength(2));
  const body = FirstRunBody.parse(wire.sent[0]!.body);
  expect(body.workshop).toMatchObject({ name: 'Test row', shape: 'shop' });
  expect(body.owner).toMatchObject({ initials: 'M', password: 'my own long one' });
  expect(body.people.map((p) => [p.name, p.initials, p.password])).toEqual([
    ['Mabel', 'MA', 'long enough'],
    ['Max', 'MAX', undefined],
  ]);
  // Made: the next who begins here begins anew.
  await waitFor(() => expect(localStorage.getItem('wunsch.typed.first-run')).toBeNull());
});
