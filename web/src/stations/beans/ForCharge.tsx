import type { Machine } from '@wunsch/contract';
import { neededForCharge, nibsFrom, type Undried } from '@wunsch/core/ferment';
import type { SharePrior } from '@wunsch/core/ledger';
import { useRead } from '../../shell/door.tsx';
import { useWords } from '../../words/words.tsx';

/** How much must be cut or bought wet for the smallest charge of the smallest grinder, and whether this is enough; nothing without a grinder. */
export function ForCharge({
  from,
  massMg,
  pods,
  toNibs,
}: {
  from: Undried;
  massMg: number;
  /** How many pods it came out of, or is; null where nobody counted. */
  pods: number | null;
  /** Yields of sorting, roasting and winnowing; the usual ones where left out. */
  toNibs?: readonly SharePrior[];
}) {
  const words = useWords();
  const { t } = words;
  const { data: machines } = useRead<Machine[]>('/api/machines');
  const smallest = (machines ?? [])
    .filter((m) => m.station === 'grind' && m.active && m.minMg)
    .sort((a, b) => a.minMg! - b.minMg!)[0];
  if (!smallest || massMg <= 0) return null;
  const need = neededForCharge(smallest.minMg!, from, toNibs);
  const nibs = nibsFrom(massMg, from, toNibs);
  const told = (mg: number) =>
    pods === null ? words.mass(Math.round(mg)) : words.number(Math.ceil((mg / massMg) * pods));
  return (
    <p className="mt-3 text-[12.5px] text-ink-3">
      {t(pods === null ? `charge.needs.${from}` : 'charge.needs.counted', {
        machine: smallest.name,
        mass: words.mass(smallest.minMg!),
        middle: told(need.meanMg),
        low: told(need.lowMg),
        high: told(need.highMg),
      })}{' '}
      {t(nibs.meanMg < smallest.minMg! ? 'charge.short' : 'charge.enough', {
        low: words.mass(Math.round(nibs.lowMg)),
        high: words.mass(Math.round(nibs.highMg)),
      })}
    </p>
  );
}
