import { normalDraw, seededRandom, type Random } from '../../numerics/index.ts';
import {
  adviseTrial,
  FACTOR_HABITS,
  fromSteps,
  toSteps,
  type Factor,
  type Setting,
  type Signal,
  type Trial,
} from '../index.ts';

/** Nobody gets further than this. */
const MOST_BATCHES = 25;

/** True liking this near to its best is dialled in, points. */
const NEAR = 0.3;

/** What is sought; the share of sugar is the maker’s to fix. */
const FACTORS = ['dose', 'acid', 'grit', 'conche'] as const satisfies readonly Factor[];

/** Factors of a batch, in steps. */
type Steps = Record<(typeof FACTORS)[number], number>;

const each = (of: (f: keyof Steps) => number): Steps =>
  Object.fromEntries(FACTORS.map((f) => [f, of(f)])) as Steps;

/**
 * A workshop whose beans, machines and tasters nobody knows: where its lots are best, what a step off costs, how its oven, mill and tongues
 * err, and what goes wrong now and then. Its figures come from wide ranges of its own, not from what the advice believes.
 */
export class HiddenWorkshop {
  private readonly random: Random;
  private readonly mean: Steps;
  private readonly curve: Steps;
  private readonly bias: Steps;
  private readonly shape: number;
  private readonly tasters: {
    by: string;
    offset: number;
    scale: number;
    drift: number;
    noise: number;
    words: number;
  }[];
  private readonly tasted: Record<Signal, Partial<Record<Factor, number>>>;
  private readonly lots = new Map<string, { best: Steps; top: number }>();
  private days = 0;

  constructor(seed: number) {
    this.random = seededRandom(seed);
    const z = () => normalDraw(this.random);
    const uniform = (low: number, high: number) => low + (high - low) * this.random();
    this.mean = each(() => uniform(-1.5, 1.5));
    this.curve = each(() => uniform(0.05, 0.3));
    this.bias = each(() => 0.4 * z());
    // Below 1 it falls off like a tent, above 2 like a table’s edge.
    this.shape = uniform(1.5, 2.4);
    this.tasters = Array.from({ length: 3 + Math.floor(3 * this.random()) }, (_, k) => ({
      by: `t${k}`,
      offset: 0.8 * z(),
      scale: Math.exp(0.2 * z()),
      drift: 0.01 * z(),
      noise: uniform(0.5, 1),
      words: uniform(0.5, 1.3),
    }));
    const about = (c: number) => c * Math.exp(0.35 * z());
    this.tasted = {
      sour: { dose: about(-0.45), acid: about(0.5), conche: about(-0.45) },
      bitter: { dose: about(0.5), conche: 0.1 * z() },
      sweet: { dose: 0.1 * z() },
      gritty: { grit: about(0.8) },
    };
  }

  private lot(lotId: string) {
    const known = this.lots.get(lotId);
    if (known) return known;
    const made = {
      best: each((f) => this.mean[f] + 0.8 * normalDraw(this.random)),
      top: 6 + 2.5 * this.random(),
    };
    this.lots.set(lotId, made);
    return made;
  }

  /** What setting it so loses, on the mean over what the hands do. */
  lossOf(lotId: string, setting: Setting): number {
    const { best } = this.lot(lotId);
    const sum = FACTORS.reduce((s, f) => {
      const off = Math.abs(toSteps(f, setting[f]!) + this.bias[f] - best[f]);
      return s + this.curve[f] * off ** this.shape;
    }, 0);
    return 4.5 * (1 - Math.exp(-sum / 4.5));
  }

  /** Where a lot is best, as its maker would set it. */
  bestSetting(lotId: string): Setting {
    const { best } = this.lot(lotId);
    return Object.fromEntries(FACTORS.map((f) => [f, fromSteps(f, best[f] - this.bias[f])])) as Setting;
  }

  /** Least that can be lost with settings that make sense. */
  leastLoss(lotId: string): number {
    return this.lossOf(lotId, this.bestSetting(lotId));
  }

