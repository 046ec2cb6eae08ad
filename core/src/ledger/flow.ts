import { movementsByStep, stepBalance, type Movement, type MovementSource, type Step } from './movement.ts';
import { BY_PRODUCTS, ENTRY_STATION, STATIONS, type Material, type Station } from './stations.ts';
import { stationsOfRoute, WORK_KINDS, WORK_STATION, type WorkKind } from './stepKinds.ts';
import { lossName, YIELD_PRIORS, type SharePrior } from './defaults.ts';
import { normalQuantile } from '../numerics/index.ts';

/** A parcel as the flow needs it. */
export interface FlowParcel {
  id: string;
  material: Material;
  remainingMg: number;
  /** Work it came out of; left out where that is of no account. */
  madeBy?: WorkKind;
}

/** What is known of one batch. */
export interface FlowInput {
  steps: readonly Step[];
  /** Movements in force of those steps. */
  movements: readonly Movement[];
  /** Parcels those steps made, with what is left of each. */
  parcels: readonly FlowParcel[];
  /** Mass meant for the batch before anything has been weighed. */
  plannedMg?: number | null;
  /** Station at which the batch's material enters (sort for dry beans). */
  entry?: Station;
  /** Expected yields; the trade's usual ones where left out. */
  yields?: Partial<Record<Station, SharePrior>>;
  /** Mass of additions per mass of cacao the recipe plans, e.g. 0.43 for 70 % of nibs. */
  additionRatio?: number | null;
  /** Of that, what the grinder still waits for, per mass of cacao: ingredients the bowl was closed without. 0 where left out. */
  lateRatio?: number;
  /** Mass of one bar in mg, for the forecast of bars. */
  barMg?: number | null;
  /** Work it passes through; all of it where left out. Material that waits skips what is not on the way. */
  route?: readonly WorkKind[];
  /** A finished batch has no future: nothing is forecast. */
  finished?: boolean;
  /** Whether anybody has tasted it. */
  tasted?: boolean;
}

/** Where a station stands for this batch; `skipped` was passed by without work, `not needed` is not on its route. */
export type StationState = 'done' | 'running' | 'waiting' | 'skipped' | 'not needed' | 'ahead';

/** A strand that peels off the ribbon. */
export interface LossStrand {
  reason: string;
  massMg: number;
  /** By-products and left-overs stay in the workshop as parcels. */
  kept: boolean;
  source: MovementSource;
}

/** One column of the ribbon. */
export interface StationFlow {
  station: Station;
  state: StationState;
  /** Cacao that entered here, without additions. */
  inMg: number;
  additions: { label: string; massMg: number; ingredientId: string | null }[];
  losses: LossStrand[];
  outMg: number;
  /** In an open step: entered and not yet weighed out. */
  inProcessMg: number;
  /** Weighed out before and waiting for this station. */
  waitingMg: number;
  /** Of that, what is ground and waits to be conched. */
  toConcheMg: number;
  /** Share of this station's work that is done, 0–1. */
  progress: number;
  /** Expected mass out once all is through, with its 80 % range; equals outMg when done. */
  expected: { meanMg: number; lowMg: number; highMg: number };
  stepIds: string[];
}

/** The whole ribbon of a batch. */
export interface BatchFlow {
  startMg: number;
  stations: StationFlow[];
  here: Station;
  /** Everything still on the line: in machines, waiting, and in bars. */
  nowMg: number;
  /** Bars counted so far. */
  bars: number;
  /** Bars to be expected in all, 80 % range; null without a bar mass, and where there is nothing for one bar. */
  barsExpected: { low: number; high: number } | null;
  /** Nibs out of winnowing per mass at the start; null until all of it is winnowed. */
  cacaoKept: number | null;
}

/** What comes out of a grinder to be conched, where the route says so. */
const CONCHED: ReadonlySet<Material> = new Set<Material>(['liquor', 'charge', 'chocolate']);

/** Chance that the outcome lies in a forecast range. */
const FORECAST_CHANCE = 0.8;

/**
 * Draws a batch together from its ledger: masses in, out and lost per station, where it stands, and what
 * is to be expected ahead. Masses in mg. Only reads; never fails on an unfinished batch.
 */
