import { screen, waitFor, within } from '@testing-library/react';
import type { LabelView, MouldRecord } from '@wunsch/contract';
import { STARTER_DESIGNS, type LabelDesign } from '@wunsch/core/label';
import { planRounds } from '@wunsch/core/mould';
import { Wire, show } from '../../testing/page.tsx';
import { batchView, idOf, step } from '../../testing/views.ts';
import { Cabinet } from './Cabinet.tsx';
import { LabelChecks } from './LabelChecks.tsx';
import { LabelOptions } from './LabelOptions.tsx';
import { Lasts } from './Lasts.tsx';
import { MouldDialog } from './MouldDialog.tsx';
import { OutOfTheCold } from './OutOfTheCold.tsx';
import { shellPlanOf } from './Shells.tsx';
import { roundsAhead, roundsOf } from './useMoulding.ts';
import { Wrap } from './Wrap.tsx';

const pour = step('mould', { startedAt: '2026-11-25T09:00:00Z' });
const round = (n: number, at: string, dueAt: string, moulds = 4) => ({
  id: idOf(700 + n),
  batchId: idOf(10),
  stepId: pour.id,
  lotId: null,
  at,
  by: 'AK',
  data: { kind: 'round' as const, moulds, bars: moulds * 5, label: `Knock out round ${n}`, dueAt },
});

const soon = (minutes: number) => new Date(Date.now() + minutes * 60_000).toISOString();

test('a round goes in with one tap, and out with another; one that sticks is given more time', async () => {
  const wire = new Wire().has('/api/room', { at: soon(-3), celsius: 21, humidity: 64 });
  const view = batchView({
    steps: [pour],
    observations: [round(1, soon(-25), soon(-5)), round(2, soon(-4), soon(16))],
  });
  const { user } = show(
    <Cabinet
      view={view}
      step={pour}
      rounds={roundsOf(view, pour)}
      places={40}
      placesPerMould={4}
      cavities={5}
      next={{ moulds: 2, bars: 9 }}
      setMinutes={20}
    />,
  );
  expect(
    await screen.findByRole('img', {
      name: 'filled with a sheen: set, 16 · hatched: setting, 16 · empty: free, 8',
    }),
  ).toBeTruthy();
  // 21 °C at 64 % is moist, and its dew point stands there.
  expect(await screen.findByText(/dew point 13\.9/)).toBeTruthy();
  expect(screen.getByText(/The room holds 64 %/)).toBeTruthy();
  await user.click(screen.getByRole('button', { name: '5 more minutes' }));
  await user.click(screen.getByRole('button', { name: 'Round 1 is out' }));
  await user.click(screen.getByRole('button', { name: 'Round 3 is in, 9 bars' }));
  await waitFor(() => expect(wire.sent).toHaveLength(3));
  const bodies = wire.sent.map((s) => s.body as { data: object; replaces?: string });
  expect(bodies[0]).toMatchObject({ replaces: idOf(701), data: { kind: 'round', bars: 20 } });
  expect(bodies[1]!.data).toEqual({ kind: 'roundOut', roundId: idOf(701) });
  expect(bodies[2]!.data).toMatchObject({
    kind: 'round',
    moulds: 2,
    bars: 9,
    label: 'Knock out round 3, NKO-14',
  });
});

test('whether the bowl lasts is said in a sentence', () => {
  const problem = {
    cavities: 5,
    moulds: 10,
    places: null,
    placesPerMould: 1,
    fillMinutes: 1,
    turnMinutes: 0.5,
    setMinutes: 20,
    bowlMinutes: 8,
  };
  const at = (minutes: number) => Date.now() + minutes * 60_000;
  const say = (bars: number, end: Parameters<typeof Lasts>[0]['end']) => {
    const { unmount } = show(
      <Lasts rounds={[]} ahead={planRounds({ ...problem, bars })} end={end} pouredAt={at(-2)} />,
    );
    const text = screen.getByTestId('lasts').textContent;
    unmount();
    return text;
  };
  expect(say(30, { low: at(6), middle: at(8.2), high: at(12) })).toBe('yes, with 2 min in hand');
  expect(say(50, { low: at(6), middle: at(8), high: at(12) })).toBe('no, 2 min short: 40 more bars in time');
  expect(say(50, 'long')).toBe('for more than an hour');
  expect(say(50, null)).toBe('without the bowl’s log nobody can tell');
});

