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
  scale: { name: 'Bench scale', station: 'sort', kind: 'scale', uMg: 1500 },
  room: { name: 'Room sensor', station: 'mould', kind: 'room sensor' },
  cracker: { name: 'Crank cracker', station: 'winnow', kind: 'cracker' },
  winnower: { name: 'Suction winnower', station: 'winnow', kind: 'winnower' },
  ida: {
    name: 'Ida',
    station: 'grind',
    kind: 'stone grinder',
    minMg: kg(2),
    maxMg: kg(9),
    price: 145_000,
    resale: 30_000,
    lifeKg: 2500,
    watts: 370,
    serviceHours: 500,
    loud: true,
  },
  otto: {
    name: 'Otto',
    station: 'grind',
    kind: 'stone grinder',
    minMg: kg(8),
    maxMg: kg(26),
    price: 420_000,
    resale: 120_000,
    lifeKg: 9000,
    watts: 1100,
    serviceHours: 800,
    loud: true,
  },
  mixer: { name: 'Heated mixer, 12 litres', station: 'grind', kind: 'mixer', maxMg: kg(12) },
  marble: { name: 'Marble', station: 'temper', kind: 'table' },
  bowl: { name: 'Bowl machine', station: 'temper', kind: 'bowl', maxMg: kg(4.5) },
  cabinet: { name: 'Cabinet, 192 places', station: 'mould', kind: 'cabinet', places: 192 },
};

/** A lot with how it behaves in the models. */
export interface DemoLot {
  key: string;
  facts: Omit<LotPut, 'massMg' | 'receivedOn' | 'stepId' | 'movementId' | 'parcelId'>;
  massMg: number;
  /** Days before today on which it arrived. */
  daysAgo: number;
  nibYield: number;
  rejects: number;
}

/** Two invented plots near a point: a field and a drying place. */
function plotsAt(longitude: number, latitude: number): NonNullable<LotPut['plots']> {
  const [x, y] = [longitude, latitude];
  return {
    type: 'FeatureCollection',
    features: [
      {
        type: 'Feature',
        properties: { name: 'field' },
        geometry: {
          type: 'Polygon',
          coordinates: [
            [
              [x, y],
              [x + 0.02, y],
              [x + 0.02, y + 0.015],
              [x, y + 0.015],
              [x, y],
            ],
          ],
        },
      },
      {
        type: 'Feature',
        properties: { name: 'drying place' },
        geometry: { type: 'Point', coordinates: [x + 0.01, y - 0.01] },
      },
    ],
  };
}

