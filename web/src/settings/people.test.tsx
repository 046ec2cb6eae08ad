import { screen, waitFor, within } from '@testing-library/react';
import { PersonPut, type Machine, type Person } from '@wunsch/contract';
import { show, Wire } from '../testing/page.tsx';
import { idOf } from '../testing/views.ts';
import { MachinesPanel } from './MachinesPanel.tsx';
import { PeoplePanel } from './PeoplePanel.tsx';

/** Whoever is signed in, as pages are drawn for. */
const ME = '019a0000-0000-7000-8000-000000000001';
const [OLD, OVEN, PROBE] = [3, 4, 5].map(idOf) as string[];
const person = (id: string, name: string, more: Partial<Person> = {}) =>
  ({ id, name, initials: name.slice(0, 2), role: 'maker', active: true, version: 2, ...more }) as Person;

describe('people', () => {
  const open = () => {
    const wire = new Wire().has('/api/people', [
      person(ME, 'Ada', { role: 'owner' }),
      person(OLD!, 'Old', { active: false }),
    ]);
    return { wire, ...show(<PeoplePanel />, { role: 'owner' }) };
  };
  const dialog = () => within(screen.getByRole('dialog'));

  test('somebody new is added with a role and a password long enough', async () => {
    const { wire, user } = open();
    await user.click(screen.getByRole('button', { name: 'Add a person' }));
    const save = dialog().getByRole<HTMLButtonElement>('button', { name: 'Save' });
    expect(save.disabled).toBe(true);
    await user.type(dialog().getByLabelText('Name'), 'Tam Lee');
    // Proposed from the name, and another's are not.
    expect(dialog().getByLabelText<HTMLInputElement>('Initials').value).toBe('TL');
    await user.selectOptions(dialog().getByLabelText('Role'), 'taster');
    await user.type(dialog().getByLabelText(/^Password/), 'short');
    expect(save.disabled).toBe(true);
    await user.type(dialog().getByLabelText(/^Password/), ' no more');
    await user.click(save);
    await waitFor(() => expect(wire.sent).toHaveLength(1));
    expect(PersonPut.parse(wire.sent[0]!.body)).toMatchObject({
      name: 'Tam Lee',
      initials: 'TL',
      role: 'taster',
      active: true,
      password: 'short no more',
    });
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
  });

  test('whoever is changed keeps their password where none is typed; what is refused is said and nothing is lost', async () => {
    const { wire, user } = open();
    expect(await screen.findByText(/inactive/i)).toBeTruthy();
    await user.click((await screen.findAllByRole('button', { name: 'Change' }))[0]!);
    await user.clear(dialog().getByLabelText('Name'));
    await user.type(dialog().getByLabelText('Name'), 'Ada Kay');
    wire.refuse({ code: 'last-owner', detail: 'a workshop needs an owner' });
    await user.click(dialog().getByRole('button', { name: 'Save' }));
    expect((await screen.findAllByText('A workshop needs at least one owner.')).length).toBeGreaterThan(0);
    expect(dialog().getByLabelText<HTMLInputElement>('Name').value).toBe('Ada Kay');
    expect(wire.sent[0]!.body).not.toHaveProperty('password');
    expect(wire.sent[0]!.ifMatch).toBe('"2"');
  });
});

test('whoever comes from Find begins with somebody new, if they are an owner', async () => {
  new Wire().has('/api/people', [person(ME, 'Ada', { role: 'owner' })]);
  const { unmount } = show(<PeoplePanel />, { role: 'owner', at: '/settings?do=person', route: '/settings' });
  expect(await screen.findByRole('dialog', { name: 'Add a person' })).toBeTruthy();
  unmount();
  show(<PeoplePanel />, { role: 'maker', at: '/settings?do=person', route: '/settings' });
  expect(await screen.findByText('Ada (Ad)')).toBeTruthy();
  expect(screen.queryByRole('dialog')).toBeNull();
});

describe('machines', () => {
  const machine = (id: string, name: string, hasToken: boolean) =>
    ({
      id,
      name,
      station: 'roast',
      kind: '',
      minMg: null,
      maxMg: null,
      active: true,
      hasToken,
    }) as unknown as Machine;
  const open = () => {
    const wire = new Wire().has('/api/machines', [
      machine(OVEN!, 'Fan oven', false),
      machine(PROBE!, 'Drum', true),
    ]);
    for (const id of [OVEN, PROBE]) wire.has(`POST /api/machines/${id}/token`, { token: `secret-${id}` });
    return { wire, ...show(<MachinesPanel />, { role: 'owner' }) };
  };
  const tokenOf = async (name: string) =>
    within((await screen.findByRole('link', { name })).closest('tr')!).getByRole('button', {
      name: 'Device token',
    });

  test('a first token is made at once and shown once', async () => {
    const { wire, user } = open();
    await user.click(await tokenOf('Fan oven'));
    expect(await screen.findByText(`secret-${OVEN}`)).toBeTruthy();
    expect(wire.sent.map((s) => s.path)).toEqual([`/api/machines/${OVEN}/token`]);
  });

  test('one that would silence a board that sends is asked about first', async () => {
    const { wire, user } = open();
    await user.click(await tokenOf('Drum'));
    expect(await screen.findByText(/^Drum has one already\./)).toBeTruthy();
    expect(wire.sent).toEqual([]);
    await user.click(screen.getByRole('button', { name: 'Make a new one' }));
    expect(await screen.findByText(`secret-${PROBE}`)).toBeTruthy();
  });

  test('what is refused is said', async () => {
    const { wire, user } = open();
    wire.refuse({ code: 'role', status: 403, detail: 'owners only' });
    await user.click(await tokenOf('Fan oven'));
    expect((await screen.findByRole('alert')).textContent).toBe('Your role may not do this.');
  });
});
