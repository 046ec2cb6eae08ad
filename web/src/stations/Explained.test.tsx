import { cleanup, screen, waitFor } from '@testing-library/react';
import { show, Wire } from '../testing/page.tsx';
import { atStation, batchView, step } from '../testing/views.ts';
import { Explained } from './Explained.tsx';
import { StationFrame } from './StationFrame.tsx';

afterEach(() => localStorage.removeItem('wunsch.explained'));

const region = () => screen.queryByRole('region', { name: 'How to read this' });

test('a station’s picture is explained once, after what is to be minded there has been read, and not again', async () => {
  new Wire().has('/api/cautions', ['grind']);
  const { user } = show(
    <>
      <Explained station="grind" />
      <Explained station="roast" />
    </>,
  );
  expect(await screen.findByText(/Dots are your readings/)).toBeTruthy();
  // The roast’s caution has not been read yet: one thing after the other.
  expect(screen.getAllByRole('region', { name: /How to read|So liest/ })).toHaveLength(1);
  await user.click(screen.getByRole('button', { name: 'I see' }));
  await waitFor(() => expect(region()).toBeNull());
  cleanup();
  new Wire().has('/api/cautions', ['grind', 'roast']);
  show(
    <>
      <Explained station="grind" />
      <Explained station="roast" />
    </>,
  );
  expect(await screen.findByText(/the thin one the oven/)).toBeTruthy();
  expect(screen.queryByText(/Dots are your readings/)).toBeNull();
});

test('a conche’s picture is another than the grinder’s', async () => {
  new Wire().has('/api/cautions', ['grind']);
  const { user } = show(<Explained station="grind" isConche />);
  expect(await screen.findByText(/how sour the chocolate should be/)).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'I see' }));
  await waitFor(() => expect(region()).toBeNull());
  cleanup();
  new Wire().has('/api/cautions', ['grind']);
  show(<Explained station="grind" />);
  expect(await screen.findByText(/Dots are your readings/)).toBeTruthy();
});

test('a station without a picture explains nothing; a taster is not asked for cautions first', async () => {
  new Wire();
  show(
    <>
      <Explained station="sort" />
      <Explained station="taste" />
    </>,
    { role: 'taster', language: 'de' },
  );
  expect(await screen.findByText(/Jeder Balken ist ein Geschmack/)).toBeTruthy();
  expect(screen.getAllByRole('region', { name: /How to read|So liest/ })).toHaveLength(1);
});

test.each(['grind', 'temper', 'mould'] as const)(
  'at %s the picture is explained once it is drawn, while work goes on',
  async (station) => {
    const at = async (status: 'open' | 'closed') => {
      const view = batchView({ steps: [step(station, { status })] });
      atStation(new Wire(), view).has('/api/cautions', [station]);
      const { unmount } = show(<StationFrame station={station}>{() => <p>the work</p>}</StationFrame>, {
        route: `/${station}/:batchId`,
        at: `/${station}/${view.batch.id}`,
      });
      await screen.findByText('the work');
      return unmount;
    };
    const unmount = await at('closed');
    expect(region()).toBeNull();
    unmount();
    await at('open');
    await waitFor(() => expect(region()).toBeTruthy());
  },
);
