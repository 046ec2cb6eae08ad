// The order Jest takes test files in, and how they are parted among processes: those that run long first, each to whoever has least to do,
// so that all end together.
import { relative } from 'node:path';
import sequencer from '@jest/test-sequencer';
import { root } from './setup.mjs';

const Sequencer = sequencer.default ?? sequencer;

/** Seconds of the files that run longest, both databases counted, on two cores. */
const SECONDS = {
  'server/src/archive/archive.test.ts': 72,
  'core/src/plan/solve.test.ts': 63,
  'server/src/journal/torn.test.ts': 57,
  'server/src/practice/practice.test.ts': 41,
  'server/src/journal/kills.test.ts': 35,
  'core/src/taste/panel.test.ts': 30,
  'server/src/store/damage.test.ts': 28,
  'server/src/backups/backups.test.ts': 25,
  'server/src/tools/tools.test.ts': 24,
  'server/src/access/access.test.ts': 23,
  'server/src/http/fuzz.test.ts': 23,
  'core/src/calibration/stations.test.ts': 22,
  'server/src/ledger/history.test.ts': 21,
  'web/src/shell/outbox.test.tsx': 18,
  'core/src/plan/integer.test.ts': 18,
  'server/src/store/store.test.ts': 15,
  'server/src/readings/files.test.ts': 13,
  'server/src/stations/mould/print.test.ts': 13,
  'server/src/live/events.test.ts': 11,
  'server/src/stations/taste/sessions.test.ts': 10,
  'server/src/ledger/random.test.ts': 10,
  'web/src/stations/taste/cards.test.tsx': 10,
  'core/src/numbers.test.ts': 10,
  'server/src/ledger/line.test.ts': 10,
  'server/src/plan/plan.test.ts': 9,
  'core/src/plan/verify.test.ts': 8,
  'core/src/roast/invariants.test.ts': 8,
  'core/src/plan/rooms.test.ts': 8,
  'server/src/formats/client.test.ts': 8,
  'server/src/plan/room.test.ts': 7,
  'web/src/ledger/stock/StockSheet.test.tsx': 7,
  'core/src/plan/workshop.test.ts': 7,
  'server/src/publicBar/publicBar.test.ts': 6,
  'server/src/access/sessions.test.ts': 6,
};

/** Seconds of any other. */
const USUAL = 1.5;

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
