import type { LotView } from '@wunsch/contract';
import { expectedYields, TO_NIBS } from './expected.ts';

const station = 'winnow' as const;
const lot = (id: string, own: number[], elsewhere: { lotId: string; value: number }[]) =>
  ({
    lot: { id },
    yields: own.map((value) => ({ station, value })),
    elsewhere: elsewhere.map((y) => ({ ...y, station })),
  }) as unknown as LotView;

test('a lot nobody has worked yet is expected to do as the others did, whichever lot one asks', () => {
  const old = lot('old', [0.74, 0.75], [{ lotId: 'other', value: 0.76 }]);
  const other = lot(
    'other',
    [0.76],
    [
      { lotId: 'old', value: 0.74 },
      { lotId: 'old', value: 0.75 },
    ],
  );
  // As its own page will tell it once it is there.
  const fresh = lot(
    'fresh',
    [],
    [
      { lotId: 'old', value: 0.74 },
      { lotId: 'old', value: 0.75 },
      { lotId: 'other', value: 0.76 },
    ],
  );
  const told = expectedYields(fresh, TO_NIBS);
  for (const view of [old, other]) {
    const asked = expectedYields(view, TO_NIBS, 'new');
    asked.forEach((y, i) => {
      expect(y.mean).toBeCloseTo(told[i]!.mean, 12);
      expect(y.sd).toBeCloseTo(told[i]!.sd, 12);
    });
  }
  expect(told[2]!.mean).toBeLessThan(expectedYields(lot('fresh', [], []), TO_NIBS)[2]!.mean);
});
