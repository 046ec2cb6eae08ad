import { screen, waitFor, within } from '@testing-library/react';
import type { BatchView } from '@wunsch/contract';
import { Weights } from '../batch/Weights.tsx';
import { EndDialog } from '../batch/EndDialog.tsx';
import { show, Wire } from '../testing/page.tsx';
import { batchView, idOf, movement, step } from '../testing/views.ts';
import { BalanceBar, CloseStep, StepLines } from './StepLedger.tsx';

const plain = (text: string | null | undefined) => (text ?? '').replace(/[\u00a0\u202f]/g, ' ');
const winnow = step('winnow', { startedAt: new Date(Date.now() - 25 * 60_000).toISOString() });

/** 11.002 kg in, nibs and husk out. */
function winnowed(nibs: number, husk: number, more: Partial<BatchView> = {}): BatchView {
  return batchView({
    steps: [winnow],
    movements: [
      movement('in', 11_002_000, { material: 'roasted beans', parcelId: idOf(31) }),
      movement('out', nibs, { material: 'nibs', parcelId: idOf(32) }),
      movement('out', husk, { material: 'husk', parcelId: idOf(33) }),
    ],
    ...more,
  });
}

test('the balance says what is still open, is even, or came out too much', () => {
  const told = (nibs: number, husk: number) => {
    const page = show(<BalanceBar view={winnowed(nibs, husk)} step={winnow} />);
    const text = plain(document.body.textContent);
    page.unmount();
    return text;
  };
  expect(told(9_380_000, 1_490_000)).toMatch(/132 g/);
  expect(told(9_380_000, 1_622_000)).toMatch(/balance|even|adds up|all/i);
  expect(told(9_900_000, 1_490_000)).toMatch(/388 g/);
});

