import { useState } from 'react';
import type { CauseEstimatePut, FaultTableView } from '@wunsch/contract';
import { CHANCE_BETWEEN, CLUES, PRIOR_BETWEEN, SIGNS } from '@wunsch/core/faults';
import { newId } from '../shell/entry.ts';
import { useEntryHere } from '../shell/useEntryHere.ts';
import { SelectField } from '../ui/Field.tsx';
import { FormDialog } from '../ui/FormDialog.tsx';
import { QuantityField } from '../ui/QuantityField.tsx';
import { useWords } from '../words/words.tsx';
import { causeName } from './Causes.tsx';

type CauseOf = FaultTableView['causes'][number];
type Percents = readonly (readonly [string, number | null])[];

/** A chance that was just added, %. */
const ADDED = 50;

/** Figures one begins from: what the workshop said, or what is written. */
const startFrom = (
  of: readonly { name: string; written: number | null; own: number | null }[],
  isOwn: boolean,
): Percents =>
  of.flatMap(({ name, written, own }) => {
    const chance = isOwn ? own : written;
    return chance === null ? [] : [[name, Math.round(1000 * chance) / 10] as const];
  });

const asChances = (percents: Percents) =>
  Object.fromEntries(
    percents.flatMap(([name, percent]) => (percent === null ? [] : [[name, percent / 100]])),
  );

/** Saying how common a cause is in this workshop, and how often each sign and clue goes with it. */
export function CauseDialog({ of, onClose }: { of: CauseOf; onClose: () => void }) {
  const words = useWords();
  const { t } = words;
  const send = useEntryHere();
  const isOwn = of.by !== null;
  const [prior, setPrior] = useState<number | null>(of.prior.own ?? of.prior.written);
  const [signs, setSigns] = useState(() => startFrom(of.signs, isOwn));
  const [clues, setClues] = useState(() => startFrom(of.clues, isOwn));
  const save = () => {
    const body = {
      cause: of.cause,
      estimate: { prior: prior!, signs: asChances(signs), clues: asChances(clues) },
    } as CauseEstimatePut;
    return send({
      path: `/api/cause-estimates/${newId()}`,
      body,
      label: t('done.cause', { cause: causeName(of.cause, t) }),
      undo: true,
    });
  };
  return (
    <FormDialog
      title={causeName(of.cause, t)}
      description={t('causes.change.text')}
      submit={t('causes.keep')}
      isReady={prior !== null && signs.some(([, percent]) => percent !== null)}
      onSubmit={save}
      onClose={onClose}
      wide
    >
      <QuantityField
        label={t('causes.prior')}
        dimension="number"
        value={prior}
        onChange={setPrior}
        min={PRIOR_BETWEEN.least}
        max={PRIOR_BETWEEN.most}
        hint={t('causes.prior.hint', { written: words.number(of.prior.written ?? 0) })}
        className="sm:max-w-xs"
      />
      <ChanceFields
        title={t('causes.signs')}
        more={t('causes.signs.more')}
        all={SIGNS}
        nameOf={(name) => words.word('sign', name)}
        value={signs}
        onChange={setSigns}
      />
      <ChanceFields
        title={t('causes.clues')}
        more={t('causes.clues.more')}
        all={CLUES}
        nameOf={(name) => words.word('clue', `${name}.name`)}
        value={clues}
        onChange={setClues}
      />
    </FormDialog>
  );
}

/** Chances by name in per cent; an emptied one no longer counts, and others can be added. */
function ChanceFields({
  title,
  more,
  all,
  nameOf,
  value,
  onChange,
}: {
  title: string;
  more: string;
  all: readonly string[];
  nameOf: (name: string) => string;
  value: Percents;
  onChange: (value: Percents) => void;
}) {
  const others = all.filter((name) => !value.some(([known]) => known === name));
  return (
    <fieldset className="border-t border-line pt-2">
      <legend className="pr-2 text-[13px] font-medium text-ink-2">{title}</legend>
      <div className="grid items-end gap-3 sm:grid-cols-3">
        {value.map(([name, percent], k) => (
          <QuantityField
            key={name}
            label={nameOf(name)}
            dimension="percent"
            value={percent}
            onChange={(next) => onChange(value.map((v, i) => (i === k ? [name, next] : v)))}
            min={100 * CHANCE_BETWEEN.least}
            max={100 * CHANCE_BETWEEN.most}
            optional
          />
        ))}
        <SelectField
          label={more}
          value=""
          onChange={(e) => e.target.value && onChange([...value, [e.target.value, ADDED]])}
        >
          <option value="">–</option>
          {others.map((name) => (
            <option key={name} value={name}>
              {nameOf(name)}
            </option>
          ))}
        </SelectField>
      </div>
    </fieldset>
  );
}
