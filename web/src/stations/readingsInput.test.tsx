/** @jest-environment <rootDir>/scripts/pageEnvironment.mjs */
import { screen, waitFor, within } from '@testing-library/react';
import { show, Wire, type PageOptions } from '../testing/page.tsx';
import { batchView, idOf, step } from '../testing/views.ts';
import { ReadingsInput } from './ReadingsInput.tsx';

function open(options: PageOptions = {}) {
  const roast = step('roast');
  const wire = new Wire();
  const page = show(
    <ReadingsInput view={batchView({ steps: [roast] })} step={roast} place="bean" min={0} max={260} />,
    options,
  );
  const file = async (text: string) => {
    const input = document.querySelector<HTMLInputElement>('input[type=file]')!;
    await page.user.upload(input, new File([text], 'roast.csv', { type: 'text/csv' }));
    return within(await screen.findByRole('dialog'));
  };
  return { ...page, wire, file };
}
const plain = (element: Element | null) => (element?.textContent ?? '').replace(/\u00a0/g, ' ');
const said = (wire: Wire) =>
  wire.sent.at(-1)!.body as { startedAt: string; seconds: number[]; celsius: number[]; place: string };

test('a temperature by hand is one reading, in the unit it is typed in', async () => {
  const { user, wire } = open({ workshop: { temperatureUnit: '°F' } });
  const box = screen.getByRole<HTMLInputElement>('textbox');
  await user.type(box, '248');
  await user.keyboard('{Enter}');
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  const { data } = wire.sent[0]!.body as { data: { celsius: number } };
  expect(data.celsius).toBeCloseTo(120, 9);
  expect(box.value).toBe('');
});

test('a file of minutes and °F in a German hand is read, shown, and taken as one act', async () => {
  const { user, wire, file } = open();
  const dialog = await file('Minute;Temperatur °F\n0;77,0\n1;95,0\n2;113,0\n');
  expect(plain(dialog.getByText(/readings over/))).toBe('3 readings over 2 min, from 25.0 °C to 45.0 °C.');
  await user.dblClick(dialog.getByRole('button', { name: 'Take these readings' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(said(wire).seconds).toEqual([0, 60, 120]);
  said(wire).celsius.forEach((c, i) => expect(c).toBeCloseTo(25 + 10 * i, 6));
  // Nothing in it says when: it began with the step.
  expect(said(wire)).toMatchObject({ place: 'bean', startedAt: '2026-11-21T08:00:00Z' });
});

test('what was guessed can be put right before it is taken', async () => {
  const { user, wire, file } = open();
  const dialog = await file('a,b,c\n0,20,200\n1,21,190\n2,22,180\n');
  await user.selectOptions(dialog.getByRole('combobox', { name: 'Temperature is in column' }), '2');
  await user.click(dialog.getByRole('radio', { name: '°F' }));
  await user.click(dialog.getByRole('radio', { name: 'seconds' }));
  await user.click(dialog.getByRole('button', { name: 'Take these readings' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(said(wire).seconds).toEqual([0, 1, 2]);
  expect(said(wire).celsius[0]).toBeCloseTo((200 - 32) / 1.8, 3);
});

test('rows that make no sense are shown with their number, and the rest is taken', async () => {
  const { file } = open();
  const dialog = await file('s,°C\n0,20\n60,hot\n120,40\n');
  expect(dialog.getByText('1 row makes no sense')).toBeTruthy();
  expect(plain(dialog.getByText(/^Row 3/))).toMatch(/hot/);
  expect(plain(dialog.getByText(/readings over/))).toMatch(/^2 readings/);
});

test('a file without a single reading cannot be taken', async () => {
  const { file } = open();
  const dialog = await file('hello\nworld\n');
  expect(dialog.getByText('No row of this file holds a time and a temperature.')).toBeTruthy();
  expect(dialog.getByRole<HTMLButtonElement>('button', { name: 'Take these readings' }).disabled).toBe(true);
});

test('what is refused says why and leaves the file to be taken again', async () => {
  const { user, wire, file } = open();
  const dialog = await file('s,°C\n0,20\n60,30\n');
  wire.refuse({ status: 409, code: 'step-closed', detail: 'closed' });
  await user.click(dialog.getByRole('button', { name: 'Take these readings' }));
  expect((await dialog.findByRole('alert')).textContent).not.toBe('');
  await user.click(dialog.getByRole('button', { name: 'Take these readings' }));
  await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
  expect(said(wire).seconds).toEqual([0, 60]);
  expect(wire.sent[0]!.path).toMatch(new RegExp(`^/api/readings/(?!${idOf(20)})`));
});
