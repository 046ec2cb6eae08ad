import * as beans from './beans/index.ts';
import * as classes from './classes/index.ts';
import * as conche from './conche/index.ts';
import * as cost from './cost/index.ts';
import * as ferment from './ferment/index.ts';
import * as grind from './grind/index.ts';
import * as hold from './hold/index.ts';
import * as label from './label/index.ts';
import * as ledger from './ledger/index.ts';
import * as mould from './mould/index.ts';
import * as planning from './plan/index.ts';
import * as quantity from './quantity/index.ts';
import * as recipe from './recipe/index.ts';
import * as rest from './rest/index.ts';
import * as roast from './roast/index.ts';
import * as skills from './skills/index.ts';
import * as sort from './sort/index.ts';
import * as temper from './temper/index.ts';
import * as winnow from './winnow/index.ts';

/**
 * One habit over all rooms: whatever computes refuses what it cannot compute. Each call below is sound; then each number in its
 * arguments in turn becomes NaN or endless, and, where it may not be below 0, negative. Every one of these must be refused by a
 * RangeError that says something; no answer is given.
 */
interface Case {
  name: string;
  call: (args: never) => unknown;
  args: unknown;
  /** Paths of numbers that may be below 0 (temperatures, money that comes back). */
  signed?: RegExp;
  /** Paths that are not looked at. */
  free?: RegExp;
}

const of = <A>(name: string, call: (args: A) => unknown, args: A, more: Partial<Case> = {}): Case => ({
  name,
  call: call as Case['call'],
  args,
  ...more,
});

const shelf = (key: string) => ({ id: key, ...recipe.STARTER_INGREDIENTS.find((i) => i.key === key)! });
const lines = [
  { ingredient: shelf('nibs'), massMg: 700_000 },
  { ingredient: shelf('cane-sugar'), massMg: 300_000 },
];
const plan = { name: 'p', stages: [{ name: 's', setC: 130, minutes: 2, fan: true }] };
const winnower = winnow.fitWinnower([
  { setting: 3, huskInNibs: { share: 0.01, sampleG: 200 }, nibInHusk: { share: 0.02, sampleG: 120 } },
]);

const bars = [{ gloss: 4, snap: 5, release: 4, bloom: false }];

