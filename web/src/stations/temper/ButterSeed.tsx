import { Timer } from 'lucide-react';
import { useState } from 'react';
import type { ButterSeedMake, IngredientRecord, ParcelRecord, Supply } from '@wunsch/contract';
import { useRead } from '../../shell/door.tsx';
import { newId } from '../../shell/entry.ts';
import { useMayMake } from '../../shell/session.tsx';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { Button } from '../../ui/Button.tsx';
import { SelectField } from '../../ui/Field.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useWords } from '../../words/words.tsx';
import { WORK_STOCK } from '../../shell/workStock.ts';

/** Hours cocoa butter is usually held until all of its crystals are stable ones. */
const USUAL_HOURS = 18;

/** Made at once for so many bowls like this one: it keeps for weeks in the cool. */
const BOWLS = 4;

/** Butter that seed can be made of: deliveries of it, and what was pressed here. */
interface Butter {
  parcelId: string;
  name: string;
  remainingMg: number;
}

function useButters(): Butter[] {
  const words = useWords();
  const { data: shelf = [] } = useRead<IngredientRecord[]>('/api/ingredients');
  const { data: supplies = [] } = useRead<Supply[]>('/api/supplies');
  const { data: stock = [] } = useRead<ParcelRecord[]>(WORK_STOCK);
  const butters = new Set(shelf.filter((i) => i.cacao === 'butter').map((i) => i.id));
  return [
    ...supplies
      .filter((s) => s.remainingMg > 0 && s.ingredientId !== null && butters.has(s.ingredientId))
      .map((s) => ({
        parcelId: s.parcelId,
        name: [words.word('ingredient', s.name), s.supplier, words.day(s.receivedOn)]
          .filter(Boolean)
          .join(', '),
        remainingMg: s.remainingMg,
      })),
    ...stock
      .filter((p) => p.material === 'cocoa butter' && p.remainingMg > 0 && !p.onHold)
      .map((p) => ({
        parcelId: p.id,
        name: [p.label || words.word('material', p.material), words.day(p.madeAt)].join(', '),
        remainingMg: p.remainingMg,
      })),
  ];
}

/** Stable-butter seed that is there, and making some: butter held warm for most of a day, a parcel of its own, which rings when it should be a cream. */
export function ButterSeed({ usualMg }: { usualMg: number }) {
  const words = useWords();
  const { t } = words;
  const mayMake = useMayMake();
  const [making, setMaking] = useState(false);
  const { data: stock = [] } = useRead<ParcelRecord[]>(WORK_STOCK);
  const there = stock.filter((p) => p.material === 'cocoa butter' && p.remainingMg > 0 && !p.onHold);
  return (
    <div className="mt-3 border-t border-line pt-3 text-[13px]">
      {there.length > 0 ? (
        <ul aria-label={t('butter-seed.there')}>
          {there.map((p) => (
            <li key={p.id} className="flex justify-between gap-3 border-b border-line py-1">
              <span>
                {p.label || words.word('material', p.material)}, {words.when(p.madeAt)}
              </span>
              <span className="num">{words.mass(p.remainingMg)}</span>
            </li>
          ))}
        </ul>
      ) : (
        <p className="text-ink-2">{t('butter-seed.none')}</p>
      )}
      {mayMake && (
        <Button
          className="mt-2"
          icon={<Timer size={17} aria-hidden="true" />}
          onClick={() => setMaking(true)}
        >
          {t('butter-seed.make')}
        </Button>
      )}
      {making && <MakeDialog usualMg={usualMg} onClose={() => setMaking(false)} />}
    </div>
  );
}

function MakeDialog({ usualMg, onClose }: { usualMg: number; onClose: () => void }) {
  const words = useWords();
  const { t } = words;
  const send = useEntryHere();
  const butters = useButters();
  const [chosen, setChosen] = useState<string | null>(null);
  const [massMg, setMass] = useState<number | null>(usualMg > 0 ? usualMg * BOWLS : null);
  const [seconds, setSeconds] = useState<number | null>(USUAL_HOURS * 3600);
  const from = butters.find((b) => b.parcelId === chosen) ?? butters[0];
  const make = () =>
    send({
      path: `/api/butter-seeds/${newId()}`,
      body: {
        parcelId: from!.parcelId,
        massMg: massMg!,
        hours: seconds! / 3600,
        label: t('butter-seed'),
        ring: t('butter-seed.ready'),
        takenId: newId(),
        madeId: newId(),
        seedId: newId(),
        timerId: newId(),
      } satisfies ButterSeedMake,
      label: t('done.butter-seed', { mass: words.mass(massMg!) }),
      undo: true,
    });
  return (
    <FormDialog
      title={t('butter-seed.make')}
      description={t('butter-seed.how', { low: words.temperature(33, 0), high: words.temperature(34, 0) })}
      submit={t('butter-seed.begin')}
      isReady={from !== undefined && massMg !== null && seconds !== null}
      onSubmit={make}
      onClose={onClose}
    >
      {from === undefined ? (
        <p className="text-[13.5px] text-bad">{t('butter-seed.no-butter')}</p>
      ) : (
        <SelectField
          label={t('butter-seed.from')}
          value={from.parcelId}
          onChange={(e) => setChosen(e.target.value)}
        >
          {butters.map((b) => (
            <option key={b.parcelId} value={b.parcelId}>
              {b.name}: {words.mass(b.remainingMg)}
            </option>
          ))}
        </SelectField>
      )}
      <div className="grid gap-3 sm:grid-cols-2">
        <QuantityField
          label={t('butter-seed.mass')}
          dimension="mass"
          value={massMg}
          onChange={setMass}
          min={1000}
          max={from?.remainingMg}
        />
        <QuantityField
          label={t('butter-seed.hold')}
          dimension="duration"
          unit="h"
          value={seconds}
          onChange={setSeconds}
          min={3600}
          max={72 * 3600}
        />
      </div>
    </FormDialog>
  );
}
