import {
  CONCHE_DEFAULTS,
  forecastConche,
  type AirWay,
  type ConcheForecast,
  type ConcheStretch,
  type SournessTaste,
} from '@wunsch/core/conche';
import { grindingHours, type Pause } from '@wunsch/core/grind';
import { remember } from '../../views/remember.ts';
import { pausesOf, type GrindNote } from '../grind/index.ts';

/** A conche on the clock: what it was set to, when it was tasted, hours without pauses. */
export interface ConcheClock {
  stretches: ConcheStretch[];
  tastings: (SournessTaste & { id: string; at: string })[];
  pauses: Pause[];
  hours: number;
}

/** Temperature and air before anyone has noted them. */
const UNSAID: { celsius: number; air: AirWay } = { celsius: CONCHE_DEFAULTS.referenceC, air: 'open lid' };

/** Sourness aimed at where the step names none. */
export const USUAL_SOUR_AIM = 3;

/** Lays a conche's settings and tastings out in time; `until` is epoch ms of its end, or now. */
export function concheClock(startedAt: string, notes: readonly GrindNote[], until: number): ConcheClock {
  const began = Date.parse(startedAt);
  const pauses = pausesOf(notes);
  const hoursAt = (at: number) => grindingHours(began, at, pauses);
  const settings = notes.flatMap((n) =>
    n.data.kind === 'concheSetting'
      ? [
          {
            from: hoursAt(Math.max(began, Date.parse(n.at))),
            ...(n.data as unknown as { celsius: number; air: AirWay }),
          },
        ]
      : [],
  );
  const all =
    settings[0]?.from === 0
      ? settings
      : [{ from: 0, ...(settings[0] ?? UNSAID) }, ...settings].map((s, i) =>
          i === 0 ? { ...s, from: 0 } : s,
        );
  const hours = hoursAt(until);
  const stretches = all.map(({ from, celsius, air }, i) => ({
    hours: (all[i + 1]?.from ?? hours) - from,
    celsius,
    air,
  }));
  const tastings = notes.flatMap((n) =>
    n.data.kind === 'sourness'
      ? [
          {
            id: n.id ?? '',
            at: n.at,
            hours: hoursAt(Date.parse(n.at)),
            score: (n.data as unknown as { score: number }).score,
          },
        ]
      : [],
  );
  return { stretches, tastings, pauses, hours };
}

/** Rate of a lot from its earlier conches: their mean in logarithms, trusted with their number; the usual range where there are none. */
export function lotRate(rates: readonly number[]): { median: number; factor: number } {
  const usual = CONCHE_DEFAULTS.rate;
  const wide = Math.log(usual.factor);
  const between = wide / 2;
  const weight = rates.length / between ** 2;
  const mean = rates.reduce((s, r) => s + Math.log(r), 0) / Math.max(1, rates.length);
  const precision = weight + 1 / wide ** 2;
  const centre = (weight * mean + Math.log(usual.median) / wide ** 2) / precision;
  return rates.length === 0
    ? { ...usual }
    : { median: Math.exp(centre), factor: Math.exp(Math.hypot(between, Math.sqrt(1 / precision))) };
}

const forecast = remember(100, forecastConche);

/** What a conche's tastings say, given what the lot has told before. */
export function concheForecast(clock: ConcheClock, aim: number, rates: readonly number[]): ConcheForecast {
  // The last stretch goes on for ever, so its length so far changes nothing.
  const stretches = clock.stretches.map((s, i) =>
    i === clock.stretches.length - 1 ? { ...s, hours: 0 } : s,
  );
  const tastings = clock.tastings.map(({ hours, score }) => ({ hours, score }));
  return forecast({ stretches, tastings, aim, rate: lotRate(rates) });
}
