import type { Machine } from '@wunsch/contract';
import { checkCharge } from '@wunsch/core/grind';
import { Chip } from '../../ui/Panel.tsx';
import { useWords } from '../../words/words.tsx';

/** The charge against the machine's usable range, in words. */
export function ChargeCheck({ machine, massMg }: { machine: Machine | undefined; massMg: number }) {
  const words = useWords();
  if (!machine || massMg <= 0 || (machine.minMg === null && machine.maxMg === null)) return null;
  const fit = checkCharge(massMg, machine);
  const { minMg, maxMg, name } = machine;
  const range =
    maxMg === null
      ? words.t('charge.from', { min: words.mass(minMg ?? 0) })
      : minMg === null
        ? words.t('charge.to', { max: words.mass(maxMg) })
        : words.t('charge.between', { min: words.mass(minMg), max: words.mass(maxMg) });
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
