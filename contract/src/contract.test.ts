import { v7 } from 'uuid';
import {
  CorrectionPut,
  IngredientPut,
  LotDried,
  LotPut,
  LotSent,
  MachineEventPut,
  MachinePut,
  MovementPut,
  ObservationPut,
  ParcelLeave,
  Plots,
  ReadingsPut,
  RecipePut,
  StepPut,
  TrialBegin,
  TrialScore,
  WorkshopPut,
} from './index.ts';

const id = v7();
const messages = (result: {
  success: boolean;
  error?: { issues: { path: PropertyKey[]; message: string }[] };
}) =>
  result.success ? [] : result.error!.issues.map((i) => `${i.path.map(String).join('.')}: ${i.message}`);

describe('weights', () => {
  const put = (more: object) => MovementPut.safeParse({ stepId: id, direction: 'in', ...more });
  test('an input names its parcel or its ingredient, and an ingredient its weight', () => {
    expect(messages(put({}))[0]).toContain('say which parcel or ingredient');
    expect(messages(put({ ingredientId: id }))[0]).toContain('needs its weight');
    expect(put({ ingredientId: id, massMg: 5 }).success).toBe(true);
    // All of a parcel that is there.
    expect(put({ parcelId: id }).success).toBe(true);
  });
  test('an output names where it goes and what it is; a loss has a name and a mass', () => {
    expect(messages(MovementPut.safeParse({ stepId: id, direction: 'out', massMg: 5 }))[0]).toContain(
      'its material',
    );
    const loss = MovementPut.safeParse({ stepId: id, direction: 'loss' });
    expect(messages(loss)).toHaveLength(2);
  });
  test.each([0, -1, 1.5, 1e12, Number.NaN])('%p mg is no weight', (massMg) => {
    expect(put({ parcelId: id, massMg }).success).toBe(false);
    expect(CorrectionPut.safeParse({ movementId: id, massMg }).success).toBe(false);
  });
  test('what leaves has somewhere to go', () => {
    const leave = { parcelId: id, takenId: id, lossId: id };
    expect(ParcelLeave.safeParse({ ...leave, destination: '' }).success).toBe(false);
    expect(ParcelLeave.parse({ ...leave, destination: 'tea' })).toMatchObject({ massMg: null, fetched: 0 });
  });
});

describe('lots', () => {
  const lot = {
    code: 'NK',
    name: 'A lot',
    massMg: 1_000_000,
    receivedOn: '2026-10-01',
    stepId: id,
    movementId: id,
    parcelId: id,
  };
  test('only name, code and weight are needed', () =>
    expect(LotPut.parse(lot)).toMatchObject({
      material: 'dry beans',
      onHold: false,
      moisture: null,
      plots: null,
    }));
  test.each([
    ['moisture', 81],
    ['moisture', -1],
    ['nibFat', 20],
    ['beansPer100g', 5],
    ['ceilingC', 20],
    ['leadWeeks', -2],
    ['material', 'gravel'],
    ['receivedOn', '2026-13-01'],
    ['code', '  '],
    ['pricePerKg', -1],
  ])('%s of %p is refused', (name, value) =>
    expect(LotPut.safeParse({ ...lot, [name]: value }).success).toBe(false),
  );
  test.each([
    ['wet beans', 64, true],
    ['wet beans', 81, false],
    ['dry beans', 60, true],
    ['dry beans', 64, false],
    ['pods', 64, false],
    ['couverture', 1, false],
  ] as const)('%s with %p %% moisture: taken %p', (material, moisture, taken) =>
    expect(LotSent.safeParse({ ...lot, material, moisture }).success).toBe(taken),
  );
  test('dried beans name the lot they come from', () =>
    expect(LotDried.safeParse({ ...lot, takenId: id, lossId: id }).success).toBe(false));
});

