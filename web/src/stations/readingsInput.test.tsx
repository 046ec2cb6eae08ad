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

/** A log every 5 s: preheated to 190 °C for ten minutes, then beans from 22 °C. */
const drum = (cell: (seconds: number) => string) =>
  [
    'time,°C',
    ...Array.from({ length: 360 }, (_, i) => {
      const since = 5 * i - 600;
      const celsius =
        since < 0
          ? 24 + 166 * (1 - Math.exp(-(5 * i) / 90))
          : 22 + 100 * (1 - Math.exp(-since / 420)) + 120 * Math.exp(-since / 15);
      return `${cell(5 * i)},${celsius.toFixed(1)}`;
    }),
  ].join('\n');
const minutesBefore = (wire: Wire) =>
  (Date.parse('2026-11-21T08:00:00Z') - Date.parse(said(wire).startedAt)) / 60_000;

test('a log that begins with the preheating is laid so that the beans go in at the step’s beginning', async () => {
  const { user, wire, file } = open();
  const dialog = await file(drum(String));
  const begins = dialog.getByLabelText<HTMLInputElement>('In the file the beans go in at (min)');
  expect(Math.abs(Number(begins.value) - 10)).toBeLessThan(0.3);
  expect(dialog.getByText(/falls deep at/)).toBeTruthy();
  await user.clear(begins);
  await user.type(begins, '10');
  await user.click(dialog.getByRole('button', { name: 'Take these readings' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(minutesBefore(wire)).toBe(10);
  expect(said(wire).seconds).toHaveLength(360);
});

const dated = (from: string) => drum((s) => new Date(Date.parse(from) + 1000 * s).toISOString());

test('a file with dates that fit stays where its clock has it', async () => {
  const { user, wire, file } = open();
  const dialog = await file(dated('2026-11-21T07:50:00Z'));
  expect(dialog.getByRole<HTMLInputElement>('radio', { name: 'by its own clock' })).toHaveProperty(
    'ariaChecked',
    'true',
  );
  expect(dialog.queryByLabelText(/the beans go in/)).toBeNull();
  await user.click(dialog.getByRole('button', { name: 'Take these readings' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(Date.parse(said(wire).startedAt)).toBe(Date.parse('2026-11-21T07:50:00Z'));
});

test('a roast entered after it was done: the file lies before the step by its clock, and is laid on its beginning', async () => {
  const { user, wire, file } = open();
  const dialog = await file(dated('2026-11-21T05:10:00Z'));
  expect(dialog.getByText(/^The file begins .*the step/)).toBeTruthy();
  await user.click(dialog.getByRole('button', { name: 'Take these readings' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(Math.abs(minutesBefore(wire) - 10)).toBeLessThan(0.3);
  await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
  // Whoever knows better says so.
  const again = await file(dated('2026-11-21T05:10:00Z'));
  await user.click(again.getByRole('radio', { name: 'by its own clock' }));
  await user.click(again.getByRole('button', { name: 'Take these readings' }));
  await waitFor(() => expect(wire.sent).toHaveLength(2));
  expect(minutesBefore(wire)).toBe(170);
});