  /** Makes a batch by a setting, a part of it otherwise where that is wanted, and has both tasted; they share their roast. */
  make(lotId: string, setting: Setting, split?: Setting): Trial[] {
    const z = () => normalDraw(this.random);
    this.days += 4;
    // Hands never do quite what was meant.
    const done = each((f) => toSteps(f, setting[f]!) + 0.25 * z());
    const accident = this.random() < 0.04 ? 1 + 2 * this.random() : 0;
    const parts = [done];
    if (split)
      parts.push(each((f) => (split[f] === setting[f] ? done[f] : toSteps(f, split[f]!) + 0.25 * z())));
    return parts.map((part) => this.taste(lotId, part, accident));
  }

  /** What is read of a batch and said of it. */
  private taste(lotId: string, done: Steps, accident: number): Trial {
    const z = () => normalDraw(this.random);
    const { best, top } = this.lot(lotId);
    // What is read is not quite what was.
    const read = Object.fromEntries(FACTORS.map((f) => [f, fromSteps(f, done[f] + 0.12 * z())])) as Setting;
    const off = each((f) => done[f] + this.bias[f] - best[f]);
    const sum = FACTORS.reduce((s, f) => s + this.curve[f] * Math.abs(off[f]) ** this.shape, 0);
    const deserved = top - 4.5 * (1 - Math.exp(-sum / 4.5)) - accident + 0.2 * z();
    const likings = this.tasters.map((t) => ({
      by: t.by,
      liking: Math.min(
        10,
        Math.max(0, 6 + t.scale * (deserved - 6) + t.offset + t.drift * this.days + t.noise * z()),
      ),
    }));
    const signals: Trial['signals'] = {};
    for (const signal of Object.keys(this.tasted) as Signal[]) {
      const strength = Object.entries(this.tasted[signal]).reduce(
        (s, [f, c]) => s + c * off[f as keyof Steps],
        0,
      );
      const said = this.tasters
        // Not everybody says something of everything.
        .filter(() => this.random() < 0.8)
        .map((t) => {
          const felt = strength + t.words * 0.7 * z();
          return felt > 0.55 ? 1 : felt < -0.55 ? -1 : 0;
        });
      if (said.length > 0)
        signals[signal] = {
          mean: said.reduce<number>((a, b) => a + b, 0) / said.length,
          tasters: said.length,
        };
    }
    return { lotId, setting: read, likings, signals };
  }
}

/** The next setting by some way of going about it, from all that was tasted. */
export type Way = (
  trials: readonly Trial[],
  lotId: string,
  made: readonly Setting[],
) => { setting: Setting; split?: Setting };

const USUAL = Object.fromEntries(FACTORS.map((f) => [f, FACTOR_HABITS[f].usual])) as Setting;

const liked = (t: Trial) => t.likings.reduce((s, l) => s + l.liking, 0) / t.likings.length;

/**
 * The trade’s rule of thumb: begin as usual, then change one thing by one step from the better of the last two: on in the same way while
 * that was better, else the other way, else the next thing.
 */
export function ruleOfThumb(): Way {
  let factor = 0;
  let way = 1;
  let turned = false;
  return (trials, lotId, made) => {
    const mine = trials.filter((t) => t.lotId === lotId);
    if (mine.length === 0) {
      [factor, way, turned] = [0, 1, false];
      return { setting: USUAL };
    }
    const [before, last] = [mine.at(-2), mine.at(-1)!];
    const isBetter = before === undefined || liked(last) >= liked(before);
    const base = isBetter ? made.at(-1)! : made.at(-2)!;
    if (!isBetter && !turned) {
      way = -way;
      turned = true;
    } else if (!isBetter) {
      factor = (factor + 1) % FACTORS.length;
      way = 1;
      turned = false;
    }
    const f = FACTORS[factor]!;
    return { setting: { ...base, [f]: fromSteps(f, toSteps(f, base[f]!) + way) } };
  };
}

