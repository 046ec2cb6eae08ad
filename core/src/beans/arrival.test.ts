import { MATERIALS } from '../ledger/index.ts';
import { ARRIVALS, arrivalFacts } from './arrival.ts';

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
