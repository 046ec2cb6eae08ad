import { screen, waitFor } from '@testing-library/react';
import type { CalendarAddressPut } from '@wunsch/contract';
import { show, Wire } from '../testing/page.tsx';
import { idOf } from '../testing/views.ts';
import { CalendarDialog } from './CalendarDialog.tsx';

const make = () => screen.getByRole('button', { name: 'Make a private address' });

test('an address is made with the workshop’s own in its network, and the server is told its fingerprint only', async () => {
  const wire = new Wire().has('/api/addresses', ['https://192.168.7.20:4311']);
  const { user } = show(<CalendarDialog onClose={() => undefined} />);
  await user.click(make());
  const address = await screen.findByLabelText('Give this address to your calendar');
  const { value } = address as HTMLInputElement;
  const [, token] = /^https:\/\/192\.168\.7\.20:4311\/api\/calendars\/([0-9a-f]{48})\.ics\?language=en$/.exec(
    value,
  )!;
  const { tokenHash } = wire.sent[0]!.body as CalendarAddressPut;
  // As the server reckons it: by what Node itself has.
  const digest = await crypto.subtle.digest('SHA-256', new TextEncoder().encode(token));
  expect(tokenHash).toBe([...new Uint8Array(digest)].map((b) => b.toString(16).padStart(2, '0')).join(''));
  expect(JSON.stringify(wire.sent)).not.toContain(token);
  expect(screen.queryByText(/listens to this machine alone/)).toBeNull();
});

test('a workshop without HTTPS makes one too, and a second tap while one is made makes no second', async () => {
  expect(window.isSecureContext).toBeFalsy();
  const wire = new Wire().has('/api/addresses', []);
  const { user } = show(<CalendarDialog onClose={() => undefined} />);
  wire.hold();
  await user.click(make());
  await waitFor(() => expect(make()).toHaveProperty('disabled', true));
  await user.click(make());
  wire.release();
  await screen.findByLabelText('Give this address to your calendar');
  expect(wire.sent).toHaveLength(1);
  // What nobody else can reach is said to be so.
  expect(screen.getByText(/listens to this machine alone/)).toBeTruthy();
});

test('a refusal leaves the button, and shows no address', async () => {
  const wire = new Wire();
  const { user } = show(<CalendarDialog onClose={() => undefined} />);
  wire.refuse({ status: 403, code: 'not-allowed' });
  await user.click(make());
  await waitFor(() => expect(make()).toHaveProperty('disabled', false));
  expect(wire.sent).toHaveLength(1);
  expect(screen.queryByLabelText('Give this address to your calendar')).toBeNull();
});

test('an address given out is revoked', async () => {
  const wire = new Wire().has('/api/calendar-addresses', [
    { id: idOf(70), personId: idOf(1), createdAt: '2026-11-02T09:00:00Z' },
  ]);
  const { user } = show(<CalendarDialog onClose={() => undefined} />, { language: 'de' });
  await user.click(await screen.findByRole('button', { name: 'Widerrufen' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]).toMatchObject({ body: { addressId: idOf(70) } });
  expect(wire.sent[0]!.path).toMatch(/^\/api\/calendar-address-ends\//);
});
