import { z } from 'zod';
import { ObservationData } from './observations.ts';
import { StepDetails } from './steps.ts';

/**
 * What is read back from a store may have been written by an older release, or by a newer one that has been taken back.
 * Reading is tolerant where writing is strict: what can be understood is, and the rest is left out, so that one old row never
 * makes a page fail.
 */
function readParts<S extends z.ZodObject>(schema: S, value: unknown): Partial<z.output<S>> {
  if (value === null || typeof value !== 'object') return {};
  const parts: Record<string, unknown> = {};
  for (const [name, part] of Object.entries(schema.shape)) {
    const read = (part as z.ZodType).safeParse((value as Record<string, unknown>)[name]);
    if (read.success && read.data !== undefined) parts[name] = read.data;
  }
  return parts as Partial<z.output<S>>;
}

/** The details of a stored step: each that can be understood. */
export function readDetails(value: unknown): StepDetails {
  return readParts(StepDetails, value);
}

/** A stored observation; one that cannot be understood is shown as an event that says so. */
export function readObservation(value: unknown): ObservationData {
  const read = ObservationData.safeParse(value);
  if (read.success) return read.data;
  const kind = (value as { kind?: unknown } | null)?.kind;
  return {
    kind: 'event',
    name: 'not-understood',
    note: typeof kind === 'string' ? kind.slice(0, 60) : '',
    value: null,
  };
}

/** Stored facts of an object as far as they can be understood, over what is usual for the rest. */
export function readFacts<S extends z.ZodObject>(schema: S, value: unknown, usual: z.output<S>): z.output<S> {
  const whole = schema.safeParse(value);
  if (whole.success) return whole.data;
  return { ...usual, ...readParts(schema, value) };
}
