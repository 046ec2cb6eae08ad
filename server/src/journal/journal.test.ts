import { appendFile, mkdtemp, open, readdir, readFile, rm, truncate, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Journal, type JournalDisk, type JournalEntry } from './journal.ts';

let directory: string;
beforeEach(async () => (directory = await mkdtemp(join(tmpdir(), 'wunsch-journal-'))));
afterEach(() => rm(directory, { recursive: true, force: true }));

const entry = (seq: number, text = 'Kakao ☕ groß'): JournalEntry => ({
  seq,
  kind: 'note',
  version: 1,
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

test('damage in the middle is told with its line and the entry it was, and nothing is changed', async () => {
  await fill(4);
  const path = join(directory, '00000001.jsonl');
  const text = await readFile(path, 'utf8');
  await writeFile(path, text.replace('"target":"t2"', '"target":"tX"'));
  const journal = await Journal.open(directory);
  expect(journal.holes).toEqual([{ from: 2, to: 2, file: '00000001.jsonl', line: 2, why: 'damaged' }]);
  expect((await read(journal)).map((e) => e.seq)).toEqual([1, 3, 4]);
  expect((await readFile(path, 'utf8')).length).toBe(text.length);
});

test('lines taken out, and a line put in the place of another, are noticed', async () => {
  await fill(6);
  const path = join(directory, '00000001.jsonl');
  const lines = (await readFile(path, 'utf8')).split('\n');
  await writeFile(path, [...lines.slice(0, 1), ...lines.slice(4)].join('\n'));
  expect((await Journal.open(directory)).holes).toEqual([
    { from: 2, to: 4, file: '00000001.jsonl', line: 2, why: 'missing' },
  ]);
  // The same number and a good checksum, but not the line that the next one follows.
  const other = join(directory, 'other');
  const twin = await Journal.open(other);
  for (let i = 1; i <= 3; i += 1) await twin.append([entry(i, 'another story')]);
  await twin.close();
  const foreign = (await readFile(join(other, '00000001.jsonl'), 'utf8')).split('\n');
  await writeFile(path, [lines[0], foreign[1], ...lines.slice(2)].join('\n'));
  expect((await Journal.open(directory)).holes.map((h) => [h.from, h.why])).toEqual([
    [2, 'replaced'],
    [3, 'replaced'],
  ]);
});

test('text with line separators of its own stays one line', async () => {
  const odd = 'one\u2028two\u2029three\u0085four';
  const journal = await Journal.open(directory);
  await journal.append([entry(1, odd), entry(2)]);
  await journal.close();
  const again = await Journal.open(directory);
  expect(again.holes).toEqual([]);
  expect((await read(again)).map((e) => (e.body as { text: string }).text)).toEqual([odd, 'Kakao ☕ groß']);
});

test('a finished file is not read again while it is as it was, and is when it is not', async () => {
  await fill(3);
  // A second file, as rotation makes it.
  const next = await Journal.open(directory);
  await next.append([entry(4)]);
  await next.close();
  const text = await readFile(join(directory, '00000001.jsonl'), 'utf8');
  const [one, two] = [text.split('\n').slice(0, 2).join('\n') + '\n', text.split('\n').slice(2).join('\n')];
  await writeFile(join(directory, '00000001.jsonl'), one);
  await writeFile(join(directory, '00000002.jsonl'), two);
  expect((await Journal.open(directory)).holes).toEqual([]);
  expect(await readdir(directory)).toContain('00000001.jsonl.sum');
  const journal = await Journal.open(directory);
  expect((await read(journal, 2)).map((e) => e.seq)).toEqual([3, 4]);
  // A whole file gone: its numbers are missing.
  await rm(join(directory, '00000001.jsonl'));
  expect((await Journal.open(directory)).holes).toEqual([
    { from: 1, to: 2, file: '00000002.jsonl', line: 1, why: 'missing' },
  ]);
});

describe('a disk that does not keep what it is given', () => {
  /** A disk that takes `room` bytes and then writes only part of what it is given, as a full one does. */
  function failingDisk(fault: { room: number; code: string; on: 'write' | 'sync' }): JournalDisk {
    return {
      open: async (path) => {
        const handle = await open(path, 'a', 0o600);
        return {
          stat: () => handle.stat(),
          close: () => handle.close(),
          appendFile: async (text) => {
            const bytes = Buffer.from(text as string);
            if (fault.on === 'write' && bytes.length > fault.room) {
              await handle.appendFile(bytes.subarray(0, Math.max(0, fault.room)));
              throw Object.assign(new Error(`${fault.code}: write`), { code: fault.code });
            }
            fault.room -= bytes.length;
            await handle.appendFile(bytes);
          },
          datasync: async () => {
            if (fault.on === 'sync' && fault.room < 0)
              throw Object.assign(new Error(`${fault.code}: fdatasync`), { code: fault.code });
            await handle.datasync();
          },
        } as Awaited<ReturnType<JournalDisk['open']>>;
      },
      truncate: (path, bytes) => truncate(path, bytes),
    };
  }

  test.each([
    ['ENOSPC', 'write', 'disk-full'],
    ['EROFS', 'write', 'disk-read-only'],
    ['EIO', 'sync', 'disk-failed'],
  ] as const)(
    '%s on %s: refused in words, nothing of it stays, and all is well afterwards',
    async (code, on, word) => {
      const fault = { room: 500, code, on };
      const journal = await Journal.open(directory, failingDisk(fault));
      let seq = 0;
      const refused: number[] = [];
      for (let i = 0; i < 8; i += 1) {
        try {
          await journal.append([entry(seq + 1, `try ${i}`)]);
          seq += 1;
        } catch (error) {
          expect(error).toMatchObject({ name: 'JournalWriteError', code: word });
          refused.push(i);
          // Somebody makes room after two refusals.
          if (refused.length === 2) Object.assign(fault, { room: 1e9 });
        }
      }
      expect(refused).toHaveLength(2);
      await journal.close();
      const again = await Journal.open(directory);
      expect(again.holes).toEqual([]);
      expect((await read(again)).map((e) => e.seq)).toEqual([1, 2, 3, 4, 5, 6]);
      expect((await read(again)).map((e) => (e.body as { text: string }).text)).toEqual(
        [0, 1, 2, 3, 4, 5, 6, 7].filter((i) => !refused.includes(i)).map((i) => `try ${i}`),
      );
    },
  );

  test('while the torn end cannot be cut off nothing more is written', async () => {
    const fault = { room: 300, code: 'ENOSPC', on: 'write' as const };
    const disk = failingDisk(fault);
    let readOnly = true;
    const journal = await Journal.open(directory, {
      ...disk,
      truncate: (path, bytes) =>
        readOnly
          ? Promise.reject(Object.assign(new Error('EROFS'), { code: 'EROFS' }))
          : disk.truncate(path, bytes),
    });
    await journal.append([entry(1)]);
    await expect(journal.append([entry(2), entry(3)])).rejects.toMatchObject({ code: 'disk-full' });
    Object.assign(fault, { room: 1e9 });
    await expect(journal.append([entry(2)])).rejects.toMatchObject({ code: 'disk-read-only' });
    readOnly = false;
    await journal.append([entry(2)]);
    await journal.close();
    const again = await Journal.open(directory);
    expect(again.holes).toEqual([]);
    expect((await read(again)).map((e) => e.seq)).toEqual([1, 2]);
  });
});