export function batchFlow(input: FlowInput): BatchFlow {
  const { steps, movements, parcels, yields = {}, finished = false } = input;
  const byStep = movementsByStep(movements);
  const made = new Set(movements.filter((m) => m.direction === 'out' && m.parcelId).map((m) => m.parcelId!));
  const onWay = new Set<Station>(stationsOfRoute(input.route ?? WORK_KINDS));
  const entry = nextOnWay(onWay, input.entry ?? 'sort');
  const isConched = input.route?.includes('conche') ?? false;
  const waitsForConche = (p: FlowParcel) => isConched && p.madeBy === 'grind' && CONCHED.has(p.material);
  const waitsAt = (p: FlowParcel) =>
    waitsForConche(p) ? WORK_STATION.conche : nextOnWay(onWay, ENTRY_STATION[p.material]);
  const firstStation = STATIONS.find((s) => steps.some((step) => step.station === s)) ?? entry;
  const lastStation = STATIONS.findLast((s) => steps.some((step) => step.station === s)) ?? null;
  const half = normalQuantile(0.5 + FORECAST_CHANCE / 2);

  let startMg = 0;
  let bars = 0;
  let ahead = { meanMg: 0, variance: 0 };
  let bowl = { cacaoMg: 0, addedMg: 0 };
  const flows = STATIONS.map((station): StationFlow => {
    const here = steps.filter((s) => s.station === station);
    const lines = here.flatMap((s) => byStep.get(s.id) ?? []);
    const madeHere = new Set(lines.filter((m) => m.direction === 'out').map((m) => m.parcelId));
    const additions: StationFlow['additions'] = [];
    const losses = new Map<string, LossStrand>();
    let [inMg, outMg] = [0, 0];
    for (const m of lines) {
      if (m.direction === 'in') {
        const own = m.parcelId != null && made.has(m.parcelId);
        if (m.parcelId && madeHere.has(m.parcelId)) outMg -= m.massMg;
        else if (own) inMg += m.massMg;
        else if (m.ingredientId || station !== firstStation) {
          additions.push({ label: m.label ?? '', massMg: m.massMg, ingredientId: m.ingredientId ?? null });
        } else {
          inMg += m.massMg;
          startMg += m.massMg;
        }
      } else if (m.direction === 'out' && !(m.material && BY_PRODUCTS.has(m.material))) {
        outMg += m.massMg;
        if (m.material === 'bars') bars += m.count ?? 0;
      } else {
        const reason = m.direction === 'loss' ? lossName(m.reason ?? 'unexplained') : m.material!;
        const strand = losses.get(reason);
        if (strand) strand.massMg += m.massMg;
        else losses.set(reason, { reason, massMg: m.massMg, kept: m.direction === 'out', source: m.source });
      }
    }
    const open = here.filter((s) => s.status === 'open');
    const inProcessMg = open.reduce(
      (sum, s) => sum + Math.max(0, stepBalance(byStep.get(s.id) ?? []).differenceMg),
      0,
    );
    const waiting = parcels.filter((p) => !BY_PRODUCTS.has(p.material) && waitsAt(p) === station);
    const sumOf = (of: readonly FlowParcel[]) => of.reduce((sum, p) => sum + p.remainingMg, 0);
    let waitingMg = sumOf(waiting);
    if (steps.length === 0 && station === entry) waitingMg += input.plannedMg ?? 0;
    // What is not on the way neither loses nor gains anything.
    const passedBy = here.length === 0 && isWorkStation(station) && !onWay.has(station);
    const yieldHere = passedBy ? { mean: 1, sd: 0 } : (yields[station] ?? YIELD_PRIORS[station]);
    const known = station === 'taste' ? 0 : inProcessMg + waitingMg;
    const pending = finished
      ? { meanMg: 0, variance: 0 }
      : { meanMg: known + ahead.meanMg, variance: ahead.variance };
    const added = additions.reduce((sum, a) => sum + a.massMg, 0);
    const isOpen = here.some((s) => s.status === 'open');
    // What was weighed in of a bowl that is complete was what was wanted; of one that is open the rest is still to come.
    const cacaoMg = (isOpen ? inMg : 0) + waitingMg + ahead.meanMg;
    const lackingMg =
      finished || pending.meanMg === 0
        ? 0
        : station === 'recipe'
          ? Math.max(0, (input.additionRatio ?? 0) * cacaoMg - (isOpen ? added : 0))
          : station === 'grind'
            ? lateMg(input, bowl.cacaoMg || inMg, bowl.addedMg + added)
            : 0;
    if (station === 'recipe') bowl = { cacaoMg: inMg, addedMg: added };
    const ratio = pending.meanMg > 0 ? 1 + lackingMg / pending.meanMg : 1;
    const factor = yieldHere.mean * ratio;
    ahead = {
      meanMg: pending.meanMg * factor,
      variance: pending.variance * factor ** 2 + (pending.meanMg * yieldHere.sd * ratio) ** 2,
    };
    const sd = Math.sqrt(ahead.variance);
    const mean = outMg + ahead.meanMg;
    return {
      station,
      state: 'ahead',
      inMg,
      additions,
      losses: [...losses.values()],
      outMg,
      inProcessMg,
      waitingMg,
      toConcheMg: sumOf(waiting.filter(waitsForConche)),
      progress: inMg + waitingMg > 0 ? Math.max(0, inMg - inProcessMg) / (inMg + waitingMg) : 0,
      expected: { meanMg: mean, lowMg: Math.max(0, mean - half * sd), highMg: mean + half * sd },
      stepIds: here.map((s) => s.id),
    };
  });
  if (startMg === 0) startMg = input.plannedMg ?? 0;

  flows.forEach((flow) => {
    const needless = isWorkStation(flow.station) && !onWay.has(flow.station);
    flow.state =
      flow.station === 'taste' && input.tasted ? 'done' : stateOf(flow, steps, lastStation, needless);
  });
  const winnow = flows.find((f) => f.station === 'winnow')!;
  const mould = flows.find((f) => f.station === 'mould')!;
  const running =
    flows.findLast((f) => f.state === 'running') ?? flows.findLast((f) => f.state === 'waiting');
  return {
    startMg,
    stations: flows,
    here: running?.station ?? (finished || bars > 0 ? 'taste' : (lastStation ?? firstStation)),
    nowMg: flows.reduce((sum, f) => sum + f.inProcessMg + f.waitingMg, 0),
    bars,
    barsExpected: barRange(mould, bars, input, finished),
    cacaoKept:
      startMg > 0 && winnow.outMg > (1 - CRUMBS) * winnow.expected.meanMg ? winnow.outMg / startMg : null,
  };
}

