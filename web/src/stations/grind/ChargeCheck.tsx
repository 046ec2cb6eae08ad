import type { Machine } from '@wunsch/contract';
import { checkCharge } from '@wunsch/core/grind';
import { Chip } from '../../ui/Panel.tsx';
import { useWords } from '../../words/words.tsx';
import { chargeRange } from './chargeRange.ts';

/** The charge against the machine's usable range, in words. */
export function ChargeCheck({ machine, massMg }: { machine: Machine | undefined; massMg: number }) {
  const words = useWords();
  const range = machine ? chargeRange(machine, words) : '';
  if (!machine || massMg <= 0 || !range) return null;
  const fit = checkCharge(massMg, machine);
  const { minMg, maxMg, name } = machine;
  return (
    <Chip tone={fit === 'fits' ? 'ok' : 'bad'}>
      {words.t(`charge.${fit}`, {
        range,
        name,
        min: words.mass(minMg ?? 0),
        max: words.mass(maxMg ?? 0),
      })}
    </Chip>
  );
}
