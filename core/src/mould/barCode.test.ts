import { barCode, codesMeant } from './barCode.ts';

test('a bar is called after its batch, its part and the day it was moulded', () => {
  expect(barCode('NKO-14', 1, '2026-11-02')).toBe('NKO-14-261102');
  expect(barCode('NKO-14', 2, '2026-11-02')).toBe('NKO-14B-261102');
  expect(barCode('NKO-14', 26, '2026-11-02')).toBe('NKO-14Z-261102');
});

test('no two parts of a batch share a code, and all are letters and digits a scanner reads', () => {
  const codes = Array.from({ length: 800 }, (_, i) => barCode('NKO-14', i + 1, '2026-11-02'));
  expect(new Set(codes).size).toBe(800);
  for (const code of codes) expect(code).toMatch(/^NKO-14[A-Z]{0,3}-261102$/);
});

describe('what a code means', () => {
  test.each([
    ['NKO-14-261102', ['NKO-14-261102', 'NKO-14']],
    ['NKO-14B-261102', ['NKO-14B-261102', 'NKO-14B', 'NKO-14']],
    ['NKO-14', ['NKO-14']],
    // A batch whose own code ends in letters is not cut.
    ['TEST-261102', ['TEST-261102', 'TEST']],
  ])('%s', (code, meant) => expect(codesMeant(code)).toEqual(meant));

  test('every code that is printed leads back to its batch', () => {
    for (let part = 1; part <= 200; part++)
      expect(codesMeant(barCode('KIB-7', part, '2026-01-31'))).toContain('KIB-7');
  });
});

test.each([
  ['', 1, '2026-11-02'],
  ['NKO-14', 0, '2026-11-02'],
  ['NKO-14', 1.5, '2026-11-02'],
  ['NKO-14', NaN, '2026-11-02'],
  ['NKO-14', 1, '2.11.26'],
])('%p, part %p, made %p is refused', (batch, part, day) => {
  expect(() => barCode(batch, part, day)).toThrow(RangeError);
});
