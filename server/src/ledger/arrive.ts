import type { Material, Station } from '@wunsch/core/ledger';
import type { Context } from '../commands/command.ts';
import { movement, parcel, step } from '../db/schema/index.ts';
import { cameOn } from './days.ts';

/** What came, as the ledger needs to know it. */
export interface Arrival {
  stepId: string;
  movementId: string;
  parcelId: string;
  station: Station;
  material: Material;
  massMg: number;
  count?: number | null;
  label: string;
  place: string;
  /** Day it came. */
  receivedOn: string;
  lotId?: string;
  ingredientId?: string | null;
  pricePerKg?: number;
}

/** Something arrives: a closed step that brings its first parcel into the books. */
export async function arrive({ tx, at, by, seq }: Context, a: Arrival): Promise<void> {
  const arrived = cameOn(a.receivedOn);
  const count = a.count ?? null;
  await tx.insert(step).values({
    id: a.stepId,
    station: a.station,
    kind: 'receive',
    status: 'closed',
    startedAt: arrived,
    endedAt: at,
    by,
  });
  await tx.insert(parcel).values({
    id: a.parcelId,
    material: a.material,
    label: a.label,
    lotId: a.lotId ?? null,
    stepId: a.stepId,
    remainingMg: a.massMg,
    count,
    place: a.place,
    madeAt: arrived,
  });
  await tx.insert(movement).values({
    id: a.movementId,
    stepId: a.stepId,
    direction: 'out',
    massMg: a.massMg,
    count,
    source: 'weighed',
    material: a.material,
    parcelId: a.parcelId,
    ingredientId: a.ingredientId ?? null,
    ...(a.pricePerKg !== undefined && { pricePerKg: a.pricePerKg }),
    label: a.label,
    at,
    by,
    seq,
  });
}
