import { normalDraw, seededRandom, type Random } from '@wunsch/core/numerics';
import type { Initials } from './workshop.ts';

/** One entry as someone at Saltmarsh Row made it. */
export interface DemoEntry {
  kind: string;
  target: string;
  body: object;
  /** Epoch ms. */
  at: number;
  by: Initials;
}

/** Writes entries down with repeatable ids and chance. */
export class Scribe {
  readonly entries: DemoEntry[] = [];
  private readonly random: Random;

  constructor(seed: number) {
    this.random = seededRandom(seed);
  }

  /** A repeatable id. */
  id(): string {
    const hex = Array.from({ length: 32 }, () => Math.floor(this.random() * 16).toString(16));
    hex[12] = '4';
    hex[16] = '89ab'[Math.floor(this.random() * 4)]!;
    const s = hex.join('');
    return `${s.slice(0, 8)}-${s.slice(8, 12)}-${s.slice(12, 16)}-${s.slice(16, 20)}-${s.slice(20)}`;
  }

  /** A normal number with this mean and spread. */
  normal(mean: number, sd: number): number {
    return mean + sd * normalDraw(this.random);
  }

  /** One of a list. */
  pick<T>(list: readonly T[]): T {
    return list[Math.floor(this.random() * list.length)]!;
  }

  /** A weighing as a scale that reads to 2 g shows it, whole mg. */
  scale(mg: number): number {
    return Math.max(2000, Math.round(this.normal(mg, 1500) / 2000) * 2000);
  }

  write(kind: string, target: string, body: object, at: number, by: Initials): string {
    this.entries.push({ kind, target, body, at, by });
    return target;
  }
}