/** What the grinder still waits for, mg: what the bowl was closed without, unless something else is in its place. */
const lateMg = ({ additionRatio, lateRatio = 0 }: FlowInput, cacaoMg: number, addedMg: number): number =>
  Math.max(0, Math.min(lateRatio * cacaoMg, (additionRatio ?? 0) * cacaoMg - addedMg));

/** Mass that has yet to go through each station, mg: what is in work there, what waits for it, and what is still to come from before it. */
export function massToCome({ stations }: Pick<BatchFlow, 'stations'>): Partial<Record<Station, number>> {
  let coming = 0;
  return Object.fromEntries(
    stations.map((s) => {
      const massMg = s.station === 'taste' ? coming : s.inProcessMg + s.waitingMg + coming;
      coming = Math.max(0, s.expected.meanMg - s.outMg);
      return [s.station, Math.round(massMg)];
    }),
  );
}

/** What is left of it where so much went in is no work any more: loads on a scale never add up to the last gram. Share of what went in. */
const CRUMBS = 0.005;

/** Whether all that has come to a station has gone into it, but for crumbs. */
export const allIsIn = ({ waitingMg, inMg }: Pick<StationFlow, 'waitingMg' | 'inMg'>): boolean =>
  waitingMg <= CRUMBS * inMg;

/** Stations at which work is done. */
const isWorkStation = (station: Station) => station !== 'beans' && station !== 'taste';

/** The station itself if it is on the way, else the next one after it that is; tasting where nothing follows. */
function nextOnWay(onWay: ReadonlySet<Station>, station: Station): Station {
  if (!isWorkStation(station)) return station;
  return STATIONS.slice(STATIONS.indexOf(station)).find((s) => onWay.has(s)) ?? 'taste';
}

function stateOf(
  flow: StationFlow,
  steps: readonly Step[],
  lastStation: Station | null,
  needless: boolean,
): StationState {
  const mine = steps.filter((s) => flow.stepIds.includes(s.id));
  if (mine.some((s) => s.status === 'open')) return 'running';
  if (mine.length > 0 && allIsIn(flow)) return 'done';
  if (flow.waitingMg > 0 && flow.station !== 'taste') return mine.length > 0 ? 'running' : 'waiting';
  if (mine.length > 0) return 'done';
  if (needless) return 'not needed';
  if (flow.station === 'beans' && steps.length > 0) return 'done';
  const passed = lastStation !== null && STATIONS.indexOf(flow.station) < STATIONS.indexOf(lastStation);
  return passed ? 'skipped' : 'ahead';
}

function barRange(
  mould: StationFlow,
  bars: number,
  input: FlowInput,
  finished: boolean,
): BatchFlow['barsExpected'] {
  if (finished || !input.barMg) return bars > 0 ? { low: bars, high: bars } : null;
  const more = (mg: number) => Math.max(0, Math.floor((mg - mould.outMg) / input.barMg!));
  const high = bars + more(mould.expected.highMg);
  return high > 0 ? { low: bars + more(mould.expected.lowMg), high } : null;
}
