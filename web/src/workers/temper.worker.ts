import { expose } from 'comlink';
import { followBowl, type BowlRecord, type FollowedBowl } from '@wunsch/core/temper';

const api = {
  /** What there is to say of a bowl now; null where there is too little to go by. */
  follow(bowl: BowlRecord): FollowedBowl | null {
    return followBowl(bowl);
  },
};

/** What the temper worker answers. */
export type TemperWorker = typeof api;

expose(api);
