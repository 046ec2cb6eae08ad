import type { Station } from '../ledger/index.ts';
import { SKILLS } from '../skills/index.ts';
import type { PlannedStep, PlanStage } from './room.ts';
import { allowedBySignOff, chancesToLearn } from './skills.ts';

const at = (hour: number) => `2026-11-02T${String(hour).padStart(2, '0')}:00:00.000Z`;
const step = (
  stage: PlanStage,
  station: Station,
  personId: string | null,
  from: number,
  to: number,
): PlannedStep => ({
  key: `${stage}:${personId}:${from}`,
  batch: 'b',
  code: 'NK-01',
  batchId: 'b',
  recipeId: null,
  lotId: null,
  stage,
  station,
  part: 1,
  parts: 1,
  start: at(from),
  end: at(to),
  latest: null,
  personId,
  machineId: null,
  begun: false,
  massMg: 1,
});

describe('who may be given what', () => {
  const people = [
    { id: 'owner', stations: null },
    { id: 'jory', stations: null },
    { id: 'marit', stations: ['sort', 'mould'] as Station[] },
  ];
  test('one is kept to what one is signed off at, within what one may work anyway', () => {
    const signed = [
      { personId: 'jory', station: 'roast' as const },
      { personId: 'marit', station: 'mould' as const },
      { personId: 'marit', station: 'temper' as const },
    ];
    const { people: kept, open } = allowedBySignOff(people, signed, new Set(['owner']));
    expect(kept.map((p) => p.stations)).toEqual([null, ['roast'], ['mould', 'wrap']]);
    expect(open).toEqual([]);
  });

  test('a packer packs and does not mould', () => {
    const signed = [
      { personId: 'jory', station: 'wrap' as const },
      { personId: 'marit', station: 'mould' as const },
    ];
    const { people: kept, open } = allowedBySignOff(people, signed, new Set(['owner']));
    expect(kept.map((p) => p.stations)).toEqual([null, ['wrap'], ['mould', 'wrap']]);
    expect(open).toEqual([]);
    // With nobody else, what nobody is signed off at stays open to everybody.
    const alone = allowedBySignOff([people[1]!], [signed[0]!], new Set());
    expect(alone.people[0]!.stations).toBeNull();
    expect(alone.open).toEqual(SKILLS.filter((s) => s !== 'wrap'));
  });

  test('a station nobody is signed off at stays open to those it was open to, and is named', () => {
    const { people: kept, open } = allowedBySignOff(
      people,
      [{ personId: 'jory', station: 'roast' }],
      new Set(),
    );
    expect(open).toEqual(SKILLS.filter((s) => s !== 'roast'));
    expect(kept[1]!.stations).toBeNull();
    expect(kept[2]!.stations).toEqual(['sort', 'mould', 'wrap']);
    expect(kept[0]!.stations).not.toContain('roast');
  });
});

describe('who could learn what', () => {
  const people = [{ id: 'anneke' }, { id: 'jory' }];
  const ask = (steps: PlannedStep[], more: object = {}) =>
    chancesToLearn({
      steps,
      people,
      signed: [{ personId: 'jory', station: 'sort' }],
      free: new Set(['anneke']),
      from: at(8),
      until: at(18),
      isThere: () => true,
      ...more,
    });
  test('beside somebody who can, while one has nothing else to do, the first time it comes', () => {
    const chances = ask([
      step('temper', 'temper', 'anneke', 9, 10),
      step('temper', 'temper', 'anneke', 13, 14),
      step('sort', 'sort', 'anneke', 15, 16),
      step('sort', 'sort', 'jory', 9, 11),
    ]);
    // At nine he sorts; sorting he can already.
    expect(chances).toEqual([
      expect.objectContaining({ personId: 'jory', teacherId: 'anneke', station: 'temper', start: at(13) }),
    ]);
  });

  test('not where nobody is there to be learnt from, one is away, it is past, or hands are idle', () => {
    expect(ask([step('temper', 'temper', 'jory', 9, 10)])).toEqual([]);
    expect(ask([step('temper', 'temper', 'anneke', 9, 10)], { isThere: () => false })).toEqual([]);
    expect(ask([step('temper', 'temper', 'anneke', 6, 7)])).toEqual([]);
    expect(ask([step('grind', 'grind', null, 9, 17)])).toEqual([]);
    expect(ask([step('grind', 'grind', 'anneke', 9, 17)])).toEqual([]);
  });
});
