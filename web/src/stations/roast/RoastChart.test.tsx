import { fireEvent, screen } from '@testing-library/react';
import fc from 'fast-check';
import { useState } from 'react';
import type { BeanReading, RoastPlan } from '@wunsch/core/roast';
import { nameWidth } from '../../charts/names.ts';
import { show } from '../../testing/page.tsx';
import { roast as de } from '../../words/de/roast.ts';
import { roast as en } from '../../words/en/roast.ts';
import { minuteStep, roastScale, stagesOf, ticks } from './chartScale.ts';
import { LineNames } from './LineNames.tsx';
import { RoastChart } from './RoastChart.tsx';
import { withStage } from './StageHandles.tsx';

const PLAN: RoastPlan = {
  name: 'Low and long',
  stages: [
    { name: 'warm', setC: 120, minutes: 10, fan: true, end: { on: 'time' }, note: '' },
    { name: 'hold', setC: 130, minutes: 20, fan: true, end: { on: 'time' }, note: '' },
  ],
} as never;

const readings = (n: number): BeanReading[] =>
  Array.from({ length: n }, (_, i) => ({ seconds: i * 10, celsius: 25 + 90 * (1 - Math.exp(-i / 40)) }));

const scaleOf = (part: Partial<Parameters<typeof roastScale>[0]> = {}) =>
  roastScale({
    width: 800,
    height: 330,
    stages: stagesOf(PLAN),
    measured: [],
    earlier: [],
    now: null,
    ...part,
  });

test('stages lie end to end', () => {
  expect(stagesOf(PLAN).map((s) => [s.from, s.to])).toEqual([
    [0, 600],
    [600, 1800],
  ]);
  expect(stagesOf(undefined)).toEqual([]);
});

test('from a place on the chart back to its time and temperature, wherever it is', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 320, max: 1600 }),
      fc.integer({ min: 240, max: 700 }),
      fc.double({ min: 0, max: 1800, noNaN: true }),
      fc.double({ min: 45, max: 130, noNaN: true }),
      (width, height, seconds, celsius) => {
        const scale = scaleOf({ width, height });
        const back = scale.toPlan(scale.x(seconds), scale.y(celsius));
        expect(back.seconds).toBeCloseTo(seconds, 6);
        expect(back.celsius).toBeCloseTo(celsius, 6);
      },
    ),
  );
});

test('everything measured and planned lies inside, with a little room', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 0, max: 400 }),
      fc.double({ min: 20, max: 240, noNaN: true }),
      fc.option(fc.integer({ min: 0, max: 5000 }), { nil: null }),
      (count, hot, now) => {
        const bean = readings(count).map((r) => ({ ...r, celsius: Math.min(r.celsius, hot) }));
        const scale = scaleOf({ measured: [bean, [{ seconds: 0, celsius: hot }]], now });
        for (const r of bean) expect(scale.x(r.seconds)).toBeLessThan(44 + scale.inner.w);
        if (now !== null) expect(scale.x(now)).toBeLessThanOrEqual(44 + scale.inner.w);
        expect(scale.yHigh).toBeGreaterThanOrEqual(Math.min(320, hot));
        expect(scale.yHigh % 10).toBe(0);
      },
    ),
  );
});

test('neither a spark of the probe nor a drum it was heated in makes the curve small', () => {
  const bean = readings(300).map((r) => ({ ...r, celsius: Math.min(r.celsius, 120) }));
  const scale = scaleOf({ measured: [bean, []] });
  const sparked = bean.map((r, i) => (i === 200 ? { ...r, celsius: 600 } : r));
  expect(scaleOf({ measured: [sparked, []] }).yHigh).toBe(scale.yHigh);
  const hot = bean.map((r) => ({ ...r, celsius: r.celsius + 180 * Math.exp(-r.seconds / 20) }));
  expect(scaleOf({ measured: [hot, []] }).yHigh).toBe(scale.yHigh);
});

test('the surface’s ceiling is on the chart only where the plan comes near it', () => {
  expect(scaleOf({ ceilingC: 150 }).yHigh).toBeLessThan(150);
  const hot = stagesOf(withStage(PLAN, 1, { setC: 140 }, '°C'));
  expect(scaleOf({ ceilingC: 150, stages: hot }).yHigh).toBeGreaterThanOrEqual(154);
});

test('ticks are round and never crowded', () => {
  expect(ticks(43, 101, 20)).toEqual([60, 80, 100]);
  expect(ticks(0, 5, 10)).toEqual([0]);
  for (const minutes of [3, 8, 17, 45, 120, 400])
    expect(ticks(0, minutes, minuteStep(minutes * 60)).length).toBeLessThanOrEqual(9);
});

test('a stage is set as an oven can be set: whole degrees, quarter minutes, within its range', () => {
  expect(withStage(PLAN, 0, { setC: 123.4 }, '°C').stages[0]!.setC).toBe(123);
  expect(withStage(PLAN, 0, { setC: 900 }, '°C').stages[0]!.setC).toBe(260);
  expect(withStage(PLAN, 1, { minutes: 12.4 }, '°C').stages[1]!.minutes).toBe(12.5);
  expect(withStage(PLAN, 1, { minutes: -3 }, '°C').stages[1]!.minutes).toBe(0.5);
  // 123.4 °C is 254.12 °F, and an oven read in °F is set to 254.
  expect(withStage(PLAN, 0, { setC: 123.4 }, '°F').stages[0]!.setC * 1.8 + 32).toBeCloseTo(254, 2);
  // The other stages, and the plan it came from, stay as they were.
  expect(withStage(PLAN, 0, { setC: 100 }, '°C').stages[1]).toBe(PLAN.stages[1]);
  expect(PLAN.stages[0]!.setC).toBe(120);
});