test('bars are wrapped off the stock into boxes as one entry, and never with more than there is', async () => {
  const supply = (name: string, n: number, left: number) => ({
    id: idOf(800 + n),
    ingredientId: null,
    name,
    remainingCount: left,
    parcelId: idOf(900 + n),
  });
  const wire = new Wire().has('/api/supplies', [supply('Foil', 1, 40), supply('Sleeve', 2, 10)]);
  const bars = {
    id: idOf(50),
    material: 'bars' as const,
    label: '',
    lotId: null,
    batchId: idOf(10),
    batchCode: 'NKO-14',
    lotCode: null,
    stepId: pour.id,
    remainingMg: 1_800_000,
    count: 30,
    place: 'shelf',
    onHold: false,
    madeAt: '2026-11-25T10:00:00Z',
  };
  const { user } = show(<Wrap view={batchView({ steps: [pour], parcels: [bars] })} />);
  await user.click(screen.getByRole('button', { name: 'Wrap these' }));
  const wrapping = await screen.findByRole('option', { name: 'Sleeve, 10 left ▲' });
  const choice = wrapping.closest('select')!;
  await user.selectOptions(choice, 'Sleeve, 10 left ▲');
  expect(screen.getByRole('alert').textContent).toContain('Only 10 of Sleeve are left');
  const record = () => screen.getByRole<HTMLButtonElement>('button', { name: /^Record \d+ bars? wrapped/ });
  expect(record().disabled).toBe(true);
  await user.selectOptions(choice, 'Foil, 40 left');
  await user.type(screen.getByLabelText('Of these broken'), '1');
  expect(screen.getByTestId('wrap-makes').textContent).toBe('2 boxes and 5 loose');
  await user.click(screen.getByRole('checkbox', { name: 'corners are whole' }));
  await user.click(record());
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toMatchObject({
    parcelId: bars.id,
    made: [{ count: 12 }, { count: 12 }, { count: 5, label: 'loose' }],
    packaging: [{ parcelId: idOf(901), count: 29 }],
    broken: { count: 1 },
    details: { lastLook: { gloss: true, corners: false, weight: true } },
  });
});

test('nothing is offered where no bars wait', () => {
  show(<Wrap view={batchView()} />);
  expect(screen.queryByText('Wrap and box')).toBeNull();
});

test('a cold bar is told to wait until it is above the dew point, with the room’s own air', async () => {
  new Wire().has('/api/room', { at: soon(-1), celsius: 21, humidity: 55 });
  const { user } = show(<OutOfTheCold barMg={60_000} />);
  const dew = screen.getByTestId('dew');
  await screen.findByText(/^room as of/);
  expect(dew.textContent).toContain('Open it: the bar is above the dew point of 11.6');
  const bar = screen.getByLabelText('Bar');
  await user.clear(bar);
  await user.type(bar, '6');
  expect(dew.textContent).toMatch(/^Wait 1\d min before opening: below 11\.6/);
});

test('a mould is kept with its cavities, fill and number', async () => {
  const wire = new Wire();
  const { user } = show(<MouldDialog mould={null} onClose={() => undefined} />);
  const save = screen.getByRole<HTMLButtonElement>('button', { name: 'Save' });
  await user.type(screen.getByLabelText('Name'), 'Flat bar');
  expect(save.disabled).toBe(true);
  await user.type(screen.getByLabelText('Cavities of a mould'), '5');
  await user.type(screen.getByLabelText('Fill of a cavity'), '60');
  await user.type(screen.getByLabelText('How many there are'), '14');
  await user.click(save);
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toMatchObject({
    name: 'Flat bar',
    cavities: 5,
    fillMg: 60_000,
    count: 14,
    places: 1,
  });
});

test('filled pieces are planned once all masses are there, and what cannot be says why', () => {
  expect(shellPlanOf({ pieces: 10, brimMg: 11_000 })).toBeNull();
  expect(shellPlanOf({ pieces: 10, brimMg: 5000, shellMg: 6000, fillingMg: 1, capMg: 0 })).toEqual({
    fault: 'shell-fills-cavity',
  });
  expect(shellPlanOf({ pieces: 10, brimMg: 11_000, shellMg: 5000, fillingMg: 8000, capMg: 1500 })).toEqual({
    fault: 'does-not-fit',
  });
  expect(
    shellPlanOf({ pieces: 10, brimMg: 11_000, shellMg: 5000, fillingMg: 6000, capMg: 1500 }),
  ).toMatchObject({
    plan: { drainMg: 60_000, chocolatePercent: 52 },
  });
});

test('what a label lacks stands first, in words', () => {
  const view: LabelView = {
    code: 'A',
    bars: 1,
    netMg: 60_000,
    front: '',
    back: null,
    fits: false,
    soldAs: null,
    source: 'a rule',
    places: 1,
    checks: [
      { name: 'batch', state: 'met', params: {} },
      { name: 'nutrition', state: 'look', params: {} },
      { name: 'fits', state: 'missing', params: { mm: 3.4, side: 'back', parts: 'storage,symbol' } },
      { name: 'netMass', state: 'missing', params: { mm: 1.2, needs: 3 } },
    ],
  };
  show(<LabelChecks view={view} market="EU" />);
  expect(screen.getAllByRole('listitem').map((li) => li.textContent)).toEqual([
    'Back: 3.4 mm too small. What could go: how to keep it, code.',
    'The net mass is missing or too small: 1.2 mm, needs 3 mm.',
    'No nutrition on it: makers of small amounts are often exempt. Are you?',
    'lot',
  ]);
  expect(screen.getByText('2 things are missing')).toBeTruthy();
});

