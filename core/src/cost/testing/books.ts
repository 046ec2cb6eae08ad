import type { LineageGraph, LineageLine, LineageParcel, Material } from '../../ledger/index.ts';
import type { CostRates, StepWork } from '../index.ts';

/** What work costs in these tests. */
export const RATES: CostRates = { labourRate: 1500, energyPrice: 30, overheadPerKg: 200, joint: 'mass' };

/** Books for tests: parcels, lines and works, told one after the other. */
export class Books implements LineageGraph {
  readonly parcels = new Map<string, LineageParcel>();
  readonly lines = new Map<string, LineageLine[]>();
  readonly works = new Map<string, StepWork>();
  readonly open = new Set<string>();

  parcel(
    id: string,
    stepId: string,
    material: Material,
    pricePerKg: number | null = null,
    batchId: string | null = null,
  ): this {
    this.parcels.set(id, {
      id,
      stepId,
      material,
      lotId: pricePerKg === null ? null : id,
      lotName: null,
      batchId,
      pricePerKg,
      allergens: [],
    });
    return this;
  }

  line(
    stepId: string,
    direction: 'in' | 'out',
    parcelId: string | null,
    massMg: number,
    pricePerKg: number | null = null,
  ): this {
    const mine = this.lines.get(stepId) ?? [];
    this.lines.set(stepId, mine);
    mine.push({
      stepId,
      direction,
      parcelId,
      massMg,
      material: parcelId ? this.parcels.get(parcelId)!.material : 'ingredient',
      ingredientId: parcelId ? null : 'sugar',
      pricePerKg,
      allergens: [],
    });
    return this;
  }

  work(stepId: string, part: Partial<StepWork>): this {
    this.works.set(stepId, {
      kind: 'grind',
      minutes: 0,
      machineHours: 0,
      watts: 0,
      writeOffPerKg: 0,
      fetched: 0,
      ...part,
    });
    return this;
  }
}

/** Milligrams of a kg. */
export const kg = 1e6;

/** 10 kg of beans at 9.00 to 8 kg of nibs, 6 kg of them with 2 kg of sugar to 8 kg of chocolate, and 160 bars. */
export function bars(): Books {
  return new Books()
    .parcel('beans', 'r', 'dry beans', 900)
    .parcel('nibs', 'winnow', 'nibs')
    .parcel('husk', 'winnow', 'husk')
    .parcel('chocolate', 'grind', 'chocolate')
    .parcel('bars', 'mould', 'bars')
    .parcel('wraps', 'r2', 'packaging', 1000)
    .parcel('box', 'wrap', 'bars')
    .line('r', 'out', 'beans', 20 * kg)
    .line('winnow', 'in', 'beans', 10 * kg)
    .line('winnow', 'out', 'nibs', 8 * kg)
    .line('winnow', 'out', 'husk', 1.5 * kg)
    .work('winnow', { kind: 'winnow', minutes: 60, fetched: 300 })
    .line('grind', 'in', 'nibs', 6 * kg)
    .line('grind', 'in', null, 2 * kg, 250)
    .line('grind', 'out', 'chocolate', 8 * kg)
    .work('grind', { machineHours: 40, watts: 500, writeOffPerKg: 25 })
    .line('mould', 'in', 'chocolate', 8 * kg)
    .line('mould', 'out', 'bars', 8 * kg)
    .work('mould', { kind: 'mould', minutes: 90 })
    .line('wrap', 'in', 'bars', 8 * kg)
    .line('wrap', 'in', 'wraps', 0.2 * kg)
    .line('wrap', 'out', 'box', 8 * kg)
    .work('wrap', { kind: 'wrap', minutes: 30 });
}
