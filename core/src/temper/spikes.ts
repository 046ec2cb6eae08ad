import { believable, type Bounds } from '../readings/index.ts';
import { BOWL_HABITS } from './defaults.ts';
import type { BowlReading } from './window.ts';

/** How a bowl can warm and cool: chocolate from the marble stirred in takes some seconds. */
const OF_BOWLS: Omit<Bounds, 'slack'> = { fastest: 1, settles: 12 };

/** What is taken of a probe: neither what no bowl can have done, nor one reading that stands out from both its neighbours, is a temperature. */
export function withoutSpikes(
  readings: readonly BowlReading[],
  most: number = BOWL_HABITS.spikeC,
): BowlReading[] {
  const stand = believable(readings, { ...OF_BOWLS, slack: most });
  return stand.filter((r, i) => {
    const [before, after] = [stand[i - 1], stand[i + 1]];
    if (!before || !after) return true;
    const [down, up] = [r.celsius - before.celsius, r.celsius - after.celsius];
    return !(Math.sign(down) === Math.sign(up) && Math.min(Math.abs(down), Math.abs(up)) > most);
  });
}