test('a name of one’s own is held against the legal one, where what is inside has one', () => {
  const look = (rule: string): LabelView => ({
    code: 'A',
    bars: 1,
    netMg: 60_000,
    front: '',
    back: null,
    fits: true,
    soldAs: 'Marsh',
    source: 'a rule',
    places: 1,
    checks: [{ name: 'ownName', state: 'look', params: { name: 'Marsh', rule } }],
  });
  const german = { language: 'de' as const };
  const { unmount } = show(<LabelChecks view={look('bittersweet chocolate')} market="US" />, german);
  expect(screen.getByRole('listitem').textContent).toMatch(/die Bezeichnung \(Bitterschokolade\) muss/);
  unmount();
  show(<LabelChecks view={look('')} market="US" />, german);
  expect(screen.getByRole('listitem').textContent).toMatch(/die Bezeichnung muss dabeistehen/);
});

test('a part is moved to the back, another market brings its language, and a sheet is laid out', async () => {
  let design: LabelDesign = STARTER_DESIGNS.single!;
  const changes: Partial<LabelDesign>[] = [];
  const { user } = show(
    <LabelOptions
      design={design}
      onChange={(part) => {
        changes.push(part);
        design = { ...design, ...part };
      }}
    />,
  );
  await user.selectOptions(screen.getByLabelText('nutrition'), 'Back');
  expect(changes.at(-1)).toMatchObject({ back: ['nutrition'], nutrition: true });
  expect(changes.at(-1)!.front).not.toContain('nutrition');
  const market = screen.getByRole('radiogroup', { name: 'Market' });
  await user.click(within(market).getByText('United States'));
  expect(changes.at(-1)).toEqual({ market: 'US', languages: ['en'] });
  await user.click(screen.getByRole('checkbox', { name: 'several on a sheet of paper' }));
  expect(changes.at(-1)!.sheet).toMatchObject({ paper: 'A4', columns: 2, rows: 5 });
});

test('what other batches have in the cabinet is drawn, named, and leaves fewer places', async () => {
  new Wire().has('/api/room', null);
  const view = batchView({ steps: [pour], observations: [round(1, soon(-4), soon(16))] });
  show(
    <Cabinet
      view={view}
      step={pour}
      rounds={roundsOf(view, pour)}
      others={[
        {
          id: idOf(801),
          stepId: idOf(802),
          batchCode: 'TL-09',
          moulds: 5,
          bars: 25,
          places: 10,
          dueAt: soon(-1),
        },
      ]}
      places={40}
      placesPerMould={4}
      cavities={5}
      next={null}
      setMinutes={20}
    />,
  );
  expect(await screen.findByText('26 of 40 places')).toBeTruthy();
  expect(screen.getByText(/Of other batches: TL-09/)).toBeTruthy();
  expect(
    screen.getByRole('img', {
      name: 'filled with a sheen: set, 10 · hatched: setting, 16 · empty: free, 14',
    }),
  ).toBeTruthy();
});

test('rounds wait for the places other batches leave, and for no more of them than are needed', () => {
  const now = Date.parse('2026-11-25T10:00:00Z');
  const mould = { id: idOf(1), cavities: 5, count: 8, places: 4 } as MouldRecord;
  const wish = { bars: 40, mould, cavities: null, places: 40, setMinutes: 20, bowlMinutes: null };
  const of = (places: number, minutes: number) => [
    {
      id: 'r',
      stepId: 's',
      batchCode: 'TL-09',
      moulds: 1,
      bars: 5,
      places,
      dueAt: new Date(now + minutes * 60_000).toISOString(),
    },
  ];
  const plan = (others: ReturnType<typeof of>) => {
    const ahead = roundsAhead({ ...wish, others }, [], now);
    if (!ahead || ahead === 'too-wide') throw new Error('expected rounds');
    return ahead;
  };
  const alone = plan([]);
  // Eight moulds of four places need 32 of the 40: eight places of others are no hindrance.
  expect(plan(of(8, 30)).rounds).toEqual(alone.rounds);
  // With half of the cabinet taken for half an hour the last moulds wait for it.
  const last = (p: typeof alone) => p.rounds.at(-1)!.to;
  expect(last(plan(of(20, 30)))).toBeGreaterThan(Math.max(30, last(alone)));
  expect(plan(of(20, 30)).rounds.reduce((sum, r) => sum + r.bars, 0)).toBe(40);
});
