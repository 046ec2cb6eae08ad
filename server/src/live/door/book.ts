import { and, desc, eq, exists, or } from 'drizzle-orm';
import type { FastifyRequest } from 'fastify';
import { machine, step } from '../../db/schema/index.ts';
import { Problem } from '../../http/problem.ts';
import type { Store } from '../../store/store.ts';
import { tokenHash } from './deviceToken.ts';

/** The machine a token belongs to. */
export interface Owner {
  id: string;
  name: string;
  station: string;
  kind: string;
}

/** Whoever a machine's board enters as. */
export const asMachine = ({ name }: Owner) => ({
  id: null,
  initials: name.slice(0, 12),
  role: 'maker' as const,
});

/** What runs on a machine. */
export interface Running {
  stepId: string;
  batchId: string | null;
  /** Epoch ms. */
  startedAt: number;
}

/** Which machine a token belongs to and what runs on it, kept until an entry that may change either. */
export class DoorBook {
  private readonly owners = new Map<string, Owner>();
  private readonly running = new Map<string, Running>();
  /** Steps whose board has been told of already. */
  readonly warned = new Set<string>();

  constructor(readonly store: Store) {
    store.bus.whenTouched(['machines', 'batches'], () => this.forget());
  }

  private forget(): void {
    this.owners.clear();
    this.running.clear();
  }

  async owner(request: FastifyRequest): Promise<Owner> {
    const token = /^Bearer (\S+)$/.exec(request.headers.authorization ?? '')?.[1];
    if (!token)
      throw new Problem({
        status: 401,
        code: 'no-token',
        detail: 'send the machine’s device token as Authorization: Bearer …',
      });
    const hash = tokenHash(token);
    const known = this.owners.get(hash);
    if (known) return known;
    const [found] = await this.store.db
      .select({ id: machine.id, name: machine.name, station: machine.station, kind: machine.kind })
      .from(machine)
      // Taken out of use while something is in it, it is followed until that is out.
      .where(
        and(eq(machine.tokenHash, hash), or(eq(machine.active, true), exists(this.stepsOn(machine.id)))),
      );
    if (!found)
      throw new Problem({
        status: 401,
        code: 'unknown-token',
        detail: 'no machine at work has this device token; make one on the machine’s page',
      });
    this.owners.set(hash, found);
    return found;
  }

  private stepsOn(machineId: string | typeof machine.id) {
    return this.store.db
      .select({ stepId: step.id, batchId: step.batchId, startedAt: step.startedAt })
      .from(step)
      .where(and(eq(step.machineId, machineId), eq(step.status, 'open'), eq(step.voided, false)));
  }

  async openStep(owner: Owner): Promise<Running> {
    const known = this.running.get(owner.id);
    if (known) return known;
    const [open] = await this.stepsOn(owner.id).orderBy(desc(step.startedAt)).limit(1);
    if (!open)
      throw new Problem({
        status: 409,
        code: 'nothing-running',
        detail: `nothing is running on ${owner.name}; open a step on it first`,
      });
    const running = { ...open, startedAt: Date.parse(open.startedAt) };
    this.running.set(owner.id, running);
    return running;
  }
}
