import type { Chain } from './chain.ts';
import type { PlanMould, PlanStage } from './room.ts';
import { stageTime } from './times.ts';
import { CABINET, mouldId, partsOfRest, REST_SHELF } from './workshopResources.ts';

const DAY = 1440;

/** Greatest waits, minutes: a bowl is poured at once, set bars are knocked out the same day. */
const MOST_WAIT = { mould: 15, knock: 16 * 60 };

/** Most rounds a batch is parted into so that each fits between two breaks. */
const MOST_ROUNDS = 40;

/** How many rounds a batch’s bars take: by the bowl, the moulds and the places, and by what can be poured before the next break. */
function roundsOf(
  { room, span }: Pick<Chain, 'room' | 'span'>,
  bars: number,
  massMg: number,
  mould: PlanMould | null,
): number {
  const used = room.machines.filter((m) => !m.retired);
  const bowl = Math.max(0, ...used.filter((m) => m.station === 'temper').map((m) => m.maxMg ?? 0));
  const places = used.reduce((sum, m) => sum + (m.places ?? 0), 0);
  const moulds = mould ? Math.min(mould.count, places > 0 ? places : mould.count) : 0;
  let rounds = Math.max(
    1,
    bowl > 0 ? Math.ceil(massMg / bowl) : 1,
    mould && moulds > 0 ? Math.ceil(bars / mould.cavities / moulds) : 1,
  );
  const hands = (kg: number) =>
    stageTime('temper', kg, room).minutes + stageTime('mould', kg, room).minutes + MOST_WAIT.mould;
  while (rounds < MOST_ROUNDS && hands(massMg / 1e6 / rounds) > span) rounds += 1;
  return rounds;
}

/**
 * Bowls: chocolate rests, is tempered, poured at once, sets by itself and is knocked out; moulds and places are held from the pouring on, rest
 * shelves until their bowl.
 *
 * @param before what comes before; answers with what the rest comes after
 */
export function pour(chain: Chain, stages: readonly PlanStage[], before: readonly string[]): string[] {
  const { room, batch } = chain;
  const mould = room.moulds.find((m) => m.barMg === batch.barMg) ?? room.moulds[0] ?? null;
  const rounds = roundsOf(chain, batch.bars, batch.massOf('temper'), mould);
  const bowls = chain.machines('temper');
  const isMadeHere = stages.includes('draw') || stages.includes('empty');
  const rest = isMadeHere ? Math.round(room.restDays * DAY) : 0;
  const firsts: string[] = [];
  const out: string[] = [];
  for (let r = 1; r <= rounds; r += 1) {
    let last = before;
    let wait = rest;
    if (stages.includes('temper')) {
      const temper = chain.add('temper', r, rounds, { machine: bowls });
      chain.after(last, temper, wait);
      // Bowls are alike: the first is begun first, so that they are counted as they come.
      if (firsts.length > 0) chain.begunAfter(firsts.at(-1)!, temper);
      last = [temper];
      wait = 0;
    }
    const poured = chain.add('mould', r, rounds);
    chain.after(last, poured, wait, last === before ? undefined : MOST_WAIT.mould);
    firsts.push(last === before ? poured : last[0]!);
    const set = chain.add('set', r, rounds);
    chain.after([poured], set, 0, 0);
    const knock = chain.add('knock', r, rounds);
    chain.after([set], knock, 0, MOST_WAIT.knock);
    out.push(knock);
    if (mould) holdMoulds(chain, mould, rounds, r, poured, knock);
  }
  holdShelf(chain, isMadeHere ? (before[0] ?? null) : null, firsts);
  return out;
}

/** Moulds, and their places in the cabinet, from pouring to knocking out. */
function holdMoulds(
  chain: Chain,
  mould: PlanMould,
  rounds: number,
  round: number,
  from: string,
  to: string,
): void {
  const { key, bars } = chain.batch;
  const amount = Math.min(mould.count, Math.ceil(bars / mould.cavities / rounds));
  chain.hold({ id: `${key}/moulds/${round}`, from, to, oneOf: [mouldId(mould.id)], amount });
  if (chain.has(CABINET)) chain.hold({ id: `${key}/places/${round}`, from, to, oneOf: [CABINET], amount });
}

/** Room on the rest shelves, for each bowl from when its chocolate is made until it is tempered; what rests already lies there from the beginning. */
function holdShelf(chain: Chain, made: string | null, bowls: readonly string[]): void {
  if (!chain.has(REST_SHELF)) return;
  const { key, batchId, lotId, massOf } = chain.batch;
  // Bought chocolate is not rested here.
  const material = chain.room.lots.find((l) => l.id === lotId)?.material;
  if (made === null && (batchId === null || material === 'couverture' || material === 'chocolate')) return;
  const from = made ?? chain.since('rests');
  const parts = partsOfRest(chain.room, massOf('draw'));
  bowls.forEach((to, k) => {
    const amount = Math.floor(((k + 1) * parts) / bowls.length) - Math.floor((k * parts) / bowls.length);
    // What is in the bowl rests no more.
    if (amount === 0 || chain.hasBegun(to)) return;
    if (made === null) chain.after([from], to);
    chain.hold({ id: `${key}/rest/${k + 1}`, from, to, oneOf: [REST_SHELF], amount });
  });
}
