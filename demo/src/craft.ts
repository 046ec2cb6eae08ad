import { eq } from 'drizzle-orm';
import { schema, type Store } from '@wunsch/server';
import type { Scribe } from './scribe.ts';
import { DELIVERIES } from './workshop.ts';

const DAY = 86_400_000;

/** What was done to the grinders: cleaned after milk, serviced, and Otto's stones dressed anew. */
export function writeMachines(scribe: Scribe, machines: Readonly<Record<string, string>>, now: number): void {
  const done = (machine: string, kind: string, note: string, daysAgo: number) =>
    scribe.write(
      'machine.event',
      scribe.id(),
      { machineId: machines[machine]!, kind, note },
      now - daysAgo * DAY,
      'JB',
    );
  done('otto', 'rebuilt', 'Stones dressed, new tension spring.', 430);
  done('otto', 'serviced', 'Belt and bearings.', 150);
  done('otto', 'cleaned', 'Warm sugar through, wiped dry.', 40);
  done('ida', 'serviced', 'Belt tightened.', 210);
  done('ida', 'cleaned', 'After the milk batch: butter through, washed, dried.', 170);
}

/** What suppliers brought: each a lot of its own, one of them near its date. Answers their parcels by name. */
export function writeDeliveries(
  scribe: Scribe,
  ingredients: ReadonlyMap<string, { id: string; name: string }>,
  now: number,
): Map<string, { parcelId: string; at: number }> {
  const received = new Map<string, { parcelId: string; at: number }>();
  const day = (at: number) => new Date(at).toISOString().slice(0, 10);
  for (const { ingredient, daysAgo, keeps, name, count, ...facts } of DELIVERIES) {
    const at = now - daysAgo * DAY;
    const parcelId = scribe.id();
    const of = ingredient === null ? null : ingredients.get(ingredient)!;
    scribe.write(
      'supply.receive',
      scribe.id(),
      {
        ...facts,
        ingredientId: of?.id ?? null,
        name: of?.name ?? name,
        count: count ?? null,
        bestBefore: keeps === null ? null : day(at + keeps * DAY),
        receivedOn: day(at),
        stepId: scribe.id(),
        movementId: scribe.id(),
        parcelId,
      },
      at,
      'AK',
    );
    received.set(of?.name ?? name ?? '', { parcelId, at });
  }
  return received;
}

type Who = 'AK' | 'JB' | 'MR';

/** What everyone thought of the parts of a trial, in the order of its parts. */
interface Held {
  name: string;
  factor: string;
  labels: readonly string[];
  scores: Readonly<Partial<Record<Who, readonly number[]>>>;
  daysAgo: number;
  /** Part that was kept; null while the trial is under way. */
  kept: number | null;
}

const TRIALS: readonly Held[] = [
  {
    name: 'When the sugar joins',
    factor: 'sugar at once, or once the liquor runs',
    labels: ['Sugar at once', 'Sugar once it runs'],
    scores: { AK: [6, 7.5], JB: [5.5, 7], MR: [6, 8] },
    daysAgo: 60,
    kept: 1,
  },
  {
    name: 'Roast of Nkondo 2026',
    factor: 'roast dose',
    labels: ['dose 9', 'dose 12', 'dose 15'],
    scores: { JB: [7.5, 7, 5.5] },
    daysAgo: 1,
    kept: null,
  },
];

/** A trial that was decided and one under way, tasted by the codes the server draws, as people do. */
export async function holdTrials(
  store: Store,
  scribe: Scribe,
  actor: (by: Who) => { id: string; initials: string; role: 'owner' | 'maker' },
  now: number,
): Promise<void> {
  for (const { name, factor, labels, scores, daysAgo, kept } of TRIALS) {
    let at = now - daysAgo * DAY;
    const submit = (kind: string, by: Who, body: object, target = scribe.id()) =>
      store.writer.submit({
        kind,
        target,
        actor: actor(by),
        body,
        at: new Date((at += 600_000)).toISOString(),
      });
    const trialId = scribe.id();
    await submit('trial.begin', 'AK', { name, factor, parts: labels.map((label) => ({ label })) }, trialId);
    const [row] = await store.db.select().from(schema.trial).where(eq(schema.trial.id, trialId));
    const codes = row!.facts.parts.map((p) => p.code);
    for (const [by, given] of Object.entries(scores))
      await submit('trial.score', by as Who, {
        trialId,
        marks: given.map((score, i) => ({ code: codes[i]!, score })),
      });
    if (kept === null) continue;
    await submit('trial.open', 'AK', { trialId });
    await submit('trial.keep', 'AK', { trialId, code: codes[kept]! });
  }
}