function Editable({ onPlan }: { onPlan?: (plan: RoastPlan) => void }) {
  const [plan, set] = useState(PLAN);
  return (
    <RoastChart
      label="The plan"
      plan={plan}
      onPlan={(next) => {
        set(next);
        onPlan?.(next);
      }}
      bean={[]}
      oven={[]}
      now={null}
    />
  );
}

test('a plan is drawn by keys: up and down for the level, to and fro for the end, by five with Shift', async () => {
  let plan = PLAN;
  const { user } = show(<Editable onPlan={(p) => (plan = p)} />);
  const level = screen.getByRole('slider', { name: 'Oven setting of warm' });
  level.focus();
  await user.keyboard('{ArrowUp}{ArrowUp}');
  expect(plan.stages[0]!.setC).toBe(122);
  await user.keyboard('{Shift>}{ArrowDown}{/Shift}');
  expect(plan.stages[0]!.setC).toBe(117);
  expect(level.getAttribute('aria-valuetext')).toMatch(/117.°C/);
  screen.getByRole('slider', { name: 'End of hold' }).focus();
  await user.keyboard('{ArrowRight}');
  expect(plan.stages[1]!.minutes).toBe(20.25);
});

test('a plan is drawn by finger: the end is dragged to where the finger is', () => {
  let plan = PLAN;
  show(<Editable onPlan={(p) => (plan = p)} />);
  const svg = screen.getByRole('group', { name: 'The plan' });
  const width = Number(svg.getAttribute('width'));
  svg.getBoundingClientRect = () => ({ left: 100, top: 50, width: width / 2, height: 165 }) as DOMRect;
  const end = screen.getByRole('slider', { name: 'End of warm' });
  const held = new Set<number>();
  end.setPointerCapture = (id) => void held.add(id);
  end.hasPointerCapture = (id) => held.has(id);
  const scale = scaleOf({ width, height: 330 });
  // Drawn at half its size, a pixel on the screen is two on the chart.
  const at = (seconds: number) => 100 + scale.x(seconds) / 2;
  fireEvent.pointerMove(end, { pointerId: 1, clientX: at(900) });
  expect(plan).toBe(PLAN);
  fireEvent(
    end,
    Object.assign(new MouseEvent('pointerdown', { bubbles: true, clientX: at(600) }), { pointerId: 1 }),
  );
  fireEvent(
    end,
    Object.assign(new MouseEvent('pointermove', { bubbles: true, clientX: at(900) }), { pointerId: 1 }),
  );
  expect(plan.stages[0]!.minutes).toBe(15);
});

test('what is measured can be read as a table, and a running roast cannot be redrawn', () => {
  show(<RoastChart label="Load 1" plan={PLAN} bean={readings(80)} oven={[]} now={790} />);
  expect(screen.queryByRole('slider')).toBeNull();
  expect(screen.getByRole('img', { name: 'Load 1' })).toBeTruthy();
  const table = screen.getByRole('table', { hidden: true });
  expect(table.querySelectorAll('tbody tr').length).toBeGreaterThan(10);
});

test('degrees are the person’s own', () => {
  show(<RoastChart label="Load 1" plan={PLAN} bean={[]} oven={[]} now={null} />, {
    workshop: { temperatureUnit: '°F' },
  });
  expect(screen.getAllByText('°F').length).toBeGreaterThan(0);
  expect(screen.getByText('200')).toBeTruthy();
});

test.each([
  ['de', 346],
  ['en', 346],
  ['de', 900],
] as const)('the corridor’s name lies on the plot and beside the band, %s on %i px', (language, width) => {
  const end = 1800;
  const scale = scaleOf({ width });
  const line = Array.from({ length: 61 }, (_, i) => {
    const celsius = 25 + 95 * (1 - Math.exp(-i / 12));
    return { seconds: i * 30, celsius, low: celsius - 6, high: celsius + 6 };
  });
  for (const now of [null, 60]) {
    const { container, unmount } = show(
      <svg>
        <LineNames
          bean={[]}
          oven={[]}
          corridor={{ line } as never}
          earlier={[]}
          x={scale.x}
          y={scale.y}
          now={now}
          end={end}
          stages={[]}
          words={{ t: (key: keyof typeof en) => ({ de, en })[language][key] } as never}
        />
      </svg>,
    );
    const [name] = container.querySelectorAll('text');
    const left = Number(name!.getAttribute('x'));
    const right = left + nameWidth(name!.textContent!);
    expect(left).toBeGreaterThanOrEqual(scale.x(0));
    expect(right).toBeLessThanOrEqual(scale.x(end) + 5);
    const foot = Number(name!.getAttribute('y'));
    for (const p of line)
      if (scale.x(p.seconds) > left && scale.x(p.seconds) < right)
        expect(foot - 12).toBeGreaterThan(scale.y(p.low));
    unmount();
  }
});
