import { readSettings } from './settings.ts';

test('an empty environment is a workshop of this machine alone', () => {
  expect(readSettings({})).toEqual({
    host: '127.0.0.1',
    port: 4310,
    memoryMb: 64,
    acceptGaps: false,
    certificate: null,
    plainHttp: false,
    behindProxy: false,
  });
});

test('a variable that is set to nothing was not set', () => {
  const names = [
    'HOST',
    'PORT',
    'WUNSCH_DATA',
    'DATABASE_URL',
    'WUNSCH_LOG',
    'WUNSCH_MEMORY_MB',
    'WUNSCH_KEY',
    'WUNSCH_PLAIN_HTTP',
  ];
  expect(readSettings(Object.fromEntries(names.map((n) => [n, '  '])))).toEqual(readSettings({}));
});

test.each([
  [{ PORT: '70000' }, 'PORT is "70000"; it must be a whole number'],
  [{ PORT: '4310x' }, 'PORT is "4310x"'],
  [{ PORT: '-1' }, 'PORT is "-1"'],
  [{ WUNSCH_PLAIN_HTTP: 'maybe' }, 'WUNSCH_PLAIN_HTTP is "maybe"; it must be yes or no'],
  [{ WUNSCH_LOG: 'loud' }, 'WUNSCH_LOG is "loud"; it must be one of trace, debug'],
  [{ WUNSCH_MEMORY_MB: '2' }, 'WUNSCH_MEMORY_MB is "2"; it must be a whole number from 4 to 1024'],
  [{ WUNSCH_MEMORY_MB: '64 MB' }, 'WUNSCH_MEMORY_MB is "64 MB"'],
  [{ WUNSCH_KEY: '/k.pem' }, 'WUNSCH_KEY and WUNSCH_CERT go together'],
])('%j is refused in words', (environment, words) => {
  expect(() => readSettings(environment as Record<string, string>)).toThrow(words);
});

test('what is set is read', () => {
  const settings = readSettings({
    PORT: '0',
    HOST: '0.0.0.0',
    WUNSCH_LOG: '1',
    WUNSCH_MEMORY_MB: '16',
    WUNSCH_KEY: '/k.pem',
    WUNSCH_CERT: '/c.pem',
    WUNSCH_ACCEPT_GAPS: 'yes',
    WUNSCH_METRICS: 'a token',
  });
  expect(settings).toMatchObject({
    port: 0,
    host: '0.0.0.0',
    log: 'info',
    memoryMb: 16,
    certificate: { key: '/k.pem', cert: '/c.pem' },
    acceptGaps: true,
    metrics: 'a token',
  });
});
