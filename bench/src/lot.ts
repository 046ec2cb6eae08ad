import { v7 } from 'uuid';

/** A lot that no bench empties, received by a call that enters something; its id and its parcel's. */
export async function bigLot(
  put: (url: string, body: object) => Promise<void>,
): Promise<{ lotId: string; parcelId: string }> {
  const [lotId, parcelId] = [v7(), v7()];
  await put(`/api/lots/${lotId}`, {
    code: 'BE',
    name: 'Bench',
    massMg: 900_000_000,
    receivedOn: '2026-09-01',
    stepId: v7(),
    movementId: v7(),
    parcelId,
  });
  return { lotId, parcelId };
}
