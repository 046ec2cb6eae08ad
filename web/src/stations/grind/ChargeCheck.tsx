import type { Machine } from '@wunsch/contract';
import { checkCharge } from '@wunsch/core/grind';
import { Chip } from '../../ui/Panel.tsx';
import { useWords } from '../../words/words.tsx';

/** The charge against the machine's usable range, in words. */
export function ChargeCheck({ machine, massMg }: { machine: Machine | undefined; massMg: number }) {
  const words = useWords();
  if (!machine || massMg === 0 || (machine.minMg === null && machine.maxMg === null)) return null;
  const fit = checkCharge(massMg, machine);
  const range = {
    min: words.mass(machine.minMg ?? 0),
    max: machine.maxMg ? words.mass(machine.maxMg) : '∞',
    name: machine.name,
  };
  return <Chip tone={fit === 'fits' ? 'ok' : 'bad'}>{words.t(`charge.${fit}`, range)}</Chip>;
}
