import fc from 'fast-check';
import { costPerBar, writeOffPerKg } from './index.ts';

const material = fc.record({
  label: fc.constantFrom('beans', 'cane sugar', 'cocoa butter'),
  massMg: fc.integer({ min: 0, max: 50_000_000 }),
  pricePerKg: fc.integer({ min: 0, max: 5000 }),
});

test('a batch by hand: 12 kg of beans at £9, 4 kg of sugar at £1.80, 5 h at £15, 270 bars at 30p', () => {
  const { total, perBar, parts } = costPerBar({
    materials: [
      { label: 'beans', massMg: 12_000_000, pricePerKg: 900 },
      { label: 'cane sugar', massMg: 4_000_000, pricePerKg: 180 },
    ],
    labourMinutes: 300,
    labourRate: 1500,
    perBar: 30,
    bars: 270,
  });
  expect(total).toBe(10_800 + 720 + 7500 + 8100);
  expect(perBar).toBeCloseTo(27_120 / 270, 10);
  expect(parts.map((p) => [p.label, p.cost])).toEqual([
    ['beans', 10_800],
    ['packaging', 8100],
    ['labour', 7500],
    ['cane sugar', 720],
  ]);
});

test('the parts are the whole, the dearest first, each named once', () => {
  fc.assert(
    fc.property(
      fc.array(material, { maxLength: 12 }),
      fc.integer({ min: 0, max: 3000 }),
      fc.integer({ min: 0, max: 800 }),
      (materials, labourMinutes, bars) => {
        const cost = costPerBar({ materials, labourMinutes, labourRate: 1500, perBar: 30, bars });
        expect(cost.parts.reduce((sum, p) => sum + p.cost, 0)).toBeCloseTo(cost.total, 4);
        expect(new Set(cost.parts.map((p) => p.label)).size).toBe(cost.parts.length);
        expect([...cost.parts].sort((a, b) => b.cost - a.cost)).toEqual(cost.parts);
        if (bars > 0) expect(cost.perBar! * bars).toBeCloseTo(cost.total, 4);
        else expect(cost.perBar).toBeNull();
      },
    ),
  );
});

test('the same beans weighed in twice cost what they cost at once', () =>
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 9_999_999 }), (massMg) => {
      const of = (...masses: number[]) =>
        costPerBar({
          materials: masses.map((m) => ({ label: 'beans', massMg: m, pricePerKg: 871 })),
          labourMinutes: 0,
          labourRate: 0,
          perBar: 0,
          bars: 1,
        }).total;
      expect(of(massMg, 10_000_000 - massMg)).toBeCloseTo(of(10_000_000), 6);
    }),
  ));

test('by-products sold are taken off', () => {
  const { total, parts } = costPerBar({
    materials: [{ label: 'beans', massMg: 1_000_000, pricePerKg: 900 }],
    labourMinutes: 0,
    labourRate: 0,
    perBar: 0,
    bars: 10,
    other: [{ label: 'by-products', cost: -150 }],
  });
  expect(total).toBe(750);
  expect(parts.at(-1)).toEqual({ label: 'by-products', cost: -150 });
});

test('a grinder of £2,400 that fetches £400 after 8,000 kg costs 25p a kilogram; one that gains costs nothing', () => {
  expect(writeOffPerKg({ price: 240_000, resale: 40_000, lifeKg: 8000 })).toBe(25);
  expect(writeOffPerKg({ price: 1000, resale: 5000, lifeKg: 10 })).toBe(0);
  expect(() => writeOffPerKg({ price: 1, resale: 0, lifeKg: 0 })).toThrow(RangeError);
});
