import { STATIONS } from '../ledger/index.ts';
import { covers, skillOf, SKILLS } from './skill.ts';

test('every station is a skill, in the order of the work, and packing comes after moulding', () => {
  expect(SKILLS.filter((s) => s !== 'wrap')).toEqual([...STATIONS]);
  expect(SKILLS.indexOf('wrap')).toBe(SKILLS.indexOf('mould') + 1);
  expect([skillOf('wrap', 'mould'), skillOf('set', 'mould'), skillOf('conche', 'grind')]).toEqual([
    'wrap',
    'mould',
    'grind',
  ]);
});

test('who moulds may pack, and otherwise each skill is its own', () => {
  const enough = SKILLS.flatMap((a) => SKILLS.flatMap((b) => (a !== b && covers(a, b) ? [`${a} ${b}`] : [])));
  expect(enough).toEqual(['mould wrap']);
  expect(SKILLS.every((s) => covers(s, s))).toBe(true);
});
