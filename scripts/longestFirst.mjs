// The order Jest takes test files in: those that run for minutes first, so that both workers end together.
import sequencer from '@jest/test-sequencer';

const Sequencer = sequencer.default ?? sequencer;

const LONGEST = [
  'torn.test.ts',
  'kills.test.ts',
  'store.test.ts',
  'tools.test.ts',
  'fuzz.test.ts',
  'damage.test.ts',
  'random.test.ts',
  'access.test.ts',
  'line.test.ts',
];

const rank = (test) => {
  const place = LONGEST.findIndex((name) => test.path.endsWith(name));
  return place < 0 ? LONGEST.length : place;
};

export default class LongestFirst extends Sequencer {
  sort(tests) {
    return [...tests].sort((a, b) => rank(a) - rank(b) || a.path.localeCompare(b.path));
  }

  /** Dealt out in turn, so that the long ones are shared evenly. */
  shard(tests, { shardIndex, shardCount }) {
    return this.sort(tests).filter((_, i) => i % shardCount === shardIndex - 1);
  }
}
