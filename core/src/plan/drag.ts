import { leastMoved, readyRoom, type ReadyRoom } from './givingWay.ts';
import { NoPlan } from './project.ts';
import { repairOf, type Repair } from './repair.ts';
import type { PlannedStep, PlanPin, PlanRoom } from './room.ts';
import { verifyPlan, type Broken } from './verify.ts';

const MINUTE = 60_000;

/**
 * A plan whose steps are dragged about: everything that does not change between two moves is worked out once. What is dragged and all that
 * waits for it give way in the order the plan had; nothing is searched for, so that the hand is never waited for.
 */
export class Dragging {
  private readonly ready: ReadyRoom | null;
  private readonly byKey: ReadonlyMap<string, PlannedStep>;

  constructor(
    room: PlanRoom,
    private readonly kept: readonly PlannedStep[],
    private readonly pins: readonly PlanPin[],
  ) {
    this.ready = readyRoom(room, pins, kept);
    this.byKey = new Map((this.ready?.laid ?? kept).map((s) => [s.key, s]));
  }

  /**
   * One step moved to a time or after it: what gives way, and what would be broken if nothing did.
   *
   * @throws RangeError for a step the plan has not
   * @throws NoPlan where something then fits nowhere
   */
  to(pin: PlanPin): { repair: Repair; broken: Broken[] } {
    const { ready } = this;
    if (!ready || !this.byKey.has(pin.step)) throw new RangeError(`the plan has no step ‘${pin.step}’`);
    const pins = [...this.pins.filter((p) => p.step !== pin.step), pin];
    const minute = Math.max(0, Math.round((Date.parse(pin.at) - ready.workshop.zero) / MINUTE));
    const found = leastMoved(ready, ready.laid, {
      byHand: new Set(pins.map((p) => p.step)),
      later: new Map([[pin.step, minute]]),
    });
    if (!found) throw new NoPlan('with this step there, something fits nowhere', [pin.step]);
    return { repair: repairOf(ready, this.kept, found, pins, 0), broken: this.brokenAt(pin.step, minute) };
  }

  /** What would be broken if one step began at a minute and nothing else moved: the rules, and the ids they are about. */
  private brokenAt(key: string, minute: number): Broken[] {
    const {
      workshop: { project, zero },
    } = this.ready!;
    const at = (iso: string) => Math.round((Date.parse(iso) - zero) / MINUTE);
    const given: Record<string, string[]> = {};
    for (const a of project.activities) {
      const s = this.byKey.get(a.id);
      given[a.id] = (a.uses ?? []).map(
        (u) => u.oneOf.find((r) => r === s?.personId || r === s?.machineId) ?? u.oneOf[0]!,
      );
    }
    for (const h of project.holds ?? []) {
      const batch = this.byKey.get(h.from)?.batch;
      const machine = h.oneOf.find((r) => this.kept.some((s) => s.batch === batch && s.machineId === r));
      given[h.id] = [machine ?? h.oneOf[0]!];
    }
    const starts = Object.fromEntries(
      project.activities.map((a) => {
        const was = this.byKey.get(a.id);
        return [a.id, a.id === key ? minute : (a.fixedAt ?? (was ? at(was.start) : minute))];
      }),
    );
    return verifyPlan(project, { starts, given }).filter((b) => b.ids.includes(key));
  }
}
