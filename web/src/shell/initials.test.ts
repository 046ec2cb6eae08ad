import { Person } from '@wunsch/contract';
import { initialsFor } from './initials.ts';

test('each has initials of their own, the first named the shortest', () => {
  expect(initialsFor(['Mechthild', 'Malte', 'Marie', 'Ada Quill', 'Anna Quast', 'Jo van der Meer'])).toEqual([
    'M',
    'MA',
    'MAR',
    'AQ',
    'ANQ',
    'JVD',
  ]);
});

test('of forty people with one name none shares initials, and all can be stored', () => {
  const all = initialsFor(Array.from({ length: 40 }, () => 'Bo'));
  expect(new Set(all).size).toBe(40);
  for (const initials of all) expect(Person.shape.initials.safeParse(initials).success).toBe(true);
});

test('a name without letters still has some, and other scripts are letters', () => {
  expect(initialsFor(['  ', 'Ümit', '李 雷'])).toEqual(['?', 'Ü', '李雷']);
});
