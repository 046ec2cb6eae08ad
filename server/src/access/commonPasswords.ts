import { Problem } from '../http/problem.ts';

let known: Promise<ReadonlySet<string>> | null = null;

/** Passwords that are tried first, some 49,000 of them, in small letters; unpacked at their first use. */
const commonPasswords = (): Promise<ReadonlySet<string>> =>
  (known ??= import('@zxcvbn-ts/language-common').then(
    ({ dictionary }) => new Set(dictionary['passwords-common'].map((p) => p.toLowerCase())),
  ));

/** Where new passwords are looked up. */
export interface PasswordGuard {
  /**
   * Whether others than the people at this machine can reach the server: only then is there anybody who could guess, and common
   * passwords are refused.
   */
  isExposed: boolean;
}

/**
 * Refuses a new password that stands in the lists guessers work from, with or without figures and signs behind it, or that is the name it
 * belongs to (OWASP ASVS 4.0, 2.1.7).
 *
 * @param field the field of the request it stands in
 * @throws Problem 422 with what would be right
 */
export async function requireUncommon(password: string, name: string, field: string): Promise<void> {
  const plain = password.normalize('NFKC').toLowerCase();
  const bare = plain.replace(/[\d\W_]+$/u, '');
  const all = await commonPasswords();
  if (!all.has(plain) && !all.has(bare) && bare !== name.trim().toLowerCase()) return;
  throw new Problem({
    status: 422,
    code: 'common-password',
    field,
    detail:
      'this password is among the first that are tried; take three or four words that do not belong together',
  });
}