describe('plots', () => {
  const one = (geometry: object) => ({
    type: 'FeatureCollection',
    features: [{ type: 'Feature', properties: null, geometry }],
  });
  test('points and polygons on the earth are taken', () => {
    expect(Plots.safeParse(one({ type: 'Point', coordinates: [30.2, 0.6] })).success).toBe(true);
    const ring = [
      [0, 0],
      [1, 0],
      [1, 1],
      [0, 0],
    ];
    expect(Plots.safeParse(one({ type: 'MultiPolygon', coordinates: [[ring]] })).success).toBe(true);
  });
  test('latitude and longitude changed about are found out', () =>
    expect(messages(Plots.safeParse(one({ type: 'Point', coordinates: [0.6, 130.2] })))[0]).toContain(
      '0.6, 130.2 is not a longitude and a latitude',
    ));
  test.each([
    [{ type: 'LineString', coordinates: [[0, 0]] }],
    [{ type: 'Polygon', coordinates: [[[0, 0]]] }],
    [{}],
  ])('%j is no plot', (geometry) => expect(Plots.safeParse(one(geometry)).success).toBe(false));
});

describe('what is seen and measured', () => {
  const see = (data: object) => ObservationPut.safeParse({ lotId: id, data });
  test.each([
    { kind: 'temperature', place: 'bean', celsius: 118.4 },
    { kind: 'grit', method: 'grindometer', um: 20, scratchUm: 45 },
    { kind: 'picked', of: 'husk', foundMg: 0, sampleMg: 100_000 },
    { kind: 'pass', setting: 3.2, minutes: 20 },
    { kind: 'concheSetting', celsius: 62, air: 'open lid' },
    { kind: 'sourness', score: 4.5 },
    { kind: 'retaste', parcelId: id, liking: 7 },
    {
      kind: 'cutTest',
      counts: {
        brown: 290,
        'partly violet': 3,
        violet: 2,
        slaty: 1,
        mouldy: 1,
        insect: 1,
        germinated: 1,
        flat: 1,
      },
    },
    { kind: 'drying', massMg: 16_000_000, moisture: 55 },
    { kind: 'hold', method: 'freezing', sides: [0.8, 0.5, 0.3], startC: 24, airC: -20, coreC: -18, days: 4 },
  ])('$kind is taken', (data) => expect(messages(see(data))).toEqual([]));
  test.each([
    { kind: 'temperature', place: 'bean', celsius: 900 },
    { kind: 'grit', method: 'ruler', um: 20 },
    { kind: 'picked', of: 'stones', foundMg: 0, sampleMg: 100_000 },
    { kind: 'picked', of: 'husk', foundMg: -5, sampleMg: 100_000 },
    { kind: 'pass', setting: 0 },
    { kind: 'concheSetting', celsius: 300, air: 'fan' },
    { kind: 'concheSetting', celsius: 60, air: 'window' },
    { kind: 'sourness', score: 11 },
    { kind: 'cutTest', counts: { brown: 301 } },
    { kind: 'hold', method: 'freezing', sides: [0.8, 0.5], startC: 24, airC: -20, coreC: -18, days: 4 },
    { kind: 'wish' },
  ])('$kind of nonsense is refused', (data) => expect(see(data).success).toBe(false));
  test('as many temperatures as times', () => {
    const readings = {
      stepId: id,
      place: 'bean',
      startedAt: '2026-10-01T08:00:00Z',
      seconds: [0, 5],
      celsius: [20],
    };
    expect(messages(ReadingsPut.safeParse(readings))[0]).toContain('as many temperatures as times');
  });
});

