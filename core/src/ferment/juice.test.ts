import { PULP, readDraining, USUAL_JUICE } from './index.ts';

describe('juice of fresh beans', () => {
  test('the weights by hand: what drained, and what goes on fermenting', () => {
    expect(readDraining({ from: 'wet beans', fromMg: 40e6, juiceMg: 4e6 })).toEqual({
      share: 0.1,
      restMg: 36e6,
      verdict: 'usual',
    });
  });

  test.each([
    ['a little', 1, 'less'],
    ['the trade’s 100 to 150 l a tonne', 12.5, 'usual'],
    ['pressed hard', 30, 'more'],
    ['the beans in it too', 45, 'more-than-pulp'],
  ])('%s of a hundred', (_, juice, verdict) => {
    expect(readDraining({ from: 'wet beans', fromMg: 100, juiceMg: juice }).verdict).toBe(verdict);
  });

  test('of pods it is a quarter of that, as a quarter of them is wet beans', () => {
    for (const of of ['low', 'high'] as const)
      expect(USUAL_JUICE.pods[of === 'low' ? 0 : 1]).toBeCloseTo(
        USUAL_JUICE['wet beans'][of === 'low' ? 0 : 1] / 4,
        9,
      );
    expect(PULP.pods).toBeCloseTo(PULP['wet beans'] / 4, 9);
    expect(readDraining({ from: 'pods', fromMg: 100, juiceMg: 12.5 }).verdict).toBe('more-than-pulp');
  });

  test('all of it is no juice', () => {
    expect(() => readDraining({ from: 'wet beans', fromMg: 5, juiceMg: 5 })).toThrow(/weigh the juice alone/);
    expect(() => readDraining({ from: 'wet beans', fromMg: 5, juiceMg: 0 })).toThrow(/above nothing/);
  });
});
