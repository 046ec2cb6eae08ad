import { normalDraw, seededRandom } from '@wunsch/core/numerics';
import type { Store } from '@wunsch/server';
import { ownersHand } from './owner.ts';

const DAY = 86_400_000;

/** The glasshouse's two beds: trees, and pods of a usual month from January on. */
const BEDS = [
  { plot: 'Palm house', trees: 9, months: [4, 2, 0, 6, 18, 22, 9, 3, 0, 8, 24, 16] },
  { plot: 'East bed', trees: 4, months: [0, 0, 2, 5, 11, 7, 2, 0, 0, 3, 9, 6] },
];

/** How far back the garden has noted its pods, months. */
const BACK = 27;

/** What the botanic garden has picked in its glasshouse, month by month, some rich and some poor. */
export async function writeHarvest(store: Store, now: number): Promise<void> {
  const hand = await ownersHand(store, '019408');
  if (!hand) return;
  const { actor, id } = hand;
  const random = seededRandom(408);
  const first = new Date(now);
  let k = 1;
  for (let back = BACK; back >= 0; back -= 1) {
    const day = new Date(Date.UTC(first.getUTCFullYear(), first.getUTCMonth() - back, 12));
    if (day.getTime() > now - DAY) continue;
    for (const { plot, trees, months } of BEDS) {
      const usual = months[day.getUTCMonth()]!;
      const pods = Math.round(usual * Math.exp(0.35 * normalDraw(random)));
      if (pods < 1) continue;
      const body = {
        on: day.toISOString().slice(0, 10),
        plot,
        trees: Math.min(trees, Math.max(1, Math.round(pods / 2))),
        pods,
        wetMg: back % 3 === 0 ? null : Math.round(pods * (98 + 9 * normalDraw(random))) * 1000,
        paid: 35 * pods,
        from: 'the garden',
      };
      await store.writer.submit({
        kind: 'harvest.pick',
        target: id(k++),
        body,
        actor,
        at: new Date(day.getTime() + 0.4 * DAY).toISOString(),
      });
    }
  }
}