describe('closing a step', () => {
  test('proposes the usual name for what is missing, and sends the name and not its translation', async () => {
    const wire = new Wire();
    const { user } = show(
      <CloseStep view={winnowed(9_380_000, 1_490_000)} step={winnow} label="Winnowing beenden" />,
      {
        language: 'de',
      },
    );
    await user.click(screen.getByRole('button', { name: 'Winnowing beenden' }));
    const dialog = within(screen.getByRole('dialog'));
    // Shown in German: sweepings is Kehricht.
    expect(dialog.getAllByRole<HTMLInputElement>('textbox')[0]!.value).toBe('Kehricht');
    await user.click(dialog.getByRole('button', { name: 'Winnowing beenden' }));
    await waitFor(() => expect(wire.sent).toHaveLength(1));
    expect(wire.sent[0]).toMatchObject({
      path: `/api/steps/${idOf(20)}/close`,
      body: { remainder: 'sweepings', handsOnMinutes: 25 },
    });
  });

  test('counts the minutes as of when it is pressed, not as of when the page was opened', async () => {
    const wire = new Wire();
    const { user } = show(<CloseStep view={winnowed(9_380_000, 1_490_000)} step={winnow} label="Finish" />);
    const clock = Date.now;
    try {
      Date.now = () => clock() + 40 * 60_000;
      await user.click(screen.getByRole('button', { name: 'Finish' }));
      const dialog = within(screen.getByRole('dialog'));
      await user.click(dialog.getByRole('button', { name: 'Finish' }));
      await waitFor(() => expect(wire.sent).toHaveLength(1));
    } finally {
      Date.now = clock;
    }
    expect(wire.sent[0]!.body).toMatchObject({ handsOnMinutes: 65 });
  });

  test('asks where more is left over than beans can have lost', async () => {
    new Wire();
    const { user } = show(<CloseStep view={winnowed(938_000, 1_490_000)} step={winnow} label="Finish" />);
    await user.click(screen.getByRole('button', { name: 'Finish' }));
    const dialog = within(screen.getByRole('dialog'));
    expect(plain(dialog.getByText(/would be gone/).textContent)).toMatch(/78 %.*usually 0 % to 1 %/);
  });

  test('takes a maker’s own name, and the minutes hands were on it', async () => {
    const wire = new Wire();
    const { user } = show(<CloseStep view={winnowed(9_380_000, 1_490_000)} step={winnow} label="Finish" />);
    await user.click(screen.getByRole('button', { name: 'Finish' }));
    const [name, minutes] = within(screen.getByRole('dialog')).getAllByRole<HTMLInputElement>('textbox');
    await user.clear(name!);
    await user.type(name!, 'blown over the wall');
    await user.clear(minutes!);
    await user.type(minutes!, '1h10');
    await user.click(within(screen.getByRole('dialog')).getByRole('button', { name: 'Finish' }));
    await waitFor(() => expect(wire.sent).toHaveLength(1));
    expect(wire.sent[0]!.body).toMatchObject({ remainder: 'blown over the wall', handsOnMinutes: 70 });
  });

  test('more out than in is said, named unexplained, and asks for no name', async () => {
    const wire = new Wire();
    const { user } = show(<CloseStep view={winnowed(9_900_000, 1_490_000)} step={winnow} label="Finish" />);
    await user.click(screen.getByRole('button', { name: 'Finish' }));
    const dialog = within(screen.getByRole('dialog'));
    expect(plain(document.body.textContent)).toMatch(/388 g/);
    expect(dialog.getAllByRole('textbox')).toHaveLength(1);
    await user.click(dialog.getByRole('button', { name: 'Finish' }));
    await waitFor(() => expect(wire.sent).toHaveLength(1));
    expect(wire.sent[0]!.body).toMatchObject({ remainder: 'unexplained' });
  });

  test('a step in which nothing was weighed cannot be closed', () => {
    show(<CloseStep view={batchView({ steps: [winnow] })} step={winnow} label="Finish" />);
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Finish' }).disabled).toBe(true);
  });

  test('what the server refuses is said in the dialog, which stays', async () => {
    const wire = new Wire();
    const { user } = show(<CloseStep view={winnowed(9_380_000, 1_490_000)} step={winnow} label="Finish" />);
    await user.click(screen.getByRole('button', { name: 'Finish' }));
    wire.refuse({ code: 'brand-new', detail: 'a load is still in the oven' });
    await user.click(within(screen.getByRole('dialog')).getByRole('button', { name: 'Finish' }));
    await waitFor(() =>
      expect(within(screen.getByRole('dialog')).getByText('a load is still in the oven')).toBeTruthy(),
    );
  });
});

describe('correcting a weight', () => {
  const old = movement('out', 9_308_000, { material: 'nibs', inForce: false, by: 'JB' });
  const now = movement('out', 9_380_000, {
    material: 'nibs',
    replaces: old.id,
    correctionReason: 'digits swapped',
  });
  const view = batchView({ steps: [winnow], movements: [old, now] });

  test('the line shows what it was and whose it was', () => {
    show(<StepLines view={view} step={winnow} />);
    const [line, ...more] = screen.getAllByRole('listitem');
    expect(plain(line!.textContent)).toMatch(/9\.31 kg.*JB/);
    expect(more).toEqual([]);
  });

  test('what was on hold and used all the same says so, in the reader’s language', () => {
    const held = movement('in', 10_000_000, { material: 'roasted beans', holdOverride: 'AK: papers came' });
    show(<StepLines view={batchView({ steps: [winnow], movements: [held] })} step={winnow} />, {
      language: 'de',
    });
    expect(screen.getByRole('listitem').textContent).toContain(
      'gesperrt, trotzdem genommen: AK: papers came',
    );
  });

  test('the right weight goes with its reason; the same weight is no correction', async () => {
    const wire = new Wire();
    const { user } = show(<StepLines view={view} step={winnow} />);
    await user.click(screen.getByRole('button', { name: /Correct.*nibs/i }));
    const dialog = within(screen.getByRole('dialog'));
    // All earlier values can be read, with the reason each was changed for.
    expect(plain(screen.getByRole('dialog').textContent)).toMatch(/9\.31 kg\s+JB/);
    const [weight, why] = dialog.getAllByRole<HTMLInputElement>('textbox');
    const correct = dialog.getAllByRole<HTMLButtonElement>('button').find((b) => b.type === 'submit')!;
    expect(correct.disabled).toBe(true);
    await user.clear(weight!);
    await user.type(weight!, '9.038 kg');
    await user.type(why!, 'wrong line');
    await user.click(correct);
    await waitFor(() => expect(wire.sent).toHaveLength(1));
    expect(wire.sent[0]!.body).toEqual({ movementId: now.id, massMg: 9_038_000, reason: 'wrong line' });
  });

  test('bars follow their mass: half of it is half as many', async () => {
    const wire = new Wire();
    const bars = movement('out', 6_000_000, { material: 'bars', count: 100 });
    const { user } = show(
      <StepLines view={batchView({ steps: [winnow], movements: [bars] })} step={winnow} />,
    );
    await user.click(screen.getByRole('button', { name: /Correct.*bars/i }));
    const dialog = within(screen.getByRole('dialog'));
    const [weight] = dialog.getAllByRole<HTMLInputElement>('textbox');
    await user.clear(weight!);
    await user.type(weight!, '3 kg{Enter}');
    await waitFor(() => expect(wire.sent).toHaveLength(1));
    expect(wire.sent[0]!.body).toMatchObject({ massMg: 3_000_000, count: 50 });
  });
});

