import { expose } from 'comlink';
import {
  bowlLasts,
  followBowl,
  type BowlRecord,
  type FollowedBowl,
  type HeldBowl,
  type Ranged,
} from '@wunsch/core/temper';

const api = {
  /** What there is to say of a bowl now; null where there is too little to go by. */
  follow(bowl: BowlRecord): FollowedBowl | null {
    return followBowl(bowl);
  },
  /** How long a bowl held in its window still fills moulds, minutes. */
  lasts(bowl: HeldBowl): Ranged | null {
    return bowlLasts(bowl);
  },
};

/** What the temper worker answers. */
export type TemperWorker = typeof api;

expose(api);
