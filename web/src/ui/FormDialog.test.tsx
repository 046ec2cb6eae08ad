import { screen, waitFor } from '@testing-library/react';
import { useState } from 'react';
import { newId } from '../shell/entry.ts';
import { useEntryHere } from '../shell/useEntryHere.ts';
import { show, Wire } from '../testing/page.tsx';
import { Button } from './Button.tsx';
import { TextField } from './Field.tsx';
import { FormDialog } from './FormDialog.tsx';

function Asking({ onClose }: { onClose: () => void }) {
  const send = useEntryHere();
  const [why, setWhy] = useState('');
  const tell = (reason: string) => send({ path: `/api/things/${newId()}`, body: { reason }, label: 'Told' });
  return (
    <FormDialog
      title="Tell"
      submit="Tell it"
      isReady={why.trim() !== ''}
      onSubmit={() => tell(why)}
      also={({ busy, run }) => (
        <Button disabled={busy} onClick={() => run(() => tell('nothing'))}>
          Say nothing
        </Button>
      )}
      onClose={onClose}
    >
      <TextField label="Why" value={why} onChange={(e) => setWhy(e.target.value)} />
    </FormDialog>
  );
}

function open() {
  const wire = new Wire();
  let closed = 0;
  const { user } = show(<Asking onClose={() => (closed += 1)} />);
  const tell = () => screen.getByRole<HTMLButtonElement>('button', { name: 'Tell it' });
  return { wire, user, tell, closed: () => closed };
}

test('nothing is sent before enough is known, by button or by Enter', async () => {
  const { wire, user, tell, closed } = open();
  expect(tell().disabled).toBe(true);
  await user.type(screen.getByLabelText('Why'), ' {Enter}');
  expect([wire.sent.length, closed()]).toEqual([0, 0]);
  await user.type(screen.getByLabelText('Why'), 'damp{Enter}');
  await waitFor(() => expect(closed()).toBe(1));
  expect(wire.sent[0]!.body).toMatchObject({ reason: ' damp' });
});

test('what is refused is said, what was typed stays, and it can be sent again', async () => {
  const { wire, user, tell, closed } = open();
  await user.type(screen.getByLabelText('Why'), 'damp');
  wire.refuse({ status: 422, code: 'not-valid', detail: 'name the parcel' });
  await user.click(tell());
  await waitFor(() => expect(screen.getByRole('alert').textContent).toMatch(/parcel/));
  expect(screen.getByLabelText<HTMLInputElement>('Why').value).toBe('damp');
  expect([tell().disabled, closed()]).toEqual([false, 0]);
  await user.click(tell());
  await waitFor(() => expect(closed()).toBe(1));
});

test('a second tap while it is sent sends nothing more, whichever button it hits', async () => {
  const { wire, user, tell, closed } = open();
  await user.type(screen.getByLabelText('Why'), 'wet');
  wire.hold();
  await user.click(tell());
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(tell().disabled).toBe(true);
  await user.click(tell());
  await user.click(screen.getByRole('button', { name: 'Say nothing' }));
  await user.type(screen.getByLabelText('Why'), '{Enter}');
  wire.release();
  await waitFor(() => expect(closed()).toBe(1));
  expect(wire.sent).toHaveLength(1);
});

test('something else can be done beside it, in the same way', async () => {
  const { wire, user, closed } = open();
  await user.click(screen.getByRole('button', { name: 'Say nothing' }));
  await waitFor(() => expect(closed()).toBe(1));
  expect(wire.sent[0]!.body).toMatchObject({ reason: 'nothing' });
});
