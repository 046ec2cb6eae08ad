import { isConche } from '../conche/index.ts';
import {
  findDisagreement,
  isInstrument,
  isPress,
  isScale,
  MACHINE_KINDS,
  scaleUncertainty,
  STATIONS,
  weighingU,
} from './index.ts';

test('every station says what may stand at it; conches, scales and sensors are known by it', () => {
  expect(Object.keys(MACHINE_KINDS)).toEqual([...STATIONS]);
  const all = [...new Set(Object.values(MACHINE_KINDS).flat())].map((kind) => ({ kind }));
  expect(all.filter(isConche).map((k) => k.kind)).toEqual(['conche']);
  expect(all.filter(isScale).map((k) => k.kind)).toEqual(['scale']);
  expect(all.filter(isPress).map((k) => k.kind)).toEqual(['press']);
  expect(all.filter(isInstrument).map((k) => k.kind)).toEqual(['scale', 'room sensor']);
  expect([{ kind: 'Tischwaage' }, { kind: 'Raumfühler' }].every(isInstrument)).toBe(true);
});

test('a weighing is as sure as the finest scale that carries it', () => {
  const fine = { uMg: Math.round(scaleUncertainty(100)), maxMg: 2_000_000 };
  const floor = { uMg: Math.round(scaleUncertainty(20_000)), maxMg: 60_000_000 };
  const unsaid = { uMg: null, maxMg: null };
  expect(fine.uMg).toBe(29);
  expect(weighingU([floor, unsaid, fine], 60_000)).toBe(29);
  expect(weighingU([floor, unsaid, fine], 12_000_000)).toBe(5774);
  expect(weighingU([floor, unsaid, fine], 80_000_000)).toBeNull();
  expect(weighingU([], 1)).toBeNull();
});

test('what a kitchen scale cannot tell, a finer one does: 11 g astray in a sorting', () => {
  const line = (id: string, direction: 'in' | 'out' | 'loss', massMg: number, uMg: number) => ({
    id,
    stepId: 's',
    direction,
    massMg,
    uMg,
    source: 'weighed' as const,
    ...(direction === 'loss' && { reason: 'sweepings' }),
  });
  const steps = [
    {
      id: 's',
      batchId: 'b',
      station: 'sort' as const,
      status: 'closed' as const,
      startedAt: '2026-11-20T08:00:00Z',
    },
  ];
  const found = (u: number) =>
    findDisagreement(steps, [
      line('in', 'in', 2_000_000, u),
      line('good', 'out', 1_949_000, u),
      line('rejects', 'loss', 40_000, u),
    ]);
  expect(found(scaleUncertainty(100))!.result.pValue).toBeLessThan(1e-6);
  expect(found(scaleUncertainty(20_000, 5_000))!.result.pValue).toBeGreaterThan(0.2);
});
