import type { Shape } from '@wunsch/contract';
import { roundMass } from '@wunsch/core/quantity';
import type { Station } from '@wunsch/core/ledger';

/** A machine a shape suggests; masses in mg. */
export interface SuggestedMachine {
  name: 'oven' | 'grinder' | 'big-grinder' | 'winnower' | 'bowl';
  station: Station;
  /** What it is, in the words the models understand. */
  kind: string;
  minMg: number | null;
  maxMg: number | null;
}

const kg = (n: number) => n * 1_000_000;

/** What each starting shape suggests; all of it can be changed. */
const SHAPES: Readonly<Record<Shape, readonly SuggestedMachine[]>> = {
  kitchen: [
    { name: 'oven', station: 'roast', kind: 'fan oven', minMg: kg(0.2), maxMg: kg(1.5) },
    { name: 'grinder', station: 'grind', kind: 'stone grinder', minMg: kg(0.5), maxMg: kg(1.6) },
  ],
  shop: [
    { name: 'oven', station: 'roast', kind: 'fan oven', minMg: kg(0.5), maxMg: kg(3) },
    { name: 'winnower', station: 'winnow', kind: 'winnower', minMg: null, maxMg: null },
    { name: 'grinder', station: 'grind', kind: 'stone grinder', minMg: kg(2), maxMg: kg(9) },
    { name: 'bowl', station: 'temper', kind: 'bowl', minMg: null, maxMg: kg(4.5) },
  ],
  estate: [
    { name: 'oven', station: 'roast', kind: 'fan oven', minMg: kg(1), maxMg: kg(10) },
    { name: 'winnower', station: 'winnow', kind: 'winnower', minMg: null, maxMg: null },
    { name: 'big-grinder', station: 'grind', kind: 'stone grinder', minMg: kg(8), maxMg: kg(26) },
  ],
  school: [
    { name: 'oven', station: 'roast', kind: 'fan oven', minMg: kg(0.3), maxMg: kg(2) },
    { name: 'grinder', station: 'grind', kind: 'stone grinder', minMg: kg(0.5), maxMg: kg(3) },
  ],
};

/** The machines a shape suggests, their charges round in what the workshop weighs in. */
export const machinesOf = (shape: Shape, system: 'metric' | 'pounds'): SuggestedMachine[] =>
  SHAPES[shape].map((m) => ({
    ...m,
    minMg: m.minMg === null ? null : roundMass(m.minMg, system),
    maxMg: m.maxMg === null ? null : roundMass(m.maxMg, system),
  }));
