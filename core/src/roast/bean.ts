import { requireAbove0, requireFinite } from '../numerics/index.ts';
import { BEAN_DEFAULTS, DRYING_LOG_SD, SHELLS } from './defaults.ts';

/** The facts of a bean that its warming depends on. */
export interface Bean {
  /** Radius of the sphere of equal volume, m. */
  radius: number;
  /** Mass of one bean at the start, kg. */
  mass: number;
  /** Moisture at the start, kg water per kg dry matter. */
  moisture: number;
  /** How far it may be from that, one standard deviation, kg/kg. */
  moistureSd: number;
  conductivity: number;
  heatCapacityDry: number;
  heatCapacityWater: number;
  heatOfDrying: number;
  /** 1/s at 120 °C; 0 switches drying off. */
  dryingRate: number;
  /** How far that may be off, one standard deviation of its logarithm. */
  dryingLogSd: number;
  /** Correlation of what is not known of the moisture and of the logarithm of the drying rate, −1 to 1. */
  dryingMoisture: number;
  dryingEnergy: number;
  equilibriumMoisture: number;
}

/** What a lot says of its beans. */
export interface BeanFacts {
  beansPer100g?: number | null;
  /** Wet basis, %, of the lot as it came. */
  moisture?: number | null;
  /** What of it goes in: the beans as they are where nothing is said. */
  form?: RoastForm;
}

/** What is roasted: whole beans as they came, nibs, or beans that were roasted before. */
export type RoastForm = 'beans' | 'nibs' | 'roasted';

/** Nibs give their water off faster than whole beans, without a shell and in smaller pieces: how many times, and the doubt of its logarithm; a guess. */
const NIBS = { faster: 1.6, logSd: 0.5 };

/** Water left in beans that were roasted before, and how far it may be from that, % wet basis; a guess. */
const ROASTED = { moisture: 2.5, sd: 1 };

/** Radius in m of the sphere with a bean's volume. 100 beans per 100 g at 1050 kg/m³ give 6.1 mm. */
export function beanRadius(beansPer100g: number, density: number = BEAN_DEFAULTS.density.value): number {
  requireAbove0(beansPer100g, 'the beans per 100 g');
  requireAbove0(density, 'a density');
  return Math.cbrt((3 * (0.1 / beansPer100g)) / density / (4 * Math.PI));
}

/** How far the beans of a load lie from a moisture that was measured when they came, and from the usual one; % wet basis, a guess. */
const MOISTURE_SD = { measured: 0.5, usual: 0.9 };

/**
 * A bean from a lot's facts, with defaults for what is not known. Nibs are warmed as the beans they are of, which is on the careful side for a kill
 * step; what they lose is told with more doubt.
 *
 * @throws RangeError for a moisture outside 0–60 % or a bean count not above 0
 */
export function makeBean(facts: BeanFacts = {}): Bean {
  const { form = 'beans' } = facts;
  const perHundred = facts.beansPer100g ?? BEAN_DEFAULTS.beansPer100g.value;
  const lot = (facts.moisture ?? BEAN_DEFAULTS.moisture.value) / 100;
  const wet = form === 'roasted' ? Math.min(lot, ROASTED.moisture / 100) : lot;
  if (!(lot >= 0 && lot < 0.6)) throw new RangeError('moisture is a share of the wet mass from 0 to 60 %');
  const measured = facts.moisture == null ? MOISTURE_SD.usual : MOISTURE_SD.measured;
  const sd = (form === 'roasted' ? ROASTED.sd : measured) / 100;
  return {
    radius: beanRadius(perHundred),
    mass: 0.1 / perHundred,
    moisture: wet / (1 - wet),
    moistureSd: sd / (1 - wet) ** 2,
    conductivity: BEAN_DEFAULTS.conductivity.value,
    heatCapacityDry: BEAN_DEFAULTS.heatCapacityDry.value,
    heatCapacityWater: BEAN_DEFAULTS.heatCapacityWater.value,
    heatOfDrying: BEAN_DEFAULTS.heatOfDrying.value,
    dryingRate: BEAN_DEFAULTS.dryingRate.value * (form === 'nibs' ? NIBS.faster : 1),
    dryingLogSd: form === 'nibs' ? NIBS.logSd : DRYING_LOG_SD,
    dryingMoisture: 0,
    dryingEnergy: BEAN_DEFAULTS.dryingEnergy.value,
    equilibriumMoisture: BEAN_DEFAULTS.equilibriumMoisture.value,
  };
}

/** How far the moisture of a load lies from that of its lot, one standard deviation, kg/kg; a guess. */
const LOAD_MOISTURE_SD = 0.0022;

/**
 * Beans of a load as they may be: drier or wetter, and drying faster or slower, than is thought of their lot.
 *
 * @param wetter a draw from the standard normal distribution
 * @param faster another, independent of it
 */
export function drawBean(bean: Bean, wetter: number, faster: number): Bean {
  requireFinite(wetter, 'a draw');
  requireFinite(faster, 'a draw');
  const sd = Math.hypot(bean.moistureSd, LOAD_MOISTURE_SD);
  const r = (bean.dryingMoisture * bean.moistureSd) / sd;
  return {
    ...bean,
    moisture: Math.max(0, bean.moisture + sd * wetter),
    dryingRate: bean.dryingRate * Math.exp(bean.dryingLogSd * (r * wetter + Math.sqrt(1 - r * r) * faster)),
  };
}

/** The bean cut into shells of equal thickness, from the core outwards. */
export interface Shells {
  count: number;
  /** Share of the bean's volume in each shell. */
  share: Float64Array;
  /** Radius of the middle of each shell, m. */
  radius: Float64Array;
  /** Heat conductance between shell i and i + 1, W/K. */
  between: Float64Array;
  /** Heat conductance from the middle of the outermost shell to the surface, W/K. */
  toSurface: number;
  /** Surface of the bean, m². */
  area: number;
}

/** Cuts a bean into shells. Throws RangeError for fewer than one. */
export function cutShells(bean: Bean, count: number = SHELLS): Shells {
  if (!(count >= 1)) throw new RangeError('at least one shell is needed');
  const { radius: R, conductivity: k } = bean;
  const d = R / count;
  const share = Float64Array.from({ length: count }, (_, i) => ((i + 1) ** 3 - i ** 3) / count ** 3);
  const radius = Float64Array.from({ length: count }, (_, i) => (i + 0.5) * d);
  // Conduction between two radii of a sphere: 4πk / (1/a − 1/b).
  const conductance = (a: number, b: number) => (4 * Math.PI * k) / (1 / a - 1 / b);
  const between = Float64Array.from({ length: count - 1 }, (_, i) => conductance(radius[i]!, radius[i + 1]!));
  return {
    count,
    share,
    radius,
    between,
    toSurface: conductance(radius[count - 1]!, R),
    area: 4 * Math.PI * R * R,
  };
}
