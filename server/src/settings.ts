/** What a run of the server was told by its environment. */
export interface Settings {
  host: string;
  port: number;
  /** PostgreSQL instead of the embedded store. */
  databaseUrl: string | undefined;
  directory: string | undefined;
  /** Memory in which the embedded database keeps pages, MB. */
  memoryMb: number;
  /** Folder a backup goes to every day; none where left out. */
  backups: string | undefined;
  acceptGaps: boolean;
  /** Key and certificate to use instead of our own; both or neither. */
  certificate: { key: string; cert: string } | null;
  /** Plain HTTP although others can listen in. */
  plainHttp: boolean;
  /** A reverse proxy on this machine passes requests on and says whom it asks for. */
  behindProxy: boolean;
  /** Structured lines on standard output, from this level on. */
  log: string | undefined;
  /** `yes`, or the token that whoever reads /api/metrics must bring. */
  metrics: string | undefined;
}

/** Memory in which the embedded database keeps pages where nothing else is asked for, MB. */
const MEMORY_MB = 64;

/**
 * Memory in which the embedded database keeps pages, MB, from 4 to 1024. It is filled with zeros at each start, and never given back.
 *
 * @throws Error in one line that names the variable and what would be right
 */
export function memoryOf(environment: Readonly<Record<string, string | undefined>>): number {
  const value = environment.WUNSCH_MEMORY_MB?.trim() || undefined;
  if (value === undefined) return MEMORY_MB;
  const mb = Number(value);
  if (!Number.isInteger(mb) || mb < 4 || mb > 1024)
    throw new Error(`WUNSCH_MEMORY_MB is "${value}"; it must be a whole number from 4 to 1024`);
  return mb;
}

const LEVELS = ['trace', 'debug', 'info', 'warn', 'error', 'fatal'];

/**
 * Reads the settings; one that is empty was not set.
 *
 * @throws Error in one line that names the variable and what would be right
 */
export function readSettings(environment: Readonly<Record<string, string | undefined>>): Settings {
  const of = (name: string): string | undefined => environment[name]?.trim() || undefined;
  const isYes = (name: string): boolean => {
    const value = of(name);
    if (value === undefined || value === 'no' || value === '0') return false;
    if (value === 'yes' || value === '1') return true;
    throw new Error(`${name} is "${value}"; it must be yes or no`);
  };
  const port = of('PORT') ?? '4310';
  if (!/^\d{1,5}$/.test(port) || Number(port) > 65_535)
    throw new Error(`PORT is "${port}"; it must be a whole number from 1 to 65535`);
  const [key, cert] = [of('WUNSCH_KEY'), of('WUNSCH_CERT')];
  if ((key === undefined) !== (cert === undefined))
    throw new Error('WUNSCH_KEY and WUNSCH_CERT go together: the paths of a key and its certificate');
  const log = of('WUNSCH_LOG');
  const level = log === '1' || log === 'yes' ? 'info' : log;
  if (level !== undefined && !LEVELS.includes(level))
    throw new Error(`WUNSCH_LOG is "${level}"; it must be one of ${LEVELS.join(', ')}`);
  return {
    host: of('HOST') ?? '127.0.0.1',
    port: Number(port),
    databaseUrl: of('DATABASE_URL'),
    directory: of('WUNSCH_DATA'),
    memoryMb: memoryOf(environment),
    backups: of('WUNSCH_BACKUPS'),
    acceptGaps: isYes('WUNSCH_ACCEPT_GAPS'),
    certificate: key !== undefined && cert !== undefined ? { key, cert } : null,
    plainHttp: isYes('WUNSCH_PLAIN_HTTP'),
    behindProxy: isYes('WUNSCH_BEHIND_PROXY'),
    log: level,
    metrics: of('WUNSCH_METRICS'),
  };
}
