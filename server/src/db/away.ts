/** Classes and codes of PostgreSQL and of the network that say the database is not there just now (PostgreSQL manual, appendix A). */
const AWAY_CODES = new Set([
  'ECONNREFUSED',
  'ECONNRESET',
  'EPIPE',
  'ETIMEDOUT',
  'ENOTFOUND',
  '57P01',
  '57P02',
  '57P03',
  '08000',
  '08001',
  '08003',
  '08004',
  '08006',
]);

const AWAY_WORDS =
  /connection terminated|timeout exceeded when trying to connect|client has encountered a connection error|not queryable|cannot use a pool after|server closed the connection/i;

/** Whether an error, or what caused it, says that the database cannot be reached: worth trying again, nothing is wrong with the request. */
export function isDatabaseAway(error: unknown): boolean {
  for (let e = error, depth = 0; e instanceof Error && depth < 6; e = e.cause, depth += 1) {
    const code = (e as { code?: unknown }).code;
    if (typeof code === 'string' && AWAY_CODES.has(code)) return true;
    if (AWAY_WORDS.test(e.message)) return true;
  }
  return false;
}
