import { remember } from './remember.ts';

test('the same input is worked out once, another one anew, and the oldest is forgotten', () => {
  let asked = 0;
  const twice = remember(2, (x: { n: number }) => {
    asked += 1;
    return x.n * 2;
  });
  expect([twice({ n: 1 }), twice({ n: 1 }), twice({ n: 2 })]).toEqual([2, 2, 4]);
  expect(asked).toBe(2);
  twice({ n: 3 });
  twice({ n: 1 });
  expect(asked).toBe(4);
});
