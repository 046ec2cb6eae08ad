import { requireAbove0, requireBetween, requireFinite } from '../numerics/index.ts';
import { dryMatter, dryMisfit, moistureByMass, type DryStart, type DryWeighing } from './dry.ts';

/** A weighing as it was kept: with the moisture a meter or an oven showed of the same beans, % wet basis, where one did. */
export interface KeptWeighing extends DryWeighing {
  moisture: number | null;
}

/** A drying as its weighings tell it; without one measured moisture that holds only which weighings cannot be. */
export type FollowedDrying<W extends KeptWeighing = KeptWeighing> =
  | { isKnown: false; misweighed: W[] }
  | ({ isKnown: true } & KnownDrying<W>);

/** A drying whose moisture is known. */
export interface KnownDrying<W extends KeptWeighing = KeptWeighing> {
  /** The first weighing that holds, with the moisture it had by all that was measured; its hour is 0. */
  start: DryStart;
  dry: number;
  /** Weighings that hold, hours since `start`, the first at 0. */
  weighings: { hours: number; mass: number; moisture: number; of: W }[];
  /** Mistyped or misread ones. */
  misweighed: W[];
  /** The last measured moisture where it contradicts the ones before it: that, and what the scale makes of those. */
  contradicts: { measured: number; byMass: number } | null;
}

/**
 * What a measured moisture may be off by, points: of wet beans, where most know no better than tables do, and of dry ones, which meters are
 * made for.
 */
const METER = { wetAbove: 20, wetU: 3, dryU: 0.7 } as const;

/** Measured moistures contradict each other from so many standard uncertainties on. */
const CONTRADICTS = 2.5;

/** Dew and rain may add so much to a bed from one weighing to the next, as a factor; more is a mistake. */
const WETTER = 1.2;

/** A weighing is named where the others are so much likelier without it, as a logarithm: nearly five of its standard uncertainties. */
const LIKELIER = 12;

/** Of the water there was, at least this share of what should be left must be left, or the last weighing is a mistake. */
const LEAST_SHARE = 0.3;

/** A bed in full sun dries off so much of its water in an hour, as a logarithm. */
const NOON = 0.06;

/** Fewer weighings than this contradict nobody. */
const LEAST = 3;

const meterU = (moisture: number) => (moisture > METER.wetAbove ? METER.wetU : METER.dryU);

/** Dry matter by one measured moisture, and what it may be off by. */
function measuredDry({ mass, moisture }: DryStart): { dry: number; u: number } {
  return { dry: dryMatter({ mass, moisture }), u: (mass * meterU(moisture)) / 100 };
}

/**
 * Follows a drying by all that was weighed and measured: the dry matter is taken from every measured moisture, each counting by how well
 * it can be known (one point at 8 % tells more than three at 55 %), so that a meter read on the last day puts the whole curve right, and
 * weighings before the first measured moisture count too. Weighings that beans cannot have had are left out and named.
 *
 * @param weighings in order of time
 * @throws RangeError for masses that are not above 0, hours that are no numbers, or moistures outside 0 to below 100 %
 */
export function followDrying<W extends KeptWeighing>(weighings: readonly W[]): FollowedDrying<W> {
  for (const w of weighings) {
    requireAbove0(w.mass, 'the mass of a weighing');
    requireFinite(w.hours, 'the hour of a weighing');
    if (w.moisture !== null) requireBetween(w.moisture, 0, 99.9, 'a measured moisture');
  }
  let kept: readonly W[] = outOfScale(weighings);
  for (;;) {
    const told = tell(kept);
    const wrong = told && mistaken(told.start, told.weighings);
    if (wrong === null) {
      const misweighed = weighings.filter((w) => !kept.includes(w));
      if (told === null) return { isKnown: false, misweighed };
      return { isKnown: true, ...told, misweighed, contradicts: contradiction(kept) };
    }
    kept = kept.filter((w) => w !== wrong);
  }
}

/** Without those that are far from what the weighings around them agree on: a nought too many or few, whatever the moisture. */
function outOfScale<W extends KeptWeighing>(weighings: readonly W[]): readonly W[] {
  if (weighings.length < LEAST) return weighings;
  const masses = weighings.map((w) => w.mass).sort((a, b) => a - b);
  const middle = masses[Math.floor(masses.length / 2)]!;
  // From wet to dry beans lose at most four fifths.
  return weighings.filter((w) => w.mass < 5 * middle && w.mass > middle / 5);
}

