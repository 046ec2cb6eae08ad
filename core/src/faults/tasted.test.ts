import { signsTasted } from './index.ts';

test('a card that found nothing wrong tells no sign; marks beyond the middle and what sits too much do', () => {
  expect(signsTasted({ sour: 3, grit: 2 })).toEqual([]);
  expect(signsTasted({ sour: 8, grit: 2 })).toEqual(['sour']);
  expect(signsTasted({ sour: 6.9, grit: 6 })).toEqual(['gritty']);
  expect(
    signsTasted({
      basics: { sour: { fit: 'too much' }, bitter: { fit: 'too little' }, astringent: { fit: 'too much' } },
      texture: { grit: 7, coating: 9 },
      faults: ['ham', 'smoke', 'soap', 'stale'],
    }),
  ).toEqual(['sour', 'bitter', 'gritty', 'pasty', 'smoky', 'flat']);
  expect(() => signsTasted({ sour: Number.NaN })).toThrow(/0 to 10/);
});
