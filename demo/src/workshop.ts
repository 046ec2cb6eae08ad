import type { LotPut, MachinePut } from '@wunsch/contract';

/** Whole mg of some kilograms. */
export const kg = (amount: number): number => Math.round(amount * 1_000_000);

/** The three people of Saltmarsh Row. Invented, like everything here. */
export const PEOPLE = [
  { initials: 'AK', name: 'Anneke', role: 'owner' },
  { initials: 'JB', name: 'Jory', role: 'maker' },
  { initials: 'MR', name: 'Marit', role: 'maker' },
] as const;

/** One of the three. */
export type Initials = (typeof PEOPLE)[number]['initials'];

/** Their machines, with usable charges. */
export const MACHINES: Readonly<Record<string, MachinePut>> = {
  oven: { name: 'Fan oven', station: 'roast', kind: 'fan oven', minMg: kg(0.5), maxMg: kg(3) },
  cracker: { name: 'Crank cracker', station: 'winnow', kind: 'cracker' },
  winnower: { name: 'Suction winnower', station: 'winnow', kind: 'winnower' },
  ida: { name: 'Ida', station: 'grind', kind: 'stone grinder', minMg: kg(2), maxMg: kg(9) },
  otto: { name: 'Otto', station: 'grind', kind: 'stone grinder', minMg: kg(8), maxMg: kg(26) },
  mixer: { name: 'Heated mixer, 12 litres', station: 'grind', kind: 'mixer', maxMg: kg(12) },
  marble: { name: 'Marble', station: 'temper', kind: 'table' },
  bowl: { name: 'Bowl machine', station: 'temper', kind: 'bowl', maxMg: kg(4.5) },
  cabinet: { name: 'Cabinet, 192 places', station: 'mould', kind: 'cabinet' },
};

/** A lot with how it behaves in the models. */
export interface DemoLot {
  key: string;
  facts: Omit<LotPut, 'massMg' | 'receivedOn' | 'stepId' | 'movementId' | 'parcelId'>;
  massMg: number;
  /** Days before today on which it arrived. */
  daysAgo: number;
  moistureLoss: number;
  nibYield: number;
  rejects: number;
}

/** The lots of Saltmarsh Row. */
export const LOTS: readonly DemoLot[] = [
  {
    key: 'TL',
    massMg: kg(210),
    daysAgo: 560,
    moistureLoss: 0.057,
    nibYield: 0.846,
    rejects: 0.02,
    facts: {
      code: 'TL',
      name: 'Thanh Loc Orchard',
      country: 'Vietnam',
      region: 'Mekong delta',
      grower: 'Thanh Loc Orchard',
      variety: 'mixed',
      harvest: '2025',
      notes: 'Red fruit, sharp when roasted too gently.',
      pricePerKg: 1020,
      freight: 21_000,
      moisture: 7.1,
      beansPer100g: 88,
      nibFat: 53.2,
      place: 'loft, north rack',
    },
  },
  {
    key: 'MR',
    massMg: kg(190),
    daysAgo: 540,
    moistureLoss: 0.061,
    nibYield: 0.858,
    rejects: 0.026,
    facts: {
      code: 'MR',
      name: 'Matuku Ridge',
      country: 'Fiji',
      region: 'inland hills',
      grower: 'Matuku Ridge',
      variety: 'mixed',
      harvest: '2025',
      notes: 'Honey and wood. Moths found in two sacks.',
      pricePerKg: 1180,
      freight: 38_000,
      moisture: 7.6,
      beansPer100g: 94,
      nibFat: 52.1,
      place: 'freezer',
      onHold: true,
      holdReason: 'moths, freezing since last week',
    },
  },
  {
    key: 'NK',
    massMg: kg(240),
    daysAgo: 300,
    moistureLoss: 0.055,
    nibYield: 0.851,
    rejects: 0.018,
    facts: {
      code: 'NK',
      name: 'Nkondo Growers',
      country: 'Uganda',
      region: 'western foothills',
      grower: 'Nkondo Growers',
      variety: 'mixed',
      harvest: '2026',
      notes: 'Even fermentation, little waste.',
      pricePerKg: 860,
      freight: 19_500,
      moisture: 6.9,
      beansPer100g: 91,
      nibFat: 54.4,
      place: 'loft, south rack',
    },
  },
  {
    key: 'VA',
    massMg: kg(220),
    daysAgo: 290,
    moistureLoss: 0.058,
    nibYield: 0.861,
    rejects: 0.021,
    facts: {
      code: 'VA',
      name: 'Vanamala Estate',
      country: 'India',
      region: 'southern hills',
      grower: 'Vanamala Estate',
      variety: 'mixed',
      harvest: '2026',
      notes: 'Spice and dried fruit.',
      pricePerKg: 944,
      freight: 24_000,
      moisture: 7.0,
      beansPer100g: 90,
      nibFat: 53.8,
      place: 'loft, south rack',
    },
  },
  {
    key: 'GH',
    massMg: kg(38),
    daysAgo: 3,
    moistureLoss: 0.06,
    nibYield: 0.83,
    rejects: 0.04,
    facts: {
      code: 'GH',
      name: 'Glasshouse crate',
      material: 'wet beans',
      country: '',
      region: 'botanic garden glasshouse',
      grower: 'the garden',
      variety: 'unknown',
      harvest: '2026',
      notes: 'One crate of wet beans, to be fermented here.',
      pricePerKg: 0,
      freight: 0,
      place: 'warm corner',
    },
  },
];

/** Recipes: shares of the finished bowl by ingredient key. */
export const RECIPES: Readonly<
  Record<string, { name: string; kind: 'dark' | 'milk'; shares: Readonly<Record<string, number>> }>
> = {
  seventy: { name: 'Two-ingredient 70', kind: 'dark', shares: { nibs: 0.7, 'cane-sugar': 0.3 } },
  seventyfive: {
    name: 'Dark 75 with butter',
    kind: 'dark',
    shares: { nibs: 0.71, 'cocoa-butter': 0.04, 'cane-sugar': 0.25 },
  },
  milk: {
    name: 'Milk 48',
    kind: 'milk',
    shares: { nibs: 0.34, 'cocoa-butter': 0.14, 'cane-sugar': 0.28, 'whole-milk-powder': 0.24 },
  },
  oat: {
    name: 'Oat 55',
    kind: 'milk',
    shares: { nibs: 0.43, 'cocoa-butter': 0.12, 'cane-sugar': 0.25, 'oat-powder': 0.2 },
  },
};
