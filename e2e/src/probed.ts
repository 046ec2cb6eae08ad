import { expect, type APIRequestContext } from '@playwright/test';
import { randomUUID } from 'node:crypto';

/** A workshop with one machine that a board may speak for, and a batch to run on it. */
export interface Probed {
  machine: string;
  batch: string;
  /** The lot's parcel. */
  parcel: string;
  /** The machine's device token. */
  token: string;
  put: (path: string, data: object) => Promise<void>;
}

/** Makes a workshop through the API, its owner signed in; what is tried with its machine goes through the screens. */
export async function makeProbed(
  request: APIRequestContext,
  base: string,
  { machine, lot, batchCode }: { machine: object; lot: object; batchCode: string },
): Promise<Probed> {
  const [machineId, lotId, batch, parcel] = [0, 0, 0, 0].map(() => randomUUID()) as [
    string,
    string,
    string,
    string,
  ];
  const put = async (path: string, data: object) => {
    const answer = await request.put(`${base}${path}`, { data });
    expect(answer.status(), await answer.text()).toBeLessThan(300);
  };
  await request.post(`${base}/api/first-run`, {
    data: {
      workshop: {
        name: 'Probe test',
        shape: 'shop',
        currency: 'EUR',
        temperatureUnit: '°C',
        massSystem: 'metric',
      },
      owner: { id: randomUUID(), name: 'Olga', initials: 'OB', password: 'a good long one' },
      machines: [{ id: machineId, ...machine }],
    },
  });
  await request.post(`${base}/api/session`, { data: { name: 'Olga', password: 'a good long one' } });
  await put(`/api/lots/${lotId}`, {
    receivedOn: '2026-09-01',
    stepId: randomUUID(),
    movementId: randomUUID(),
    parcelId: parcel,
    ...lot,
  });
  await put(`/api/batches/${batch}`, { code: batchCode, lotId });
  const made = (await (await request.post(`${base}/api/machines/${machineId}/token`)).json()) as {
    token: string;
  };
  return { machine: machineId, batch, parcel, token: made.token, put };
}
