import { eq } from 'drizzle-orm';
import { z } from 'zod';
import { MachineEventPut, MachinePut } from '@wunsch/contract';
import { requireMatch } from '../access/match.ts';
import { handler, lineOf, MAKERS, OWNERS, withMatch } from '../commands/command.ts';
import { machine, machineEvent } from '../db/schema/index.ts';
import { notFound, Problem } from '../http/problem.ts';
import { requireMachine } from '../ledger/steps.ts';

/** Adding or changing a machine. */
export const machinePut = handler({
  kind: 'machine.put',
  version: 1,
  put: {
    path: '/api/machines/:id',
    summary: 'Add a machine, or change one (If-Match)',
    tag: 'machines',
    body: MachinePut,
    guarded: true,
  },
  body: withMatch(MachinePut),
  roles: OWNERS,
  touches: ['machines', 'runs', 'batches'],
  line: lineOf('name'),
  async apply({ tx, target, body: { ifMatch, ...facts } }) {
    if (facts.minMg !== null && facts.maxMg !== null && facts.minMg > facts.maxMg) {
      throw new Problem({
        status: 422,
        code: 'min-above-max',
        field: 'minMg',
        detail: 'the usable minimum must not be above the maximum',
      });
    }
    const [old] = await tx.select().from(machine).where(eq(machine.id, target));
    if (!old) {
      await tx.insert(machine).values({ id: target, ...facts });
      return;
    }
    requireMatch(ifMatch, old.version, 'machine');
    await tx
      .update(machine)
      .set({ ...facts, version: old.version + 1 })
      .where(eq(machine.id, target));
  },
});

/** Giving a machine a device token; only its hash is kept. */
export const machineToken = handler({
  kind: 'machine.token',
  version: 1,
  touches: ['machines'],
  body: z.object({ tokenHash: z.string().length(64) }),
  roles: OWNERS,
  async apply({ tx, target, body }) {
    const [row] = await tx
      .update(machine)
      .set({ tokenHash: body.tokenHash })
      .where(eq(machine.id, target))
      .returning({ id: machine.id });
    if (!row) throw notFound('machine', target);
  },
});

/** Noting that a machine was cleaned, serviced or rebuilt. */
export const machineEventAdd = handler({
  kind: 'machine.event',
  version: 1,
  put: {
    path: '/api/machine-events/:id',
    summary: 'Note that a machine was cleaned, serviced or rebuilt',
    tag: 'machines',
  },
  body: MachineEventPut,
  roles: MAKERS,
  creates: true,
  touches: ['machines', 'runs'],
  line: lineOf('kind', 'note'),
  async apply(context) {
    const { tx, target, body, at, by } = context;
    await requireMachine(context, body.machineId);
    await tx.insert(machineEvent).values({ id: target, ...body, at: body.at ?? at, by });
  },
  async undo({ tx }, { target }) {
    await tx.update(machineEvent).set({ voided: true }).where(eq(machineEvent.id, target));
  },
});
