import { appendFile, mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Journal, type JournalEntry } from './journal.ts';

let directory: string;
beforeEach(async () => (directory = await mkdtemp(join(tmpdir(), 'wunsch-journal-'))));
afterEach(() => rm(directory, { recursive: true, force: true }));

const entry = (seq: number, text = 'Kakao ☕ groß'): JournalEntry => ({
  seq,
  kind: 'note',
  target: `t${seq}`,
  at: '2026-10-02T08:00:00Z',
  by: 'AK',
  personId: null,
  body: { text },
});
const read = async (journal: Journal, since = 0) => {
  const found: JournalEntry[] = [];
  for await (const e of journal.since(since)) found.push(e);
  return found;
};
const fill = async (count: number) => {
  const journal = await Journal.open(directory);
  for (let i = 1; i <= count; i += 1) await journal.append([entry(i)]);
  await journal.close();
};

test('what was appended is read back, from any number on', async () => {
  await fill(5);
  const journal = await Journal.open(directory);
  expect(journal.lastSeq).toBe(5);
  expect(await read(journal)).toEqual([1, 2, 3, 4, 5].map((i) => entry(i)));
  expect((await read(journal, 3)).map((e) => e.seq)).toEqual([4, 5]);
});

test('an end torn at any byte loses only the unfinished line', async () => {
  await fill(3);
  const path = join(directory, '00000001.jsonl');
  const whole = await readFile(path);
  const lastStart = whole.lastIndexOf(10, whole.length - 2) + 1;
  for (let cut = lastStart; cut < whole.length; cut += 7) {
    await writeFile(path, whole.subarray(0, cut));
    const journal = await Journal.open(directory);
    expect([cut, journal.lastSeq]).toEqual([cut, 2]);
    await journal.append([entry(3, 'again')]);
    await journal.close();
    const again = await Journal.open(directory);
    expect((await read(again)).map((e) => e.seq)).toEqual([1, 2, 3]);
  }
});

test('zeros after a power cut are cut off and kept aside', async () => {
  await fill(2);
  await appendFile(join(directory, '00000001.jsonl'), Buffer.alloc(512));
  expect((await Journal.open(directory)).lastSeq).toBe(2);
  expect(await readdir(directory)).toContain('00000001.jsonl.torn');
});

test('damage in the middle is refused with the line, and nothing is changed', async () => {
  await fill(3);
  const path = join(directory, '00000001.jsonl');
  const text = await readFile(path, 'utf8');
  await writeFile(path, text.replace('"target":"t2"', '"target":"tX"'));
  await expect(Journal.open(directory)).rejects.toThrow(/damaged at line 2/);
  expect((await readFile(path, 'utf8')).length).toBe(text.length);
});
