import { sql } from 'drizzle-orm';
import { v7 } from 'uuid';
import { openStage } from '../archive/stage.ts';
import { rowsOf } from './raw.ts';

test('why something on hold was used stood at the end of its note, and now stands by itself', async () => {
  const stage = await openStage('0026_shelf_counts');
  const add = (id: string, note: string) =>
    stage.db.execute(sql`
      insert into movement (id, step_id, direction, mass_mg, source, note, at, by, seq)
      values (${id}, ${v7()}, 'in', 1000, 'weighed', ${note}, now(), 'AK', 1)`);
  const notes = [
    '[hold set aside: AK: frozen for a week]',
    'two sacks [hold set aside: papers came]',
    'a note [with brackets]',
    '',
  ];
  for (const note of notes) await add(v7(), note);
  const db = await stage.upToDate();
  const rows = rowsOf<{ note: string; why: string }>(
    await db.execute(sql`select note, hold_override as why from movement order by id`),
  );
  expect(rows).toEqual([
    { note: '', why: 'AK: frozen for a week' },
    { note: 'two sacks', why: 'papers came' },
    { note: 'a note [with brackets]', why: '' },
    { note: '', why: '' },
  ]);
  await stage.close();
});
