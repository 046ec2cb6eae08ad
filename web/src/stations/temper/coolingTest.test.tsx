import { cleanup, screen, waitFor } from '@testing-library/react';
import { Wire, show } from '../../testing/page.tsx';
import { batchView, step } from '../../testing/views.ts';
import { CoolingTest } from './CoolingTest.tsx';

/** A sample that sets late and all at once: its temperature rises again. */
function rows(): [number, number][] {
  let celsius = 31;
  return Array.from({ length: 300 }, (_, s) => {
    const released = (9 / (20 * Math.sqrt(2 * Math.PI))) * Math.exp(-(((s - 150) / 20) ** 2) / 2);
    celsius += -(celsius - 8) / 90 + released;
    return [s, Math.round(celsius * 100) / 100];
  });
}

test('a sample comes in from a file and is judged by its slope', async () => {
  const wire = new Wire();
  const now = step('temper');
  const { user } = show(<CoolingTest view={batchView({ steps: [now] })} step={now} />);
  const file = new File(
    [
      `seconds,sample °C\n${rows()
        .map((r) => r.join(','))
        .join('\n')}`,
    ],
    'sample.csv',
    {
      type: 'text/csv',
    },
  );
  await user.upload(document.querySelector<HTMLInputElement>('input[type=file]')!, file);
  const dialog = await screen.findByRole('dialog');
  await user.click(
    [...dialog.querySelectorAll('button')].find((b) => /300|take/i.test(b.textContent ?? ''))!,
  );
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  const { data } = wire.sent[0]!.body as { data: { kind: string; points: [number, number][] } };
  expect(data.kind).toBe('coolingCurve');
  expect(data.points).toHaveLength(300);
});

test('between which slopes a curve is level is the workshop’s own; in °F it is told in °F', async () => {
  const now = step('temper');
  const view = batchView({ steps: [now] });
  show(<CoolingTest view={view} step={now} />);
  expect(await screen.findByText(/Level from −0\.5 to 0\.5 °C\/min/)).toBeTruthy();
  cleanup();
  show(<CoolingTest view={view} step={now} />, {
    workshop: { temperatureUnit: '°F', curveLevel: { fallingBelow: -1, risingAbove: 0.2 } },
  });
  expect(await screen.findByText(/Level from −1\.8 to 0\.4 °F\/min/)).toBeTruthy();
});
