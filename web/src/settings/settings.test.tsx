import { act, screen, waitFor } from '@testing-library/react';
import { Wire, show } from '../testing/page.tsx';
import { startInstall } from '../shell/install.ts';
import { CurveLevel } from './CurveLevel.tsx';
import { PhonePanel } from './PhonePanel.tsx';
import { SignInsPanel } from './SignInsPanel.tsx';

const at = '2026-11-25T08:00:00.000Z';
const session = (id: string, person: string, more: object = {}) => ({
  id: id.repeat(64),
  person,
  device: 'Firefox, Android',
  createdAt: at,
  expiresAt: at,
  current: false,
  ...more,
});

test('devices are listed, one’s own is told apart, and any other is signed out at a tap', async () => {
  const open = [session('a', 'Anneke', { current: true }), session('b', 'Jory', { device: '' })];
  const wrong = [{ name: 'Anneke', from: '10.0.0.9', count: 3, at }];
  const wire = new Wire().has('/api/sessions', { open, wrong });
  const { user } = show(<SignInsPanel />);
  expect(await screen.findByText('Firefox, Android (this one)')).toBeTruthy();
  expect(screen.getByText('unknown device')).toBeTruthy();
  expect(screen.getByText(/^3 tries as Anneke from 10\.0\.0\.9/)).toBeTruthy();
  const buttons = screen.getAllByRole('button', { name: 'Sign out' });
  expect(buttons).toHaveLength(1);
  await user.click(buttons[0]!);
  await waitFor(() =>
    expect(wire.sent).toMatchObject([{ method: 'DELETE', path: `/api/sessions/${'b'.repeat(64)}` }]),
  );
});

test('one’s own password is changed with the one so far; a wrong one is said where it was typed', async () => {
  const wire = new Wire().has('/api/sessions', { open: [], wrong: [] });
  const { user } = show(<SignInsPanel />, { role: 'taster' });
  await user.click(await screen.findByRole('button', { name: 'Change my password' }));
  const save = screen.getByRole<HTMLButtonElement>('button', { name: 'Save' });
  await user.type(screen.getByLabelText('Password so far'), 'the old one');
  await user.type(screen.getByLabelText(/^New password/), 'short');
  expect(save.disabled).toBe(true);
  await user.type(screen.getByLabelText(/^New password/), ' no longer');
  wire.refuse({ status: 422, code: 'wrong-password', detail: 'this is not the password so far' });
  await user.click(save);
  await waitFor(() =>
    expect(screen.getByLabelText('Password so far').getAttribute('aria-invalid')).toBe('true'),
  );
  await user.click(save);
  await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
  expect(wire.sent.at(-1)).toMatchObject({
    path: '/api/password',
    body: { current: 'the old one', next: 'short no longer' },
  });
});

test('a phone is shown a code with the address, or its owner what to do so that there is one', async () => {
  new Wire().has('/api/addresses', ['https://192.168.1.20:4310']);
  show(<PhonePanel />);
  expect(await screen.findByText('https://192.168.1.20:4310', { selector: 'span' })).toBeTruthy();
  expect(screen.getByRole('img', { name: 'https://192.168.1.20:4310' })).toBeTruthy();
});

test('where only this computer can open it, it says how others can', async () => {
  new Wire().has('/api/addresses', []);
  show(<PhonePanel />, { language: 'de' });
  expect(await screen.findByText(/HOST=0\.0\.0\.0 npm start/)).toBeTruthy();
});

test('a device gets the workshop among its programs by the browser’s own offer, or is told where to find it', async () => {
  new Wire().has('/api/addresses', []);
  startInstall();
  const { user } = show(<PhonePanel />);
  expect(await screen.findByText(/open the browser’s menu/)).toBeTruthy();
  let asked = 0;
  const prompt = () => Promise.resolve(void (asked += 1));
  const offer = Object.assign(new Event('beforeinstallprompt', { cancelable: true }), {
    prompt,
    userChoice: Promise.resolve({ outcome: 'accepted' as const }),
  });
  act(() => void window.dispatchEvent(offer));
  expect(offer.defaultPrevented).toBe(true);
  await user.click(await screen.findByRole('button', { name: 'Put it on this device' }));
  expect(asked).toBe(1);
  await waitFor(() => expect(screen.queryByRole('button', { name: 'Put it on this device' })).toBeNull());
});

test('in °F the slopes are in its degrees, and what is not typed stays what it was', async () => {
  const levels: unknown[] = [];
  const { user } = show(
    <CurveLevel value={{ fallingBelow: -0.37, risingAbove: 0.5 }} onChange={(level) => levels.push(level)} />,
    { workshop: { temperatureUnit: '°F' } },
  );
  expect(screen.getByLabelText<HTMLInputElement>('from, °F/min').value).toBe('−0.67');
  const high = screen.getByLabelText<HTMLInputElement>('to, °F/min');
  expect(high.value).toBe('0.90');
  await user.clear(high);
  await user.type(high, '1.8');
  expect(levels.at(-1)).toEqual({ fallingBelow: -0.37, risingAbove: 1 });
});

test('the slopes of a level cooling curve are read as they are typed; upside down they are refused and nothing changes', async () => {
  const levels: unknown[] = [];
  const { user } = show(
    <CurveLevel value={{ fallingBelow: -0.5, risingAbove: 0.5 }} onChange={(level) => levels.push(level)} />,
    { language: 'de' },
  );
  const [low, high] = [
    screen.getByLabelText<HTMLInputElement>(/^von/),
    screen.getByLabelText<HTMLInputElement>(/^bis/),
  ];
  expect([low.value, high.value]).toEqual(['−0,5', '0,5']);
  expect(screen.queryByText(/über der unteren/)).toBeNull();
  await user.clear(high);
  await user.type(high, '-1,2');
  expect(screen.getByText(/über der unteren/)).toBeTruthy();
  expect(levels).toEqual([]);
  await user.clear(low);
  await user.type(low, '-2');
  expect(levels.at(-1)).toEqual({ fallingBelow: -2, risingAbove: -1.2 });
});
