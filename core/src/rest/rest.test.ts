import { restState } from './index.ts';

const DAY = 86_400_000;

test('blocks are young, ready, and in the end rested longer than meant', () => {
  const block = { castAt: 0, tastedAt: [] };
  expect(restState(block, 5 * DAY)).toMatchObject({
    state: 'young',
    days: 5,
    readyAt: 14 * DAY,
    tasteAt: 14 * DAY,
  });
  expect(restState(block, 20 * DAY).state).toBe('ready');
  expect(restState(block, 43 * DAY).state).toBe('long');
});

test('a tasting puts the next one off, and a workshop’s own weeks count', () => {
  expect(restState({ castAt: 0, tastedAt: [16 * DAY] }, 20 * DAY).tasteAt).toBe(30 * DAY);
  expect(restState({ castAt: 0, tastedAt: [], weeks: [1, 2] }, 8 * DAY).state).toBe('ready');
});
