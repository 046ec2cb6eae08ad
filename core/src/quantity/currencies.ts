import { requireNotBelow0 } from '../numerics/index.ts';
import { minorDigits } from './money.ts';

/**
 * What a euro roughly comes to in the currencies people pay with, where cacao grows and where it is made into chocolate. Rounded, as of 2026, and only good
 * for this: that a price to begin with has the right number of digits. Those within a fifth of a euro count as one.
 */
const ROUGHLY_A_EURO: Readonly<Record<string, number>> = {
  AED: 4,
  ALL: 100,
  AMD: 440,
  AOA: 1050,
  ARS: 1650,
  AUD: 1.75,
  AZN: 2,
  BAM: 2,
  BBD: 2.3,
  BDT: 140,
  BHD: 0.43,
  BIF: 3400,
  BND: 1.5,
  BOB: 8,
  BRL: 6.2,
  BSD: 1.15,
  BWP: 15,
  BZD: 2.3,
  CAD: 1.6,
  CDF: 2600,
  CHF: 1,
  CLP: 1100,
  CNY: 8,
  COP: 4500,
  CRC: 580,
  CUP: 28,
  CVE: 110,
  CZK: 25,
  DKK: 7.5,
  DOP: 73,
  DZD: 150,
  EGP: 55,
  ETB: 175,
  EUR: 1,
  FJD: 2.6,
  GBP: 1,
  GEL: 3,
  GHS: 13,
  GMD: 83,
  GNF: 10_000,
  GTQ: 9,
  GYD: 240,
  HKD: 9,
  HNL: 30,
  HTG: 150,
  HUF: 390,
  IDR: 19_000,
  ILS: 4,
  INR: 100,
  ISK: 140,
  JMD: 185,
  JOD: 0.8,
  JPY: 170,
  KES: 150,
  KGS: 100,
  KHR: 4600,
  KMF: 490,
  KRW: 1650,
  KWD: 0.35,
  KZT: 600,
  LAK: 25_000,
  LKR: 350,
  LRD: 210,
  MAD: 11,
  MDL: 20,
  MGA: 5200,
  MKD: 62,
  MMK: 2400,
  MNT: 4100,
  MOP: 9,
  MUR: 53,
  MVR: 18,
  MWK: 2000,
  MXN: 21,
  MYR: 5,
  MZN: 74,
  NAD: 20,
  NGN: 1700,
  NIO: 42,
  NOK: 12,
  NPR: 160,
  NZD: 2,
  OMR: 0.44,
  PAB: 1.15,
  PEN: 4,
  PGK: 5,
  PHP: 67,
  PKR: 325,
  PLN: 4.3,
  PYG: 8200,
  QAR: 4,
  RON: 5,
  RSD: 117,
  RUB: 95,
  RWF: 1700,
  SAR: 4.3,
  SBD: 9.6,
  SCR: 16,
  SEK: 11,
  SGD: 1.5,
  SLE: 27,
  SRD: 45,
  STN: 25,
  THB: 38,
  TND: 3.4,
  TOP: 2.8,
  TRY: 48,
  TTD: 8,
  TWD: 36,
  TZS: 2850,
  UAH: 48,
  UGX: 4150,
  USD: 1,
  UYU: 46,
  UZS: 14_000,
  VES: 300,
  VND: 30_000,
  VUV: 140,
  WST: 3.2,
  XAF: 656,
  XCD: 3.1,
  XOF: 656,
  XPF: 120,
  ZAR: 20,
  ZMW: 26,
};

/** Currencies a workshop may reckon in, ISO 4217, in order of their codes. */
export const CURRENCIES: readonly string[] = Object.keys(ROUGHLY_A_EURO).sort();

/**
 * A usual amount in another currency, to begin with and be changed: two digits of it, in minor units. 0 where nobody knows what a euro comes to.
 *
 * @param euroCents the amount where it is paid in euros, cents
 * @throws RangeError for an amount below 0 or not finite
 */
export function usualMoney(euroCents: number, currency: string): number {
  requireNotBelow0(euroCents, 'an amount of money');
  const rate = ROUGHLY_A_EURO[currency];
  if (rate === undefined || euroCents === 0) return 0;
  if (rate === 1) return euroCents;
  const minor = (euroCents / 100) * rate * 10 ** minorDigits(currency);
  const place = 10 ** Math.max(0, Math.floor(Math.log10(minor)) - 1);
  return Math.max(1, Math.round(minor / place) * place);
}

/** Regions whose money is not called by their own two letters, ISO 3166-1. */
const SHARED_MONEY: Readonly<Record<string, string>> = {
  EUR: 'AD AT BE BG CY DE EE ES FI FR GR HR IE IT LT LU LV MC ME MT NL PT SI SK SM VA XK',
  USD: 'EC FM GU MH PR PW SV TL VI',
  CHF: 'LI',
  AUD: 'KI NR TV',
  XOF: 'BF BJ CI GW ML NE SN TG',
  XAF: 'CF CG CM GA GQ TD',
  XCD: 'AG DM GD KN LC VC',
  XPF: 'NC PF WF',
};

/** Where ovens and weather are read in °F, ISO 3166-1. */
const FAHRENHEIT = new Set('BS BZ FM GU KY LR MH PR PW US VI'.split(' '));

/** What a workshop of a region usually reckons in, to begin with and be changed. */
export interface RegionHabits {
  /** ISO 4217; null where none is known. */
  currency: string | null;
  temperatureUnit: '°C' | '°F';
}

/**
 * Money and degrees of a region. A currency's code begins with the letters of its region, ISO 4217, but for those that several share.
 *
 * @param region two letters, ISO 3166-1, such as `US`; anything else has no money and reads °C
 */
export function habitsOfRegion(region: string): RegionHabits {
  const shared = Object.entries(SHARED_MONEY).find(([, regions]) => regions.split(' ').includes(region));
  const own = region.length === 2 ? CURRENCIES.find((c) => c.startsWith(region)) : undefined;
  return {
    currency: shared?.[0] ?? own ?? null,
    temperatureUnit: FAHRENHEIT.has(region) ? '°F' : '°C',
  };
}
