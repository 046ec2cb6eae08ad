import { z } from 'zod';
import { Instant, Place, Probe } from '@wunsch/contract';
import { readNumber } from '@wunsch/core/quantity';
import { Problem } from '../../http/problem.ts';

/** Most lines a board may send at once. */
const MOST_LINES = 20_000;

const Temperature = z.union([
  z.object({ celsius: z.number().min(-100).max(600) }),
  z.object({ fahrenheit: z.number().min(-148).max(1112) }).transform(({ fahrenheit }) => ({
    celsius: Math.round(((fahrenheit - 32) / 1.8) * 1000) / 1000,
  })),
]);
const Reading = z
  .object({ at: Instant.optional(), place: Place.optional(), probe: Probe.optional() })
  .loose()
  .pipe(
    z.intersection(
      z.object({ at: Instant.optional(), place: Place.optional(), probe: Probe.optional() }),
      Temperature,
    ),
  );
/** What a board may send: JSON of one reading or several, or `time,value` lines as text. */
export const DoorBody = z.union([
  z.object({
    place: Place.optional(),
    probe: Probe.optional(),
    readings: z.array(Reading).min(1).max(10_000),
  }),
  Reading,
  z.string(),
]);
/** Place, probe and unit of what a board sends, where the lines do not say. */
export const DoorQuery = z.object({
  place: Place.optional(),
  probe: Probe.optional(),
  unit: z.enum(['C', 'F']).default('C'),
});

/** Epoch ms of a time a board sent; NaN for what is none, or outside the years that can be kept. */
function instantOf(time: string): number {
  const at = Date.parse(time);
  const year = new Date(at).getUTCFullYear();
  return year >= 1900 && year < 2200 ? at : Number.NaN;
}

/** A reading a board sent, as it is kept. */
export interface DoorReading {
  /** Epoch ms. */
  at: number;
  celsius: number;
  place: Place;
  probe: string;
}

/**
 * The readings in what a board sent, in its order.
 *
 * @param usual place, probe and unit where the body does not say
 * @param now epoch ms of a reading without a time
 * @throws Problem 413 for more lines than may come at once, 422 for one that cannot be read
 */
export function readBody(
  body: z.output<typeof DoorBody>,
  usual: { place: Place; probe: string; unit: 'C' | 'F' },
  now: number,
): DoorReading[] {
  if (typeof body === 'string') return readLines(body, usual, now);
  const group = 'readings' in body ? (body as { place?: Place; probe?: string }) : {};
  const list = ('readings' in body ? body.readings : [body]) as {
    at?: string;
    celsius: number;
    place?: Place;
    probe?: string;
  }[];
  return list.map((r) => ({
    at: r.at ? Date.parse(r.at) : now,
    celsius: r.celsius,
    place: r.place ?? group.place ?? usual.place,
    probe: r.probe ?? group.probe ?? usual.probe,
  }));
}

function readLines(
  body: string,
  usual: { place: Place; probe: string; unit: 'C' | 'F' },
  now: number,
): DoorReading[] {
  const lines = body.split(/\r?\n/).filter((l) => l.trim() !== '');
  if (lines.length > MOST_LINES)
    throw new Problem({
      status: 413,
      code: 'too-many-lines',
      detail: `${lines.length} lines at once are more than the ${MOST_LINES} a board may send; send them in parts`,
    });
  if (lines.length === 0)
    throw new Problem({
      status: 422,
      code: 'no-readings',
      detail: 'send lines of time,value, e.g. 2026-10-02T08:00:00Z,118.4 or ,118.4 for now',
    });
  return lines.map((line, i) => {
    const comma = line.indexOf(',');
    const time = line.slice(0, Math.max(0, comma)).trim();
    const text = line.slice(comma + 1).trim();
    const value = readNumber(text.replace(/^-/, ''), 'en');
    const at = time === '' ? now : instantOf(time);
    if (comma < 0 || !value.ok || Number.isNaN(at)) {
      throw new Problem({
        status: 422,
        code: 'bad-line',
        field: `line ${i + 1}`,
        detail: `line ${i + 1} is not time,value: "${line.slice(0, 60)}"`,
      });
    }
    const shown = text.startsWith('-') ? -value.value : value.value;
    const celsius = usual.unit === 'F' ? (shown - 32) / 1.8 : shown;
    if (celsius < -100 || celsius > 600)
      throw new Problem({
        status: 422,
        code: 'bad-line',
        field: `line ${i + 1}`,
        detail: `line ${i + 1}: ${celsius.toFixed(1)} °C is outside -100 to 600 °C`,
      });
    return { at, celsius, place: usual.place, probe: usual.probe };
  });
}