const CASES: Case[] = [
  of(
    'well tempered',
    (a) => [temper.wellTempered(a.bars, []), temper.wellTempered([], a.dips)],
    {
      bars,
      dips: [{ minutes: 5, gloss: 'even' as const, streaks: false }],
    },
    { free: /release/ },
  ),
  of('a roast of a person', (a) => skills.judgeRun('roast', { ...skills.NOTHING_SEEN, ...a }), {
    doseMinutes: 12,
    doseAim: 12,
  }),
  of('a winnowing of a person', (a) => skills.judgeRun('winnow', { ...skills.NOTHING_SEEN, ...a }), {
    huskSample: { foundG: 1, sampleG: 100 },
  }),
  of('bars of a person', (a) => skills.judgeRun('mould', { ...skills.NOTHING_SEEN, ...a }), { bars }),
  of(
    'ready to sign',
    (a) => skills.readyToSign(a.runs, a.practised, a.rule),
    {
      runs: { good: 3, done: 1 },
      practised: [{ level: 2, points: 60 }],
      rule: { goodRuns: 5, points: 80 },
    },
    { free: /level/ },
  ),
  of('moisture verdict', (a) => beans.moistureVerdict(a.percent), { percent: 7 }),
  of('landed price', beans.landedPrice, { pricePerKg: 900, freight: 5000, arrivedMg: 6e7 }),
  of('beans for bars', beans.beansForBars, {
    bars: 100,
    barMg: 60_000,
    beansShare: 0.7,
    yields: [{ mean: 0.8, sd: 0.02 }],
  }),
  of(
    'reorder',
    beans.reorder,
    { stockMg: 4e7, pace: { perWeekMg: 2e6, sdMg: 5e5, weeks: 10 }, leadWeeks: 4, now: 1e12 },
    { free: /weeks$|now/ },
  ),
  of('parting a charge', (a) => grind.partCharge(a.massMg, [a, a]), { massMg: 12e6, minMg: 2e6, maxMg: 9e6 }),
  of('charge check', (a) => grind.checkCharge(a.massMg, a), { massMg: 5e6, minMg: 2e6, maxMg: 9e6 }),
  of(
    'grit on a curve',
    (a) => grind.gritAt(a.curve, a.hours),
    { curve: { rate: 0.1, finest: 12, coarse: 80 }, hours: 5 },
    { signed: /curve/ },
  ),
  of(
    'hours to an aim',
    (a) => grind.hoursToAim(a.curve, a.aim),
    { curve: { rate: 0.1, finest: 12, coarse: 80 }, aim: 20 },
    { signed: /curve/ },
  ),
  of('grind forecast', grind.forecastGrind, {
    readings: [
      { hours: 2, um: 80 },
      { hours: 9, um: 45 },
      { hours: 16, um: 30 },
    ],
    aimUm: 20,
  }),
  of(
    'grinding hours',
    (a) => grind.grindingHours(a.from, a.to, a.pauses),
    { from: 0, to: 7.2e6, pauses: [{ from: 1e6, to: 2e6 }] },
    { signed: /./ },
  ),
  of('hours a machine ran', ledger.ranHours, {
    kind: 'winnow',
    startedAt: '2026-10-01T08:00:00Z',
    endedAt: '2026-10-01T09:00:00Z',
    handsOnMinutes: 45,
  }),
  of('grit after passes', (a) => grind.gritAfterPasses('blender', a.passes), { passes: 3 }),
  of('flow', (a) => recipe.estimateFlow(a.composition, a.grit), {
    composition: recipe.nibComposition(),
    grit: 20,
  }),
  of('times a recipe', (a) => recipe.timesRecipe(a, a), lines, {
    free: /composition|nutrition|density|crystal|price/,
  }),
  of('cocoa powder', (a) => recipe.powderComposition(a.fat, recipe.parts({ cocoaSolids: 95, water: 5 })), {
    fat: 11,
  }),
  of('figures of a bowl', recipe.recipeFigures, lines, {
    free: /composition|nutrition|density|crystal|price/,
  }),
  of('cost of a class', classes.classCost, {
    guests: 8,
    price: 4500,
    materials: 2400,
    eachGuest: 250,
    fixed: 6000,
    hours: 5,
    labourRate: 1800,
  }),
  of('hours of a class', classes.runSheet, {
    minutes: 120,
    guests: 8,
    show: ['taste' as const],
    minutesOf: { taste: 10 },
    places: 2,
    baseMg: 1_000_000,
  }),
  of(
    'a guest’s bar',
    classes.guestBar,
    {
      massMg: 120_000,
      base: lines,
      cacaoPercent: 40,
      school: 'all' as const,
      sugar: shelf('cane-sugar'),
      flavours: [{ ingredient: shelf('hazelnuts'), percent: 10 }],
      divisionMg: 100,
    },
    { free: /composition|nutrition|density|crystal|price/ },
  ),
  of(
    'recipe solver',
    recipe.solveRecipe,
    { lines, wishes: [{ figure: 'sugar' as const, max: 40 }] },
    { signed: /price/, free: /nutrition|density|crystal|composition/ },
  ),
  of('a claim', (a) => recipe.claimPercent(a.percent), { percent: 71.4 }),
  of('kitchen measure', (a) => recipe.kitchenMass('2 tbsp', a.density), { density: 0.85 }),
  of('difference of arms', (a) => recipe.compareArms(a[0]!, a[1]!), [
    { label: 'a', scores: [6, 7] },
    { label: 'b', scores: [5, 8] },
  ]),
  of('arms by liking', recipe.rankedArms, [{ label: 'a', scores: [6, 7] }]),
  of('winner of a trial', recipe.winner, [
    { label: 'a', scores: [6, 7] },
    { label: 'b', scores: [5, 8] },
  ]),
  of(
    'roast watch',
    roast.watchRoast,
    {
      now: 300,
      bean: [{ seconds: 290, celsius: 95 }],
      oven: [],
      setC: 130,
      expectedC: 96,
      surfaceC: 99,
      ceilingC: 150,
      stirEvery: 360,
      lastStir: 100,
      endSeconds: 1800,
      probe: true,
    },
    { signed: /./ },
  ),
  of(
    'roast simulation',
    roast.simulateRoast,
    { bean: roast.makeBean(), oven: roast.makeOven(), plan, loadKg: 2, roomC: 21 },
    { signed: /oven|bean|setC|roomC/ },
  ),
  of('oven', roast.makeOven, { kind: 'fan' as const, usableKg: 3 }),
  of(
    'roast dose',
    roast.roastDose,
    [
      { seconds: 0, celsius: 100 },
      { seconds: 60, celsius: 120 },
    ],
    { signed: /./ },
  ),
  of('cheapest setting', (a) => winnow.cheapestSetting(winnower, a.limit, a.passes), {
    limit: 0.0175,
    passes: 1,
  }),
  of('weighing', (a) => ledger.weighingU([{ uMg: 500, maxMg: null }], a.massMg), { massMg: 60_000 }),
  of('scale', (a) => ledger.scaleUncertainty(a.readsTo, a.repeats), { readsTo: 2000, repeats: 500 }),
  of('micrometer', (a) => grind.micrometerUncertainty(a.um), { um: 20 }),
  of('a recipe begun', (a) => recipe.usualRecipe('milk', a), {
    beansMg: 2e6,
    totalMg: 9e6,
    mostBeansMg: 3e6,
  }),
  of('oven loads', (a) => roast.splitLoads(a.charge, a.most), { charge: 7e6, most: 3e6 }),
  of('plan length', roast.planMinutes, plan, { signed: /setC/, free: /setC/ }),
  of('stirs to come', (a) => roast.plannedStirs(plan, a.every, a.last), { every: 360, last: 60 }),
  of('roasts learnt from', roast.reckonsStirs, { roasts: 4, stirred: 1 }),
  of('stir', (a) => roast.stirAt(a.seconds), { seconds: 360 }),
  of(
    'drawn beans',
    (a) => roast.drawBean(roast.makeBean(), a.wetter, a.faster),
    { wetter: 0.5, faster: -1 },
    { signed: /./ },
  ),
  of(
    'beans learnt',
    (a) =>
      roast.learnBeans(
        { ...roast.makeBean(), ...a.prior },
        [{ ...a.load, bean: roast.makeBean(), plan, events: [] }],
        roast.learnOven(roast.makeOven(), []),
      ),
    {
      prior: { moistureSd: 0.01, dryingLogSd: 0.2 },
      load: { loadKg: 2, outSeconds: 1500, lossShare: 0.06, beanReadings: [], ovenReadings: [] },
    },
    { free: /load/ },
  ),
  of('doubt of a loss', (a) => roast.doubtsLoss(a.loss, a.range), {
    loss: 0.06,
    range: { median: 0.06, low: 0.05, high: 0.07 },
  }),
  of(
    'what a load was to lose',
    (a) =>
      roast.expectedLoss(
        { ...a, bean: roast.makeBean(), plan, events: [] },
        roast.makeBean(),
        roast.learnOven(roast.makeOven(), []),
      ),
    { loadKg: 2, outSeconds: 1500, beanReadings: [{ seconds: 600, celsius: 100 }], ovenReadings: [] },
    { signed: /Readings/ },
  ),
  of('bean size', (a) => roast.beanRadius(a.per100), { per100: 100 }),
  of('chance within a limit', (a) => sort.chanceWithin(a.found, a.cut, a.limit), {
    found: 9,
    cut: 300,
    limit: 0.03,
  }),
  of('portion', (a) => recipe.nutritionFor(recipe.nutritionOf(shelf('nibs')), a.grams), { grams: 60 }),
  of('label figure', (a) => recipe.roundForLabel('fat', a.grams), { grams: 12 }),
  of('decimals of a label', (a) => recipe.labelDecimals('fat', a.grams), { grams: 3.1 }),
  of('nutrition statement', recipe.nutritionFault, {
    fat: 40,
    saturates: 24,
    carbohydrate: 45,
    sugars: 30,
    fibre: 7,
    protein: 7,
    salt: 0.02,
  }),
  of('recipe to a mass', (a) => recipe.scaleToTotal(lines, a.totalMg), { totalMg: 1e6 }),
  of('claim', (a) => recipe.claimTooHigh(a.claimed, lines), { claimed: 70 }),
  of('net mass', (a) => label.netMassText(a.netMg, 'EU', 'en'), { netMg: 60_000 }),
  of('margin', (a) => cost.marginOf({ material: 50, labour: 30 } as never, a.price), { price: 400 }),
  of('winnower fit', (a) => winnow.fitWinnower(a), [
    { setting: 3, huskInNibs: { share: 0.01, sampleG: 200 } },
  ]),
  of('picked sample', winnow.judgeSample, { of: 'husk' as const, foundG: 2, sampleG: 200, limit: 0.0175 }),
  of('separation', (a) => winnow.separate(a), { speed: 2.5, sharpness: 6 }),
  of(
    'seed mass',
    temper.seedMass,
    { mass: 3150, fromC: 41.5, toC: 31.8, seedC: 20, fat: 0.36 },
    { signed: /C$/ },
  ),
  of(
    'temperature with seed',
    temper.temperatureWithSeed,
    { mass: 3150, fromC: 41.5, seed: 800, seedC: 20, fat: 0.36 },
    { signed: /C$/ },
  ),
  of('left hot', temper.hotFor, { hotC: 45, tabledC: 27, toC: 31.5 }, { signed: /C$/ }),
  of('tabled mix', temper.tabledMix, { hot: 1000, tabled: 2000, hotC: 45, tabledC: 27 }, { signed: /C$/ }),
  of(
    'crystals of a bowl',
    temper.crystallise,
    {
      path: [
        { minutes: 0, celsius: 46, stirring: 0.8 },
        { minutes: 15, celsius: 27.5, stirring: 0.8 },
        { minutes: 20, celsius: 31.5 },
      ],
      seeds: [{ minutes: 16, share: 0.02, kind: 'solid' as const }],
      shift: 1,
      fat: 0.36,
      start: { unstable: 0.01, stable: 0.01 },
      step: 4,
      sampleEvery: 30,
    },
    { signed: /minutes|shift/ },
  ),
  of('verdict of a bowl', temper.verdictOf, { unstable: 0.001, stable: 0.01, mostStable: 0.02 }),
  of('shift of a kind', (a) => temper.meltingShift('milk', a.coolC), { coolC: 26 }, { signed: /./ }),
  of(
    'forecast of a bowl',
    temper.forecastBowl,
    {
      readings: [0, 20, 40, 60].map((seconds) => ({ seconds, celsius: 40 - seconds / 30 })),
      roomC: 20,
      horizonSeconds: 600,
      every: 30,
    },
    { signed: /seconds|celsius|roomC/ },
  ),
  of(
    'a bowl followed',
    temper.followBowl,
    {
      readings: [0, 20, 40, 60].map((seconds) => ({ seconds, celsius: 40 - seconds / 30 })),
      seeds: [{ seconds: 10, share: 0.1, kind: 'solid' as const }],
      path: temper.TEMPER_PATHS.dark,
      type: 'dark' as const,
      method: 'table' as const,
      fat: 0.36,
      roomC: 20,
    },
    { signed: /seconds|celsius|C$/ },
  ),
  of(
    'cooling curve',
    (a) => temper.coolingCurve(a.readings, a.limits),
    {
      readings: Array.from({ length: 60 }, (_, i) => ({ seconds: i * 3, celsius: 30 - i / 4 })),
      limits: { fallingBelow: -0.5, risingAbove: 0.5 },
    },
    { signed: /celsius|limits/, free: /readings\.(?!5\.)|risingAbove|fallingBelow/ },
  ),
  of(
    'futures of a bowl',
    (a) => temper.whatIfs(a.celsius, temper.TEMPER_PATHS.dark),
    { celsius: 31 },
    { signed: /./ },
  ),
  of('window guard', (a) => temper.guardWindow(a, 'dark'), [{ seconds: 0, celsius: 31 }], { signed: /./ }),
  of('bars', mould.countBars, { massMg: 18_400_000, holdUpMg: 350_000, fillMg: 45_000, cavities: 3 }),
  of(
    'dew point',
    (a) => mould.dewPoint(a.celsius, a.humidity),
    { celsius: 21, humidity: 55 },
    { signed: /celsius/ },
  ),
  of('water activity', (a) => mould.waterActivity(a.waterG, a.solutes), {
    waterG: 100,
    solutes: { sucrose: 60, invert: 20, lactose: 4, polyol: 5, salt: 1 },
  }),
  of(
    'water of a filling',
    (a) => mould.fillingWater(a.lines, a.boiledOffMg),
    { lines: [{ ingredient: shelf('cream'), massMg: 300_000 }, ...lines], boiledOffMg: 20_000 },
    { free: /composition|nutrition|density|crystal|price/ },
  ),
  of('keeping of a filling', (a) => mould.fillingKeepsUntil('2026-01-01', a.activity), { activity: 0.8 }),
  of('best before', (a) => mould.bestBefore('2026-01-01', a.months), { months: 12 }),
  of(
    'cost of a bar',
    cost.costPerBar,
    {
      materials: [{ label: 'beans', massMg: 1e7, pricePerKg: 900 }],
      labourMinutes: 60,
      labourRate: 1500,
      perBar: 30,
      bars: 100,
      other: [{ label: 'husk', cost: -250 }],
    },
    { signed: /pricePerKg|cost/ },
  ),
  of(
    'a bar to come',
    (a) =>
      cost.barIf(
        { spent: cost.noCosts(), massMg: a.massMg, wrapped: a.wrapped },
        { bars: a.bars, barMg: a.barMg, toCome: { mould: a.toCome } },
        a.usual,
      ),
    {
      massMg: 4e6,
      wrapped: 10,
      bars: 100,
      barMg: 50_000,
      toCome: 0.5,
      usual: {
        packagingPerBar: 30,
        overheadPerKg: 200,
        ingredientsPerKg: 150,
        labourPerKg: { mould: 400 },
        energyPerKg: { mould: 20 },
      },
    },
  ),
  of('write-off', cost.writeOffPerKg, { price: 100_000, resale: 20_000, lifeKg: 5000 }),
  of(
    'drying',
    ferment.forecastDrying,
    {
      start: { mass: 1000, moisture: 55 },
      weighings: [
        { hours: 10, mass: 850 },
        { hours: 20, mass: 700 },
      ],
    },
    { signed: /hours/ },
  ),
  of(
    'dry notes',
    (a) => ferment.dryNotes(a),
    [
      { hours: 0, moisture: 50 },
      { hours: 10, moisture: 30 },
    ],
    { signed: /hours/ },
  ),
  of(
    'degree-hours',
    (a) => ferment.degreeHours(a),
    [
      { hours: 0, celsius: 41 },
      { hours: 5, celsius: 45 },
    ],
    { signed: /./ },
  ),
  of('pods for a charge', (a) => ferment.neededForCharge(a.chargeMg, 'pods', [a.winnow]), {
    chargeMg: 8e6,
    winnow: { mean: 0.84, sd: 0.02 },
  }),
  of('juice', (a) => ferment.readDraining({ from: 'wet beans', ...a }), { fromMg: 40e6, juiceMg: 4e6 }),
  of('nibs of wet beans', (a) => ferment.nibsFrom(a.massMg, 'wet beans'), { massMg: 8e6 }),
  of(
    'hold',
    (a) => hold.holdTime({ sides: a.sides, startC: a.startC, airC: -20 }, a.coreC, a.days),
    { sides: [0.8, 0.5, 0.3] as [number, number, number], startC: 24, coreC: -18, days: 4 },
    { signed: /C$/ },
  ),
  of('trap counts', (a) => hold.trapChart(a), [{ day: '2026-09-01', count: 3, traps: 4 }]),
  of(
    'conche',
    conche.forecastConche,
    {
      stretches: [{ hours: 10, celsius: 60, air: 'fan' as const }],
      tastings: [{ hours: 2, score: 6 }],
      aim: 3,
    },
    { signed: /stretches/ },
  ),
  of(
    'liking by hours',
    conche.likingByHours,
    [20, 30, 40, 50, 60].map((hours) => ({ hours, liking: 7 })),
  ),
  of(
    'rest',
    (a) => rest.restState({ castAt: a.castAt, tastedAt: [] }, a.now),
    { castAt: 1e12, now: 1.1e12 },
    { signed: /./ },
  ),
  of('cut test', (a) => sort.judgeGrade(a, sort.GRADES[0]!), { ...sort.NO_COUNTS, brown: 90, mouldy: 3 }),
  of(
    'sorting pace',
    (a) => sort.sortPace(a),
    { inMg: 1e7, rejectMg: 3e5, minutes: 90, pricePerKg: 900, labourRate: 1500 },
    { signed: /inMg|minutes|price|labour/ },
  ),
  of('bean size', sort.beanSize, [1.1, 1.2]),
  of(
    'forecast of a mass',
    (a) => ledger.forecastMass(a.start, a.yields),
    { start: 1e7, yields: [{ mean: 0.9, sd: 0.02 }] },
    { signed: /yields/ },
  ),
  of('control chart', ledger.individualsChart, [1, 2, 3], { signed: /./ }),
  of(
    'reconciliation',
    ledger.reconcile,
    { values: [10, 6, 4], uncertainties: [1, 1, 1], balances: [[1, -1, -1]] },
    { signed: /values|balances/ },
  ),
  of(
    'pieces',
    (a) => ledger.takePieces({ remainingMg: a.mg, remainingCount: a.n }, { massMg: null, count: a.count }),
    { mg: 600_000, n: 10, count: 3 },
  ),
  of('round mass', (a) => quantity.roundMass(a.mg, 'pounds'), { mg: 60_000 }),
  of(
    'round temperature',
    (a) => quantity.roundTemperature(a.celsius, '°F', a.step),
    { celsius: 122, step: 5 },
    {
      signed: /celsius/,
    },
  ),
  of(
    'dial',
    (a) => quantity.dialTemperature(a.celsius, '°C', a.step),
    { celsius: 122, step: 1 },
    {
      signed: /celsius/,
    },
  ),
  of('degrees', (a) => quantity.degreesIn('°F', a.celsius), { celsius: 31 }, { signed: /./ }),
  of('a difference in degrees', (a) => quantity.kelvinIn('°F', a.kelvin), { kelvin: 25 }, { signed: /./ }),
  of('a difference back', (a) => quantity.kelvinOf('°F', a.degrees), { degrees: 45 }, { signed: /./ }),
  of('degrees back', (a) => quantity.celsiusOf('°F', a.degrees), { degrees: 88 }, { signed: /./ }),
  of(
    'first day',
    (a) => planning.firstDayFor(a.ms, a.minute, 'Europe/London'),
    { ms: 1_790_000_000_000, minute: 1020 },
    { signed: /ms/ },
  ),
  of('usual money', (a) => quantity.usualMoney(a.cents, 'SEK'), { cents: 180 }),
  of('money', (a) => quantity.formatMoney(a.minor, 'EUR'), { minor: 152.5 }, { signed: /./ }),
  of(
    'quantity',
    (a) => quantity.formatQuantity(a.mg, { dimension: 'mass', unit: 'kg' }),
    { mg: 1e6 },
    { signed: /./ },
  ),
  of(
    'a plan',
    (a) => planning.solveProject(a, { budgetMs: 5 }),
    {
      activities: [
        { id: 'a', duration: 3, uses: [{ oneOf: ['X'], amount: 1 }] },
        { id: 'b', duration: 2, notBefore: 1 },
      ],
      resources: [{ id: 'X', capacity: 2, open: [[0, 40]] as [number, number][] }],
      waits: [{ from: 'a', to: 'b', least: 1, most: 9 }],
      orders: [{ id: 'o', activities: ['b'], due: 9, weight: 1 }],
    },
    { signed: /notBefore|least|most|due|open/ },
  ),
  of('job shop', (a) => planning.jobShop(a.map((job) => job.map(([m, d]) => [m!, d!] as const))), [
    [
      [0, 3],
      [1, 2],
    ],
  ]),
  of('the trade’s minutes', (a) => planning.tradeMinutes('sort', a.kg), { kg: 5 }),
  of('a stage', (a) => planning.stageTime('winnow', a.kg, { learned: [] }), { kg: 5 }),
  of(
    'duration',
    (a) => quantity.formatDuration(a.s, { d: 'd', h: 'h', min: 'min', s: 's' }),
    { s: 100 },
    { signed: /./ },
  ),
];

