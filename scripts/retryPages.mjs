// What draws a page waits for answers and timers; on a machine that is busy a wait may run out. In CI such a test gets a second try, as the
// walks in the browser do, and the first failure is printed.
import { jest } from '@jest/globals';

jest.retryTimes(1, { logErrorsBeforeRetry: true });
