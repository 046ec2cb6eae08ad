import { normalCdf, normalQuantile } from '../numerics/index.ts';
import type { PlanBatch } from './room.ts';

/** Batches of which bars go to the same people: what is expected of them together, how uncertain that is, and what is promised of it. */
export interface Pool {
  batches: string[];
  bars: number;
  variance: number;
  promised: number;
}

/** A batch by itself, of which nothing is promised yet; `sd` is how far its bars are off, in bars. */
const poolOf = (batch: string, bars: number, sd: number): Pool => ({
  batches: [batch],
  bars,
  variance: sd ** 2,
  promised: 0,
});

/** A batch on its way by itself: its bars lie within their range in four of five cases; where nobody says one they are sure. */
export const onItsWay = ({ id, bars, barsWithin: w }: Pick<PlanBatch, 'id' | 'bars' | 'barsWithin'>): Pool =>
  poolOf(id, bars, w ? (w.high - w.low) / (2 * normalQuantile(0.9)) : 0);

/** A batch to be made by itself; `spread` is how far its bars are off, in shares of them. */
export const toBeMade = ({ key, bars, spread }: { key: string; bars: number; spread: number }): Pool =>
  poolOf(key, bars, bars * spread);

/** Adds pools to the first of them, each but once, and gives it back; null of none. */
export function joined(pools: readonly Pool[]): Pool | null {
  const [first, ...others] = [...new Set(pools)];
  if (!first) return null;
  for (const { batches, bars, variance, promised } of others) {
    first.batches.push(...batches);
    first.bars += bars;
    first.variance += variance;
    first.promised += promised;
  }
  return first;
}

/** Bars expected beyond those promised; what is expected of each batch is told in whole bars, rounded down. */
const beyond = ({ batches, bars, promised }: Pool) => bars + batches.length / 2 - promised;

/** Chance that a pool gives what is promised of it, 0–1: batches come out well or badly each for itself, by a normal sum. */
export const chanceOf = (pool: Pool): number =>
  pool.variance > 0 ? normalCdf(beyond(pool) / Math.sqrt(pool.variance)) : Number(pool.promised <= pool.bars);

/** Bars that a pool lacks to give what is promised of it so surely, 0–1; 0 where it does. */
export const lackingOf = (pool: Pool, sure: number): number =>
  chanceOf(pool) >= sure ? 0 : Math.ceil(normalQuantile(sure) * Math.sqrt(pool.variance) - beyond(pool));