/** The lots of Saltmarsh Row. */
export const LOTS: readonly DemoLot[] = [
  {
    key: 'TL',
    massMg: kg(210),
    daysAgo: 560,
    nibYield: 0.846,
    rejects: 0.02,
    facts: {
      code: 'TL',
      plots: plotsAt(105.9, 10.1),
      leadWeeks: 8,
      certificates: 'grower’s own record',
      growerNotes: 'Five days in boxes, turned daily; sun-dried on nets.',
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
    nibYield: 0.858,
    rejects: 0.026,
    facts: {
      code: 'MR',
      plots: plotsAt(178.1, -17.8),
      leadWeeks: 8,
      certificates: '',
      growerNotes: 'Six days in heaps under leaves, dried over eight.',
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
    nibYield: 0.851,
    rejects: 0.018,
    facts: {
      code: 'NK',
      plots: plotsAt(30.2, 0.6),
      leadWeeks: 8,
      certificates: 'grower’s own record',
      growerNotes: 'Six days in three boxes, sun-dried.',
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
    nibYield: 0.861,
    rejects: 0.021,
    facts: {
      code: 'VA',
      plots: plotsAt(76.6, 10.2),
      leadWeeks: 10,
      certificates: 'grower’s own record',
      growerNotes: 'Five days, raised beds, shaded at noon.',
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
    daysAgo: 8,
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
      notes: 'One crate of wet beans, fermented and dried here.',
      pricePerKg: 0,
      freight: 0,
      place: 'warm corner',
    },
  },
];

/** Recipes: shares of the finished bowl by ingredient key. */
export const RECIPES: Readonly<
  Record<
    string,
    {
      name: string;
      kind: 'dark' | 'milk' | 'white';
      aimUm?: number;
      tempered?: boolean;
      conched?: boolean;
      notes?: string;
      shares: Readonly<Record<string, number>>;
    }
  >
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
    conched: true,
    shares: { nibs: 0.34, 'cocoa-butter': 0.14, 'cane-sugar': 0.28, 'whole-milk-powder': 0.24 },
  },
  oat: {
    name: 'Oat 55',
    kind: 'milk',
    shares: { nibs: 0.43, 'cocoa-butter': 0.12, 'cane-sugar': 0.25, 'oat-powder': 0.2 },
  },
  white: {
    name: 'White with vanilla',
    kind: 'white',
    shares: { 'cocoa-butter': 0.33, 'cane-sugar': 0.41, 'whole-milk-powder': 0.255, vanilla: 0.005 },
  },
  spiced: {
    name: 'Spiced 68',
    kind: 'dark',
    shares: { nibs: 0.66, 'cocoa-butter': 0.02, 'cane-sugar': 0.306, cinnamon: 0.01, chilli: 0.004 },
  },
  sugarFree: {
    name: 'Without sugar 72',
    kind: 'dark',
    notes: 'Cools the tongue; keep the bowl under 50 °C.',
    shares: { nibs: 0.68, 'cocoa-butter': 0.04, erythritol: 0.28 },
  },
  rustic: {
    name: 'Rustic tablet 60',
    kind: 'dark',
    tempered: false,
    aimUm: 120,
    notes: 'Two passes through the stones, no temper: for drinking.',
    shares: { nibs: 0.6, 'coconut-sugar': 0.395, cinnamon: 0.005 },
  },
  nutPaste: {
    name: 'Hazelnut paste',
    kind: 'milk',
    notes: 'For fillings; stays soft.',
    shares: { hazelnuts: 0.5, 'cane-sugar': 0.3, nibs: 0.1, 'cocoa-butter': 0.1 },
  },
  raspberry: {
    name: 'Raspberry couverture',
    kind: 'white',
    aimUm: 20,
    notes: 'No cacao solids: butter, sugar and dried fruit. Keep every drop of water away.',
    shares: { 'cocoa-butter': 0.42, 'cane-sugar': 0.38, 'freeze-dried-raspberry': 0.196, lecithin: 0.004 },
  },
  couverture: {
    name: 'Block couverture 66',
    kind: 'dark',
    notes: 'Cast as blocks for the kitchen next door.',
    shares: { nibs: 0.56, 'cocoa-butter': 0.1, 'cane-sugar': 0.337, lecithin: 0.003 },
  },
};

/** What came from suppliers, with the number and date on the sack. */
export const DELIVERIES: readonly {
  ingredient: string | null;
  name?: string;
  massMg: number;
  count?: number;
  pricePerKg: number;
  daysAgo: number;
  /** Days from its arrival to its best-before. */
  keeps: number | null;
  supplier: string;
  supplierLot: string;
  place: string;
}[] = [
  {
    ingredient: 'cane-sugar',
    massMg: kg(50),
    pricePerKg: 321,
    daysAgo: 44,
    keeps: 1000,
    supplier: 'Quayside Provisions',
    supplierLot: 'S-2291',
    place: 'dry store',
  },
  {
    ingredient: 'cocoa-butter',
    massMg: kg(12.5),
    pricePerKg: 1940,
    daysAgo: 40,
    keeps: 500,
    supplier: 'Quayside Provisions',
    supplierLot: 'B 077-26',
    place: 'cool cupboard',
  },
  {
    ingredient: 'whole-milk-powder',
    massMg: kg(10),
    pricePerKg: 965,
    daysAgo: 190,
    keeps: 210,
    supplier: 'Holt Dairy Stores',
    supplierLot: 'WM 4417',
    place: 'dry store',
  },
  {
    ingredient: null,
    name: 'Paper wraps, violet',
    massMg: kg(6),
    count: 2000,
    pricePerKg: 9300,
    daysAgo: 30,
    keeps: null,
    supplier: 'Lane Paper Works',
    supplierLot: '',
    place: 'packing table',
  },
  {
    ingredient: null,
    name: 'Boxes for twelve',
    massMg: kg(12),
    count: 150,
    pricePerKg: 800,
    daysAgo: 30,
    keeps: null,
    supplier: 'Lane Paper Works',
    supplierLot: '',
    place: 'packing table',
  },
];
