import type { KeyboardEvent, PointerEvent, RefObject } from 'react';
import { dialTemperature } from '@wunsch/core/quantity';
import type { RoastPlan } from '@wunsch/core/roast';
import { MARGIN, type RoastScale, type Stage, type Words } from './chartScale.ts';

/** What a stage may be set to: the oven's range, °C, and its length, min. */
const SET_C = { least: 40, most: 260 };
const MINUTES = { least: 0.5, most: 240, step: 0.25 };

type TemperatureUnit = Words['temperatureUnit'];

const within = (value: number, { least, most }: typeof SET_C) => Math.min(most, Math.max(least, value));
const wholeQuarters = (minutes: number) => Math.round(minutes / MINUTES.step) * MINUTES.step;

/** The plan with one stage's level or length changed, rounded to what an oven can be set to. */
export function withStage(
  plan: RoastPlan,
  index: number,
  part: { setC?: number; minutes?: number },
  unit: TemperatureUnit,
): RoastPlan {
  return {
    ...plan,
    stages: plan.stages.map((stage, i) =>
      i === index
        ? {
            ...stage,
            ...(part.setC !== undefined && { setC: dialTemperature(within(part.setC, SET_C), unit) }),
            ...(part.minutes !== undefined && {
              minutes: within(wholeQuarters(part.minutes), MINUTES),
            }),
          }
        : stage,
    ),
  };
}

/** Handles on each stage: its level is dragged up and down, its end to and fro; arrow keys do the same, by five with Shift. */
export function StageHandles({
  plan,
  stages,
  onPlan,
  scale,
  svg,
  words,
}: {
  plan: RoastPlan;
  stages: readonly Stage[];
  onPlan: (plan: RoastPlan) => void;
  scale: RoastScale;
  svg: RefObject<SVGSVGElement | null>;
  words: Words;
}) {
  const { t } = words;
  const { x, y, inner } = scale;
  const degree = words.temperatureUnit === '°F' ? 5 / 9 : 1;
  const move = (index: number, what: 'end' | 'level') => ({
    onPointerDown: (e: PointerEvent<SVGElement>) => {
      e.preventDefault();
      e.currentTarget.setPointerCapture(e.pointerId);
      e.currentTarget.focus();
    },
    onPointerMove: (e: PointerEvent<SVGElement>) => {
      if (!e.currentTarget.hasPointerCapture(e.pointerId)) return;
      const box = svg.current!.getBoundingClientRect();
      const zoom = scale.width / box.width;
      const at = scale.toPlan((e.clientX - box.left) * zoom, (e.clientY - box.top) * zoom);
      onPlan(
        withStage(
          plan,
          index,
          what === 'level' ? { setC: at.celsius } : { minutes: (at.seconds - stages[index]!.from) / 60 },
          words.temperatureUnit,
        ),
      );
    },
    onKeyDown: (e: KeyboardEvent) => {
      const up = e.key === 'ArrowUp' || e.key === 'ArrowRight';
      const down = e.key === 'ArrowDown' || e.key === 'ArrowLeft';
      if (!up && !down) return;
      e.preventDefault();
      e.stopPropagation();
      const by = (up ? 1 : -1) * (e.shiftKey ? 5 : 1);
      const { setC, minutes } = plan.stages[index]!;
      onPlan(
        withStage(
          plan,
          index,
          what === 'level' ? { setC: setC + by * degree } : { minutes: minutes + by * MINUTES.step },
          words.temperatureUnit,
        ),
      );
    },
  });
  return stages.map((s, i) => (
    <g key={i}>
      <rect
        x={x(s.from) + 8}
        y={y(s.setC) - 11}
        width={Math.max(10, x(s.to) - x(s.from) - 22)}
        height="22"
        fill="transparent"
        className="cursor-ns-resize focus-visible:outline-2"
        role="slider"
        tabIndex={0}
        aria-label={t('roast.drag.level', { name: s.name })}
        aria-orientation="vertical"
        aria-valuemin={SET_C.least}
        aria-valuemax={SET_C.most}
        aria-valuenow={Math.round(s.setC)}
        aria-valuetext={words.temperature(s.setC, 0)}
        style={{ touchAction: 'none' }}
        {...move(i, 'level')}
      />
      <rect
        x={x(s.to) - 12}
        y={MARGIN.top - 28}
        width="24"
        height={inner.h + 28}
        fill="transparent"
        className="cursor-ew-resize"
        role="slider"
        tabIndex={0}
        aria-label={t('roast.drag.end', { name: s.name })}
        aria-valuemin={MINUTES.least}
        aria-valuemax={MINUTES.most}
        aria-valuenow={s.minutes}
        aria-valuetext={words.duration(s.minutes * 60)}
        style={{ touchAction: 'none' }}
        {...move(i, 'end')}
      />
      <line
        x1={x(s.to)}
        x2={x(s.to)}
        y1={MARGIN.top}
        y2={MARGIN.top + inner.h}
        stroke="var(--slate)"
        strokeDasharray="2 3"
        pointerEvents="none"
      />
      <circle
        cx={x(s.to)}
        cy={y(s.setC)}
        r="5"
        fill="var(--panel)"
        stroke="var(--slate)"
        strokeWidth="2"
        pointerEvents="none"
      />
      <circle cx={(x(s.from) + x(s.to)) / 2} cy={y(s.setC)} r="4" fill="var(--slate)" pointerEvents="none" />
    </g>
  ));
}