type Path = (string | number)[];

function numbersIn(value: unknown, path: Path = []): Path[] {
  if (typeof value === 'number') return [path];
  if (value === null || typeof value !== 'object') return [];
  return Object.entries(value).flatMap(([key, inner]) => numbersIn(inner, [...path, key]));
}

function changed(value: unknown, path: Path, to: (old: number) => number): unknown {
  if (path.length === 0) return to(value as number);
  const copy: Record<string, unknown> | unknown[] = Array.isArray(value)
    ? [...value]
    : { ...(value as object) };
  const [first, ...rest] = path as [string, ...Path];
  (copy as Record<string, unknown>)[first] = changed((copy as Record<string, unknown>)[first], rest, to);
  return copy;
}

test.each(CASES.map((c) => [c.name, c] as const))(
  '%s refuses nonsense',
  (_, { call, args, signed, free }) => {
    expect(() => call(args as never)).not.toThrow();
    const given: string[] = [];
    const refusals = (path: Path, to: (old: number) => number, what: string) => {
      try {
        const answer = call(changed(args, path, to) as never);
        given.push(`${what} at ${path.join('.')}: ${JSON.stringify(answer)?.slice(0, 80)}`);
      } catch (error) {
        if (!(error instanceof RangeError) || error.message.length < 12)
          given.push(`${what} at ${path.join('.')}: ${String(error)}`);
      }
    };
    for (const path of numbersIn(args)) {
      const name = path.join('.');
      if (free?.test(name)) continue;
      refusals(path, () => Number.NaN, 'NaN');
      refusals(path, () => Number.POSITIVE_INFINITY, 'Infinity');
      if (!signed?.test(name)) refusals(path, (old) => -Math.max(1, Math.abs(old)), 'negative');
    }
    expect(given).toEqual([]);
  },
);

test('half a bar, half a mould and half a bean are refused where things are counted', () => {
  expect(() => mould.countBars({ massMg: 1e6, holdUpMg: 0, fillMg: 45_000, cavities: 2.5 })).toThrow(/whole/);
  expect(() => sort.beansCounted({ ...sort.NO_COUNTS, brown: 2.5 })).toThrow(/whole/);
  expect(() =>
    ledger.takePieces({ remainingMg: 600_000, remainingCount: 10 }, { massMg: null, count: 2.5 }),
  ).toThrow(/whole/);
  expect(() => recipe.estimateFlow(recipe.parts({}))).toThrow(/empty bowl/);
});