describe('steps, recipes, machines, trials', () => {
  test('details are refused where they belong to another station, by name', () => {
    const step = (station: string, details: object, kind?: string) =>
      StepPut.safeParse({ batchId: id, station, details, kind });
    expect(step('grind', { sourAim: 3 }, 'conche').success).toBe(true);
    expect(step('grind', { aimUm: 18, sugarSchool: 'late' }).success).toBe(true);
    expect(step('grind', { sourAim: 3 }).error!.issues[0]).toMatchObject({
      path: ['details', 'sourAim'],
      message: 'sourAim belongs to conche, not to grind',
    });
    expect(step('roast', { aimUm: 18 }).error!.issues[0]!.message).toBe(
      'aimUm belongs to grind, not to roast',
    );
    expect(step('roast', {}, 'conche').error!.issues[0]).toMatchObject({ path: ['kind'] });
    expect(step('beans', {}).success).toBe(false);
    expect(step('grind', { colour: 'brown' }).success).toBe(false);
  });
  test('times are of years that both stores and every chart can hold', () => {
    const at = (startedAt: string) => StepPut.safeParse({ batchId: id, station: 'roast', startedAt }).success;
    expect(at('2026-10-02T08:00:00Z')).toBe(true);
    expect(at('2026-10-02T08:00:00+02:00')).toBe(true);
    for (const bad of ['0000-01-01T00:00:00Z', '1066-10-14T09:00:00Z', '9999-01-01T00:00:00Z'])
      expect([bad, at(bad)]).toEqual([bad, false]);
  });
  test('an ingredient adds up to 100 g', () => {
    const composition = {
      cocoaButter: 11,
      otherFat: 0,
      milkFat: 0,
      cocoaSolids: 84,
      sugar: 0,
      milkSolids: 0,
      otherSolids: 0,
      water: 5,
      emulsifier: 0,
    };
    const powder = { name: 'Powder', cacao: 'powder', composition };
    expect(IngredientPut.parse(powder)).toMatchObject({
      nutrition: null,
      densityGPerMl: null,
      stockMg: null,
    });
    const off = { ...powder, composition: { ...composition, water: 8 } };
    expect(messages(IngredientPut.safeParse(off))[0]).toContain('must add up to 100 g');
  });
  test('a recipe has lines, and no more than a page of them', () => {
    const line = { ingredientId: id, massMg: 1000 };
    expect(RecipePut.safeParse({ name: 'R', lines: [] }).success).toBe(false);
    expect(RecipePut.safeParse({ name: 'R', lines: Array(41).fill(line) }).success).toBe(false);
    expect(RecipePut.parse({ name: ' R ', lines: [line] }).name).toBe('R');
  });
  test('a machine may be a tool without stones; what happens to it has one of three names', () => {
    expect(MachinePut.parse({ name: 'Mortar', station: 'grind', tool: 'mortar' })).toMatchObject({
      loud: false,
      lifeKg: null,
    });
    expect(MachinePut.safeParse({ name: 'X', station: 'grind', tool: 'hammer' }).success).toBe(false);
    expect(MachineEventPut.safeParse({ machineId: id, kind: 'painted' }).success).toBe(false);
  });
  test('a trial has two parts or more, and weighs all of them or none', () => {
    const begin = (parcelId: string | null, masses: (number | null)[]) =>
      TrialBegin.safeParse({
        name: 'T',
        parcelId,
        parts: masses.map((massMg, n) => ({ label: `part ${n}`, massMg })),
      });
    expect(begin(null, [null]).success).toBe(false);
    expect(begin(null, [null, null]).success).toBe(true);
    expect(begin(id, [1000, 2000]).success).toBe(true);
    for (const [parcelId, masses] of [
      [id, [1000, null]],
      [null, [1000, null]],
    ] as const)
      expect(messages(begin(parcelId, [...masses]))[0]).toContain('each need a mass');
    expect(messages(TrialScore.safeParse({ trialId: id, marks: [{ code: '12', score: 5 }] }))[0]).toContain(
      'three digits',
    );
  });
  test('a workshop’s habits have their defaults, and a currency is three letters', () => {
    const shop = {
      name: 'W',
      shape: 'kitchen',
      currency: 'EUR',
      temperatureUnit: '°F',
      massSystem: 'pounds',
    };
    expect(WorkshopPut.parse(shop)).toMatchObject({
      gritAimUm: 20,
      roast: { doseMinutes: 12, ceilingC: 150 },
    });
    expect(messages(WorkshopPut.safeParse({ ...shop, currency: 'euro' }))[0]).toContain(
      'three capital letters',
    );
  });
});
