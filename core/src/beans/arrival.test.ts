import { MATERIALS } from '../ledger/index.ts';
import { ARRIVALS, arrivalFacts, moistureFault, nibFatOf, sheetFatRange } from './arrival.ts';

test('whole beans have facts of beans; what was made elsewhere has its maker’s sheet, and neither has the other’s', () => {
  expect(ARRIVALS.filter((m) => arrivalFacts(m).beans)).toEqual(['dry beans']);
  expect(ARRIVALS.filter((m) => !arrivalFacts(m).grown)).toEqual([
    'couverture',
    'cocoa butter',
    'cocoa powder',
  ]);
  expect(ARRIVALS.filter((m) => arrivalFacts(m).pests)).toEqual(['dry beans', 'roasted beans', 'nibs']);
  expect(arrivalFacts('couverture').sheet).toEqual(['kind', 'cacao', 'fat', 'window']);
  for (const m of ARRIVALS) {
    const facts = arrivalFacts(m);
    if (facts.sheet.includes('window')) expect(facts.beans || facts.wet || facts.pests).toBe(false);
  }
});

test('every material has an answer', () => {
  for (const material of MATERIALS) expect(arrivalFacts(material).sheet.length).toBeLessThanOrEqual(4);
});

test('bought liquor has the fat its maker states, beans what was noted; what no liquor can hold is not taken', () => {
  const of = (material: 'liquor' | 'dry beans', nibFat: number | null, fat: number | null) =>
    nibFatOf({ material, nibFat, sheet: fat === null ? null : { fat } });
  expect(of('liquor', null, 57)).toBe(57);
  expect(of('liquor', 52, 57)).toBe(52);
  expect(of('liquor', null, 11)).toBeNull();
  expect(of('liquor', null, NaN)).toBeNull();
  expect(of('liquor', null, null)).toBeNull();
  expect(of('dry beans', 52, null)).toBe(52);
  // The fat on a sheet beside beans says nothing of their nibs.
  expect(of('dry beans', null, 57)).toBeNull();
  expect(sheetFatRange('liquor')).toEqual({ min: 30, max: 70 });
  expect(sheetFatRange('cocoa powder').max).toBeLessThan(100);
});

test('fresh beans may be two thirds water, dried ones not, and what is no moisture is none of either', () => {
  expect(moistureFault('wet beans', 64)).toBeNull();
  expect(moistureFault('dry beans', 64)).toBe('dry beans have between 0 and 60 % moisture');
  for (const nonsense of [Number.NaN, Number.POSITIVE_INFINITY, -1])
    expect(moistureFault('wet beans', nonsense)).toBe('wet beans have between 0 and 80 % moisture');
  expect(moistureFault('dry beans', null)).toBeNull();
});
