import { believable, type Bounds } from '../readings/index.ts';
import { BOWL_HABITS } from './defaults.ts';
import type { BowlReading } from './window.ts';

/** How a bowl can warm and cool: chocolate from the marble stirred in takes some seconds. */
const OF_BOWLS: Omit<Bounds, 'slack'> = { fastest: 0.3, settles: 12 };

/** What is taken of a bowl's probe: what no bowl can have done is no temperature ({@link believable}). */
export function withoutSpikes(
  readings: readonly BowlReading[],
  most: number = BOWL_HABITS.spikeC,
): BowlReading[] {
  return believable(readings, { ...OF_BOWLS, slack: most });
}
