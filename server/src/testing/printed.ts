import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { TestWorkshop } from './workshop.ts';

/** Whether a program that is not ours is here to read what was printed. */
const isHere = (() => {
  try {
    execFileSync('which', ['pdftotext'], { stdio: 'pipe' });
    return true;
  } catch {
    return false;
  }
})();

/** A test that needs such a program. */
export const ifRead = isHere ? test : test.skip;

/** Text of a PDF as another program reads it, line by line as it stands on the sheet. Every font must stand inside the file. */
export async function printedText(shop: Pick<TestWorkshop, 'app' | 'cookie'>, url: string): Promise<string> {
  const answer = await shop.app.inject({ url, headers: { host: 'localhost:4310', cookie: shop.cookie } });
  expect([answer.statusCode, answer.headers['content-type']]).toEqual([200, 'application/pdf']);
  const directory = mkdtempSync(join(tmpdir(), 'wunsch-paper-'));
  try {
    const file = join(directory, 'sheet.pdf');
    writeFileSync(file, answer.rawPayload);
    const fonts = execFileSync('pdffonts', [file], { encoding: 'utf8' });
    for (const line of fonts.trim().split('\n').slice(2)) expect(line).toMatch(/\byes\b/);
    return execFileSync('pdftotext', ['-layout', file, '-'], { encoding: 'utf8' });
  } finally {
    rmSync(directory, { recursive: true, force: true });
  }
}
