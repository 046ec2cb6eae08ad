// The order Jest takes test files in, and how they are parted among processes: those that run long first, each to whoever has least to do,
// so that all end together.
import { relative } from 'node:path';
import sequencer from '@jest/test-sequencer';
import { root } from './setup.mjs';

const Sequencer = sequencer.default ?? sequencer;

/** Seconds of the files that run longest, both databases counted, on two cores. */
const SECONDS = {
  'server/src/archive/archive.test.ts': 68,
  'server/src/journal/torn.test.ts': 50,
  'core/src/plan/solve.test.ts': 49,
  'server/src/plan/plan.test.ts': 48,
  'server/src/store/damage.test.ts': 44,
  'server/src/journal/kills.test.ts': 42,
  'server/src/plan/room.test.ts': 38,
  'server/src/practice/practice.test.ts': 37,
  'core/src/taste/panel.test.ts': 35,
  'server/src/access/access.test.ts': 32,
  'server/src/http/fuzz.test.ts': 31,
  'server/src/ledger/history.test.ts': 29,
  'server/src/tools/tools.test.ts': 28,
  'server/src/backups/backups.test.ts': 25,
  'core/src/plan/verify.test.ts': 23,
  'core/src/plan/integer.test.ts': 22,
  'server/src/ledger/random.test.ts': 21,
  'core/src/calibration/stations.test.ts': 21,
  'server/src/stations/mould/print.test.ts': 20,
  'server/src/stations/taste/sessions.test.ts': 19,
  'server/src/store/store.test.ts': 18,
  'web/src/shell/outbox.test.tsx': 17,
  'server/src/classes/classes.test.ts': 17,
  'server/src/stock/stock.test.ts': 15,
  'server/src/ledger/line.test.ts': 14,
  'server/src/live/events.test.ts': 14,
  'server/src/readings/files.test.ts': 14,
  'server/src/cases/cases.test.ts': 12,
  'core/src/roast/invariants.test.ts': 11,
  'server/src/publicBar/publicBar.test.ts': 9,
  'core/src/plan/rooms.test.ts': 9,
  'server/src/stations/grind/grind.test.ts': 9,
  'server/src/imports/imports.test.ts': 8,
  'web/src/stations/taste/cards.test.tsx': 8,
  'core/src/numbers.test.ts': 8,
  'server/src/access/exposure.test.ts': 7,
  'server/src/formats/client.test.ts': 7,
  'server/src/stations/recipe/shelf.test.ts': 6,
  'server/src/access/sessions.test.ts': 6,
  'server/src/http/pageCache.test.ts': 6,
  'core/src/dialIn/dialIn.test.ts': 6,
  'server/src/cost/cost.test.ts': 6,
  'server/src/ledger/restore.test.ts': 6,
  'web/src/ledger/stock/StockSheet.test.tsx': 6,
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
