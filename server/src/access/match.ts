import { Problem } from '../http/problem.ts';

/** Refuses a change made from an older copy (412) or from none (428), with the version that is there. */
export function requireMatch(ifMatch: number | null, version: number, what: string): void {
  if (ifMatch === null) {
    throw new Problem({
      status: 428,
      code: 'if-match-needed',
      detail: `this ${what} exists; send If-Match: "${version}" to change it`,
      params: { version },
    });
  }
  if (ifMatch !== version) {
    const detail = `this ${what} was changed meanwhile: it is at version ${version}, the change was made from ${ifMatch}`;
    throw new Problem({ status: 412, code: 'changed-meanwhile', detail, params: { version, sent: ifMatch } });
  }
}