describe('weights that disagree', () => {
  const disagreement = (suspects: readonly object[]) => ({
    chiSquare: 33.97,
    degreesOfFreedom: 3,
    pValue: 2e-7,
    disagrees: true,
    likeliestStepId: idOf(20),
    likeliestStation: 'winnow' as const,
    suspects,
  });

  test('a group that cannot be told apart is named as one, with about how much it is short', () => {
    const view = winnowed(9_380_000, 1_390_000);
    const [, nibs, husk] = view.movements;
    show(
      <Weights
        view={{
          ...view,
          disagreement: disagreement([
            { movementId: nibs!.id, label: 'nibs', massMg: 9_380_000, shortByMg: 173_000 },
            { movementId: husk!.id, label: 'husk', massMg: 1_390_000, shortByMg: 173_000 },
            { movementId: null, label: 'sweepings', massMg: 60_000, shortByMg: 173_000 },
          ]) as never,
        }}
      />,
    );
    const text = plain(screen.getByRole('region', { name: 'Weights disagree' }).textContent);
    expect(text).toMatch(/173 g/);
    expect(text).toMatch(/winnow/);
    expect(text).toMatch(/nibs, husk, sweepings/i);
    expect(text).toMatch(/< 0\.001/);
  });

  test('where no entry can be named, only the step is', () => {
    const view = winnowed(9_380_000, 1_490_000);
    show(<Weights view={{ ...view, disagreement: disagreement([]) as never }} />);
    const region = screen.getByRole('region', { name: 'Weights disagree' });
    expect(within(region).queryByRole('button')).toBeNull();
    expect(plain(region.textContent)).toMatch(/winnow/);
  });

  test('whoever may only look reads it and is offered nothing', () => {
    show(<Weights view={winnowed(9_380_000, 1_490_000)} />, { role: 'viewer' });
    expect(screen.queryByRole('button', { name: /Correct/ })).toBeNull();
    expect(screen.getAllByRole('row').length).toBe(4);
  });
});

test('a batch is abandoned with its reason or not at all', async () => {
  const wire = new Wire();
  let closed = 0;
  const { user } = show(<EndDialog view={batchView()} state="abandoned" onClose={() => (closed += 1)} />);
  const button = screen.getAllByRole<HTMLButtonElement>('button').find((b) => b.type === 'submit')!;
  expect(button.disabled).toBe(true);
  await user.type(screen.getByRole('textbox'), 'seized: water from the ice');
  await user.click(button);
  await waitFor(() => expect(closed).toBe(1));
  expect(wire.sent[0]).toMatchObject({
    path: `/api/batches/${idOf(10)}/state`,
    body: { state: 'abandoned', reason: 'seized: water from the ice' },
  });
});
