import { createHash, randomBytes } from 'node:crypto';

/** A fresh device token of 36 digits and letters a to f: it is typed after `--token`, where a leading dash would read as another option. */
export function newDeviceToken(): string {
  return randomBytes(18).toString('hex');
}

/** The hash under which a device token is kept. */
export function tokenHash(token: string): string {
  return createHash('sha256').update(token).digest('hex');
}
