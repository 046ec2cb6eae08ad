import { randomInt, timingSafeEqual } from 'node:crypto';

/** Letters and digits that are not taken for one another (Crockford's base 32). */
const SIGNS = '0123456789ABCDEFGHJKMNPQRSTVWXYZ';

/** A code of eight signs, printed where the server runs: who reads it there may set the workshop up. */
export function newFirstRunCode(): string {
  const signs = Array.from({ length: 8 }, () => SIGNS[randomInt(SIGNS.length)]).join('');
  return `${signs.slice(0, 4)}-${signs.slice(4)}`;
}

/** The signs of a code as typed, with what is easily mistaken put right. */
const plain = (code: string) =>
  code
    .toUpperCase()
    .replace(/[^0-9A-Z]/g, '')
    .replaceAll('O', '0')
    .replace(/[IL]/g, '1');

/** Whether a code is the one that was printed, however it is spelled. */
export function isFirstRunCode(given: string | undefined, printed: string): boolean {
  const [a, b] = [given ?? '', printed].map((code) => Buffer.from(plain(code).padEnd(64).slice(0, 64)));
  return timingSafeEqual(a!, b!);
}
