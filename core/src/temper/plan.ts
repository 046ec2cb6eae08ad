import { requireFinite, requireNumbers } from '../numerics/index.ts';
import type { BowlCorner } from './crystal.ts';
import { BOWL_HABITS, type TemperMethod, type TemperPath } from './defaults.ts';

/** Whether a method first cools below the window, to where crystals form by themselves; seeded bowls come down to it only. */
export const coolsBelow = (method: TemperMethod): boolean =>
  method !== 'seed' && method !== 'butter-seed' && method !== 'none';

/** The path a bowl is to take by its method, from melting to work: corners in minutes and °C. */
export function plannedPath(
  path: TemperPath,
  method: TemperMethod,
  fromC: number = BOWL_HABITS.roomC,
): BowlCorner[] {
  requireNumbers(path, 'the window');
  requireFinite(fromC, 'where the bowl begins');
  const { meltC, coolC, workC, windowHighC } = path;
  const melted: [number, number][] = [
    [0, Math.min(fromC, meltC)],
    [12, meltC],
    [17, meltC],
  ];
  const then: [number, number][] =
    method === 'none'
      ? [[40, windowHighC + 2]]
      : method === 'seed'
        ? [
            [20, meltC - 4],
            // The pieces cool it: fast at first, slower as they come apart.
            [21.5, windowHighC + 4],
            [26, windowHighC - 0.2],
            [32, workC],
            [60, workC],
          ]
        : method === 'butter-seed'
          ? [
              [28, windowHighC + 1],
              [31, windowHighC + 0.5],
              [36, workC],
              [60, workC],
            ]
          : [
              [32, coolC],
              [36, coolC],
              [40, workC],
              [64, workC],
            ];
  return [...melted, ...then].map(([minutes, celsius]) => ({ minutes, celsius }));
}

/** A future of the bowl to be tried: what is done now, and what then. */
export interface WhatIf {
  name: 'leave' | 'warm' | 'seed' | 'cool-again';
  path: BowlCorner[];
  /** Seed added at the beginning of it, share of the chocolate. */
  seedShare: number;
}

/** Futures worth comparing at a bowl that has come down: minutes from now. */
export function whatIfs(celsius: number, path: TemperPath): WhatIf[] {
  requireFinite(celsius, 'the temperature of the bowl');
  requireNumbers(path, 'the window');
  const to = (target: number, hold: number): BowlCorner[] => {
    const minutes = Math.max(0.5, Math.abs(target - celsius) / BOWL_HABITS.handPace);
    return [
      { minutes: 0, celsius },
      { minutes, celsius: target },
      { minutes: minutes + hold, celsius: target },
    ];
  };
  return [
    {
      name: 'leave',
      path: [
        { minutes: 0, celsius },
        { minutes: 15, celsius },
      ],
      seedShare: 0,
    },
    { name: 'warm', path: to(path.windowHighC, 10), seedShare: 0 },
    { name: 'seed', path: to(path.workC, 10), seedShare: 0.02 },
    {
      name: 'cool-again',
      path: [
        ...to(path.coolC, 4),
        ...to(path.coolC, 4)
          .slice(-1)
          .map((p) => ({ minutes: p.minutes + 3, celsius: path.workC })),
      ],
      seedShare: 0,
    },
  ];
}
