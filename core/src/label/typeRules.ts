import type { Market } from '../recipe/index.ts';

/** How large type must be at least, with where it says so. Advisory: the local authority decides. */
export interface TypeRules {
  /** Height of a small x in everything mandatory, mm. */
  xHeightMm: number;
  /** Height of the digits of the net mass, mm. */
  netDigitsMm: number;
  source: string;
}

const INCH = 25.4;

/** European digits of the net mass by what is inside: up to so many g, mm. Directive 76/211/EEC, Annex I, 3.1. */
const EU_DIGITS: readonly (readonly [upToG: number, mm: number])[] = [
  [50, 2],
  [200, 3],
  [1000, 4],
  [Infinity, 6],
];

/** US digits of the net mass by the area of the face shown, square inches (21 CFR 101.7(i)), mm. */
const US_DIGITS: readonly (readonly [upToSquareInches: number, mm: number])[] = [
  [5, INCH / 16],
  [25, INCH / 8],
  [100, (3 * INCH) / 16],
  [400, INCH / 4],
  [Infinity, INCH / 2],
];

/**
 * The smallest type a label of this size may have. The label's own area stands for the package's, which the workshop knows better.
 *
 * @param areaMm2 area of the label
 */
export function typeRules(market: Market, areaMm2: number, netMg: number): TypeRules {
  if (market === 'US') {
    const squareInches = areaMm2 / INCH ** 2;
    return {
      xHeightMm: squareInches < 10 ? (3 * INCH) / 64 : INCH / 16,
      netDigitsMm: US_DIGITS.find(([upTo]) => squareInches <= upTo)![1],
      source: '21 CFR 101.2(c) and 101.7(i), as of 2024-04-01',
    };
  }
  return {
    xHeightMm: areaMm2 < 8000 ? 0.9 : 1.2,
    netDigitsMm: EU_DIGITS.find(([upTo]) => netMg / 1000 <= upTo)![1],
    source: 'Regulation (EU) 1169/2011, Art. 13, and Directive 76/211/EEC, Annex I',
  };
}
