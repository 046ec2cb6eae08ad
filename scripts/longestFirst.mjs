// The order Jest takes test files in, and how they are parted among processes: those that run long first, each to whoever has least to do,
// so that all end together.
import { relative } from 'node:path';
import sequencer from '@jest/test-sequencer';
import { root } from './setup.mjs';

const Sequencer = sequencer.default ?? sequencer;

/** Seconds of the files that run longest, both databases counted, on two cores. */
const SECONDS = {
  'core/src/plan/verify.test.ts': 21,
  'server/src/journal/kills.test.ts': 33,
  'server/src/archive/archive.test.ts': 62,
  'server/src/journal/torn.test.ts': 40,
  'server/src/access/access.test.ts': 22,
  'server/src/store/damage.test.ts': 27,
  'core/src/plan/solve.test.ts': 36,
  'core/src/taste/panel.test.ts': 24,
  'server/src/practice/practice.test.ts': 34,
  'server/src/tools/tools.test.ts': 13,
  'server/src/backups/backups.test.ts': 17,
  'server/src/http/fuzz.test.ts': 16,
  'core/src/calibration/stations.test.ts': 18,
  'server/src/ledger/history.test.ts': 14,
  'core/src/plan/integer.test.ts': 16,
  'server/src/store/store.test.ts': 14,
  'server/src/live/events.test.ts': 11,
  'server/src/ledger/random.test.ts': 13,
  'core/src/roast/invariants.test.ts': 7,
  'server/src/stations/mould/print.test.ts': 10,
  'server/src/ledger/line.test.ts': 10,
  'server/src/stations/taste/sessions.test.ts': 9,
  'server/src/readings/files.test.ts': 9,
  'server/src/plan/plan.test.ts': 9,
  'core/src/numbers.test.ts': 7,
  'server/src/classes/classes.test.ts': 8,
  'server/src/access/sessions.test.ts': 8,
};

/** Seconds of any other. */
const USUAL = 2.5;

const seconds = (test) => SECONDS[relative(root, test.path)] ?? USUAL;

export default class LongestFirst extends Sequencer {
  sort(tests) {
    return [...tests].sort((a, b) => seconds(b) - seconds(a) || a.path.localeCompare(b.path));
  }

  shard(tests, { shardIndex, shardCount }) {
    const shares = Array.from({ length: shardCount }, () => ({ tests: [], seconds: 0 }));
    for (const test of this.sort(tests)) {
      const least = shares.reduce((a, b) => (b.seconds < a.seconds ? b : a));
      least.tests.push(test);
      least.seconds += seconds(test);
    }
    return shares[shardIndex - 1].tests;
  }
}
