import { screen, waitFor } from '@testing-library/react';
import { show, Wire, type PageOptions } from '../../testing/page.tsx';
import { batchView, idOf, movement, step } from '../../testing/views.ts';
import type { BatchView, StepRecord } from '@wunsch/contract';
import { FillPanel } from './FillPanel.tsx';
import { Pour, usePouring } from './Pour.tsx';
import { useFillWeights } from './useFillWeights.ts';

function Filling({ view, of, nominalMg }: { view: BatchView; of: StepRecord; nominalMg: number }) {
  return <FillPanel weighed={useFillWeights(view, of)} nominalMg={nominalMg} pricePerKg={2000} />;
}

let steps = 400;

/** A moulding of its own each time: what is weighed is kept on the device by step. */
async function pouring(nominalMg = 60_000, options?: PageOptions) {
  const wire = new Wire();
  const pour = step('mould', { id: idOf((steps += 1)) });
  const { user } = show(
    <Filling view={batchView({ steps: [pour] })} of={pour} nominalMg={nominalMg} />,
    options,
  );
  const weigh = async (...texts: string[]) => {
    for (const text of texts) await user.type(screen.getByLabelText(/^Bar \d+ weighs$/), `${text}{Enter}`);
  };
  const verdict = () => screen.getByTestId('fill-verdict').textContent;
  return { wire, user, weigh, verdict, pour };
}

test('bars are weighed one after the other; what was typed wrongly goes back; all is one entry', async () => {
  const { wire, user, weigh, pour } = await pouring();
  await weigh('60.4', '61', '6');
  // A tenth of a bar is a slip: it is asked about, and not counted.
  expect(screen.getByLabelText('Bar 3 weighs').getAttribute('aria-invalid')).toBe('true');
  await user.clear(screen.getByLabelText('Bar 3 weighs'));
  await weigh('70');
  await user.click(screen.getByRole('button', { name: 'Take the last back' }));
  await weigh('60.9');
  await user.dblClick(screen.getByRole('button', { name: 'Keep 3 weights' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toMatchObject({
    stepId: pour.id,
    data: { kind: 'fillSample', nominalMg: 60_000, weightsMg: [60_400, 61_000, 60_900], changes: [] },
  });
});

test('five bars a gram over: fills as it should, so much less would do, and what it costs', async () => {
  const { weigh, verdict } = await pouring();
  await weigh('61.2', '60.9', '61.1', '60.8', '61.0');
  expect(verdict()).toMatch(/fills as it should.*Tap the scale: [\d.]+\sg less/);
  expect(screen.getByText(/£2\.00 on 100 bars/)).toBeTruthy();
});

test('where masses are pounds and ounces bars are weighed and judged in ounces', async () => {
  const { wire, user, weigh, verdict } = await pouring(60_000, { workshop: { massSystem: 'pounds' } });
  await weigh('2.05', '2.06', '2.05', '2.04', '2.05');
  // 60 g are 2.116 oz.
  expect(verdict()).toMatch(/too little on average.*Fill 0\.07\soz more/);
  expect(screen.getByText(/^2\.05\soz$/)).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Keep 5 weights' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toMatchObject({
    data: { nominalMg: 60_000, weightsMg: [58_117, 58_400, 58_117, 57_833, 58_117] },
  });
});

test('one bar short by twice the tolerable error stands out at once', async () => {
  const { weigh, verdict } = await pouring();
  await weigh('60.2', '50.8');
  expect(verdict()).toMatch(/one is far too short/);
  expect(screen.getByText(/1 short by over 9(\.0)? g/)).toBeTruthy();
});

test('after the fill was changed a new sample begins; what was before is kept apart', async () => {
  const { wire, user, weigh, verdict } = await pouring();
  await weigh('57', '57.2', '56.9', '57.1', '57');
  expect(verdict()).toMatch(/too little on average.*Fill [\d.]+\sg more/);
  await user.click(screen.getByRole('button', { name: 'I changed the fill' }));
  expect(screen.getByText('The next bar begins a new sample.')).toBeTruthy();
  await weigh('60.3', '60.5');
  expect(verdict()).toMatch(/fills as it should/);
  expect(screen.getByText('From bar 6 on, since the fill was changed.')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Keep 7 weights' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toMatchObject({ data: { changes: [5] } });
});

test('bars recorded before the weights were kept take them along, once', async () => {
  const wire = new Wire().has('/api/moulds', []).has('/api/mouldings', []);
  const pour = step('mould', { id: idOf((steps += 1)) });
  const view = batchView({
    steps: [pour],
    movements: [{ ...movement('in', 600_000, { material: 'tempered chocolate' }), stepId: pour.id }],
  });
  function Both() {
    const weighed = useFillWeights(view, pour);
    return (
      <>
        <FillPanel weighed={weighed} nominalMg={60_000} pricePerKg={null} />
        <Pour view={view} step={pour} part={1} pouring={usePouring(view, pour)} onCounted={weighed.keep} />
      </>
    );
  }
  const { user } = show(<Both />);
  for (const text of ['60.2', '59.8'])
    await user.type(screen.getByLabelText(/^Bar \d+ weighs$/), `${text}{Enter}`);
  await user.click(await screen.findByRole('button', { name: /^Record 9 bars/ }));
  await waitFor(() => expect(wire.sent).toHaveLength(2));
  expect(wire.sent[0]!.body).toMatchObject({ data: { kind: 'fillSample', weightsMg: [60_200, 59_800] } });
  expect(wire.sent[1]!.body).toMatchObject({ made: [{ count: 9 }] });
  expect(screen.getByLabelText('Bar 1 weighs')).toBeTruthy();
});