/** Wunsch’s advice. */
export const byAdvice = (): Way => (trials, lotId) => {
  const { setting, split } = adviseTrial({ trials, lotId, factors: FACTORS });
  return { setting, ...(split && { split: { ...USUAL, ...setting, [split.factor]: split.to } }) };
};

/** Batches of a lot until what is set is within {@link NEAR} of its best; {@link MOST_BATCHES} where that never came. */
function batchesUntil(shop: HiddenWorkshop, lotId: string, before: readonly Trial[], way: Way): number {
  const trials = [...before];
  const made: Setting[] = [];
  const least = shop.leastLoss(lotId);
  for (let n = 1; n <= MOST_BATCHES; n += 1) {
    const next = way(trials, lotId, made);
    const setting = { ...USUAL, ...next.setting };
    made.push(setting);
    // Only what was meant for the whole batch counts, not its part.
    if (shop.lossOf(lotId, setting) - least <= NEAR) return n;
    trials.push(...shop.make(lotId, setting, next.split));
  }
  return MOST_BATCHES;
}

/** How two ways of going about it did in one workshop, with the same beans. */
export interface DialInRun {
  seed: number;
  /** Lots that had been dialled in before, by hand. */
  earlier: number;
  rule: number;
  advice: number;
}

/**
 * Dials in a new lot in one hidden workshop, by the rule of thumb and by advice. Up to four lots were made before, by the rule; both know
 * their tastings, as the maker’s memory or the workshop’s record.
 */
export function dialInOnce(seed: number): DialInRun {
  const build = () => {
    const shop = new HiddenWorkshop(seed);
    const trials: Trial[] = [];
    const earlier = seed % 5;
    for (let l = 0; l < earlier; l += 1) {
      const way = ruleOfThumb();
      const made: Setting[] = [];
      for (let n = 0; n < 5; n += 1) {
        const { setting } = way(trials, `old ${l}`, made);
        made.push(setting);
        trials.push(...shop.make(`old ${l}`, setting));
      }
    }
    return { shop, trials, earlier };
  };
  const [a, b] = [build(), build()];
  return {
    seed,
    earlier: a.earlier,
    rule: batchesUntil(a.shop, 'new', a.trials, ruleOfThumb()),
    advice: batchesUntil(b.shop, 'new', b.trials, byAdvice()),
  };
}

/** How often what is believed of a lot after some batches holds what is so. */
export interface DialInCalibration {
  /** Share of four-fifths ranges, of all factors, that hold the true best setting. */
  ranges: number;
  /** Mean chance of being near enough that was given, and how often that was so. */
  nearGiven: number;
  nearHeld: number;
  of: number;
}

/** Measures what advice believes against what is hidden, after each of some batches made by it. */
export function dialInCalibration(seeds: readonly number[], batches = 4): DialInCalibration {
  let [inside, asked, given, held, of] = [0, 0, 0, 0, 0];
  for (const seed of seeds) {
    const shop = new HiddenWorkshop(seed);
    const trials: Trial[] = [];
    for (let n = 1; n <= batches; n += 1) {
      const { setting, split } = byAdvice()(trials, 'new', []);
      trials.push(...shop.make('new', { ...USUAL, ...setting }, split));
      const { believed, near, tried } = adviseTrial({ trials, lotId: 'new', factors: FACTORS });
      const best = shop.bestSetting('new');
      for (const f of FACTORS) {
        const range = believed[f]!;
        inside += Number(best[f]! >= range.low && best[f]! <= range.high);
        asked += 1;
      }
      const chosen = tried.find((t) => t.isBest)!.setting;
      given += near;
      held += Number(shop.lossOf('new', { ...USUAL, ...chosen }) - shop.leastLoss('new') <= NEAR);
      of += 1;
    }
  }
  return { ranges: inside / asked, nearGiven: given / of, nearHeld: held / of, of };
}
