import { randomBytes, scrypt, timingSafeEqual } from 'node:crypto';
import { promisify } from 'node:util';

const derive = promisify(scrypt) as (
  password: string,
  salt: Buffer,
  length: number,
  options: object,
) => Promise<Buffer>;

/** Cost of scrypt: 32 MB and some 80 ms on a small machine (OWASP password storage cheat sheet, 2024). */
const COST = { N: 32_768, r: 8, p: 1, maxmem: 64 * 1024 * 1024 };

/** Salted scrypt hash of a password, as text to be stored. */
export async function hashPassword(password: string): Promise<string> {
  const salt = randomBytes(16);
  const key = await derive(password.normalize('NFKC'), salt, 32, COST);
  return `scrypt$${salt.toString('base64')}$${key.toString('base64')}`;
}

/** Whether a password fits a stored hash; takes as long for a person who has none. */
export async function verifyPassword(password: string, stored: string | null): Promise<boolean> {
  const [, salt = '', key = ''] = (stored ?? `scrypt$${'A'.repeat(24)}$${'A'.repeat(44)}`).split('$');
  const expected = Buffer.from(key, 'base64');
  const found = await derive(password.normalize('NFKC'), Buffer.from(salt, 'base64'), 32, COST);
  return stored !== null && expected.length === found.length && timingSafeEqual(expected, found);
}