/** Start, dry matter and moistures by what was measured; null where nothing was. */
function tell<W extends KeptWeighing>(
  kept: readonly W[],
): Pick<KnownDrying<W>, 'start' | 'dry' | 'weighings'> | null {
  const [first] = kept;
  const measured = kept.flatMap((w) =>
    w.moisture === null ? [] : measuredDry({ ...w, moisture: w.moisture }),
  );
  if (!first || measured.length === 0) return null;
  const weight = measured.reduce((sum, m) => sum + 1 / m.u ** 2, 0);
  const dry = measured.reduce((sum, m) => sum + m.dry / m.u ** 2, 0) / weight;
  return {
    dry,
    start: { mass: first.mass, moisture: Math.max(0, 100 * (1 - dry / first.mass)) },
    weighings: kept.map((w) => ({
      hours: w.hours - first.hours,
      mass: w.mass,
      moisture: 100 * (1 - dry / w.mass),
      of: w,
    })),
  };
}

/** One weighing beans cannot have had, the least likely of them; null where there is none. */
function mistaken<W extends KeptWeighing>(start: DryStart, weighings: KnownDrying<W>['weighings']): W | null {
  const [first, ...later] = weighings;
  if (!first) return null;
  // All that came after it are heavier than dew can make them: the first is the one.
  if (later.length >= 2 && later.every((w) => w.mass > WETTER * first.mass)) return first.of;
  const dry = dryMatter(start);
  // What grows by more than dew at the end is wrong itself, and what a meter said with it.
  const [last, ...before] = weighings.slice(-LEAST).reverse();
  if (before.length === LEAST - 1 && before.every((w) => last!.mass > WETTER * w.mass)) return last!.of;
  const below = weighings.filter((w) => w.mass <= dry);
  // Several that weigh less than the dry matter are not all wrong: the measurement is that made so much of it.
  if (below.length > 1) return driest(weighings);
  if (below[0]) return below[0].of;
  if (weighings.length < LEAST) return later.find((w) => w.mass > WETTER * first.mass)?.of ?? null;
  const together = dryMisfit(start, later);
  let best: { at: number; gain: number } | null = null;
  for (let i = 0; i < later.length; i += 1) {
    const gain = together - dryMisfit(start, later.toSpliced(i, 1));
    if (gain > (best?.gain ?? LIKELIER) && isImpossible(weighings, i + 1, dry)) best = { at: i, gain };
  }
  return best === null ? null : later[best.at]!.of;
}

/** The measured weighing by which there would be the most dry matter. */
function driest<W extends KeptWeighing>(weighings: KnownDrying<W>['weighings']): W | null {
  const measured = weighings.flatMap(({ of }) => (of.moisture === null ? [] : [of]));
  const dryOf = ({ mass, moisture }: W) => mass * (1 - moisture! / 100);
  return measured.length === 0 ? null : measured.reduce((a, b) => (dryOf(b) > dryOf(a) ? b : a));
}

/** Heavier than what came before it by more than dew, lighter than what came after it by as much, or dried at the end as no bed does. */
function isImpossible(weighings: KnownDrying['weighings'], i: number, dry: number): boolean {
  const [before, here, after] = [weighings[i - 1], weighings[i]!, weighings[i + 1]];
  if (before && here.mass > WETTER * before.mass) return true;
  if (after) return after.mass > WETTER * here.mass;
  if (!before) return false;
  const water = (w: { mass: number }) => Math.max(w.mass - dry, 0.01 * dry);
  // As fast as it ever dried, or as beds do at noon, carried on over the hours since.
  const fastest = weighings
    .slice(1, i)
    .reduce(
      (most, w, n) =>
        Math.max(
          most,
          Math.log(water(weighings[n]!) / water(w)) / Math.max(1, w.hours - weighings[n]!.hours),
        ),
      NOON,
    );
  const least = LEAST_SHARE * water(before) * Math.exp(-fastest * (here.hours - before.hours));
  return water(here) < least && before.mass - here.mass > 0.1 * dry;
}

/** The last measured moisture where those before it, carried on by the scale, say something else. */
function contradiction(kept: readonly KeptWeighing[]): KnownDrying['contradicts'] {
  const measured = kept.flatMap((w) => (w.moisture === null ? [] : [{ ...w, moisture: w.moisture }]));
  const last = measured.at(-1);
  if (!last || measured.length < 2) return null;
  const earlier = measured.slice(0, -1).map(measuredDry);
  const weight = earlier.reduce((sum, m) => sum + 1 / m.u ** 2, 0);
  const dry = earlier.reduce((sum, m) => sum + m.dry / m.u ** 2, 0) / weight;
  const u = Math.hypot(1 / Math.sqrt(weight), measuredDry(last).u);
  if (Math.abs(dry - measuredDry(last).dry) <= CONTRADICTS * u) return null;
  return { measured: last.moisture, byMass: last.mass > dry ? moistureByMass(last.mass, dry) : 0 };
}
