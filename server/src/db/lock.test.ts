import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, existsSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { DirectoryLockedError, lockDirectory } from './lock.ts';

let directory: string;
beforeEach(() => {
  directory = mkdtempSync(join(tmpdir(), 'wunsch-lock-'));
});
afterEach(() => rmSync(directory, { recursive: true }));
const path = () => join(directory, 'lock');

test('one holder at a time; giving it back lets the next one in', async () => {
  const first = await lockDirectory(directory);
  expect(readFileSync(path(), 'utf8')).toMatch(new RegExp(`^${process.pid} `));
  await expect(lockDirectory(directory)).rejects.toThrow(DirectoryLockedError);
  await expect(lockDirectory(directory)).rejects.toThrow(
    `the data directory ${directory} is in use by process ${process.pid}; stop it first`,
  );
  first.release();
  expect(existsSync(path())).toBe(false);
  (await lockDirectory(directory)).release();
});

test('what a process that has ended left behind is taken over', async () => {
  const ended = spawnSync('node', ['-e', 'process.exit(0)']).pid;
  writeFileSync(path(), `${ended} 12345`);
  const lock = await lockDirectory(directory);
  expect(readFileSync(path(), 'utf8')).toMatch(new RegExp(`^${process.pid} `));
  lock.release();
});

test('a living process that merely got the same number does not hold it', async () => {
  // This very process, but begun at another moment: the number was given out anew after a restart of the machine.
  writeFileSync(path(), `${process.pid} 1`);
  const lock = await lockDirectory(directory);
  lock.release();
});

test('a lock file left empty by a power cut does not shut anyone out', async () => {
  writeFileSync(path(), '');
  const lock = await lockDirectory(directory);
  lock.release();
});

test('of many who come at once exactly one gets in', async () => {
  writeFileSync(path(), `${spawnSync('node', ['-e', '']).pid} 1`);
  const tries = await Promise.allSettled(Array.from({ length: 12 }, () => lockDirectory(directory)));
  expect(tries.filter((t) => t.status === 'fulfilled')).toHaveLength(1);
});

test('giving back what another has taken over since leaves theirs alone', async () => {
  const lock = await lockDirectory(directory);
  writeFileSync(path(), '1 1');
  lock.release();
  expect(readFileSync(path(), 'utf8')).toBe('1 1');
});
