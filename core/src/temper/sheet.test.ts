import fc from 'fast-check';
import { CHOCOLATE_TYPES, guardWindow, pathBySheet, TEMPER_PATHS, type TemperSheet } from './index.ts';

const NOTHING: TemperSheet = { meltC: null, coolC: null, workLowC: null, workHighC: null };

test('without a sheet, or with an empty one, the path is the trade’s usual', () => {
  for (const type of CHOCOLATE_TYPES) {
    expect(pathBySheet(type, null)).toEqual(TEMPER_PATHS[type]);
    const path = pathBySheet(type, NOTHING);
    expect([path.windowLowC, path.windowHighC, path.meltC, path.coolC]).toEqual([
      TEMPER_PATHS[type].windowLowC,
      TEMPER_PATHS[type].windowHighC,
      TEMPER_PATHS[type].meltC,
      TEMPER_PATHS[type].coolC,
    ]);
  }
});

test('a sheet’s window is followed, and the cool step goes along with it', () => {
  const path = pathBySheet('dark', { ...NOTHING, workLowC: 28.5, workHighC: 29.5 });
  expect(path).toEqual({ meltC: 46, coolC: 25.5, workC: 29, windowLowC: 28.5, windowHighC: 29.5 });
  // A bowl that is right for it would be too cool by the usual dark window.
  const bowl = [46, 40, 30, 25.4, 29, 29].map((celsius, i) => ({ seconds: i * 300, celsius }));
  expect(guardWindow(bowl, 'dark', path)!.state).toBe('inside');
  expect(guardWindow(bowl, 'dark')!.state).not.toBe('inside');
});

test('one end alone gives a window of the usual width', () => {
  expect(pathBySheet('milk', { ...NOTHING, workHighC: 31 })).toMatchObject({
    windowLowC: 30,
    windowHighC: 31,
  });
  expect(pathBySheet('white', { ...NOTHING, workLowC: 27 })).toMatchObject({
    windowLowC: 27,
    windowHighC: 28,
  });
});

test('whatever a sheet says, the window lies the right way round and work is inside it, or it is refused', () => {
  const celsius = fc.option(fc.double({ min: 15, max: 70, noNaN: true }), { nil: null });
  fc.assert(
    fc.property(
      fc.constantFrom(...CHOCOLATE_TYPES),
      fc.record({ meltC: celsius, coolC: celsius, workLowC: celsius, workHighC: celsius }),
      (type, sheet) => {
        const upsideDown =
          sheet.workLowC !== null && sheet.workHighC !== null && sheet.workLowC >= sheet.workHighC;
        if (upsideDown) {
          expect(() => pathBySheet(type, sheet)).toThrow(/upside down/);
          return;
        }
        const path = pathBySheet(type, sheet);
        expect(path.windowLowC).toBeLessThan(path.windowHighC);
        expect(path.workC).toBeGreaterThanOrEqual(path.windowLowC);
        expect(path.workC).toBeLessThanOrEqual(path.windowHighC);
      },
    ),
  );
  expect(() => pathBySheet('dark', { ...NOTHING, workLowC: Number.NaN })).toThrow(RangeError);
});
