import { useMemo, useState } from 'react';
import type { LotView, PickingRecord } from '@wunsch/contract';
import {
  dryNotes,
  DRY_TARGET,
  followDrying,
  forecastDrying,
  type DryLaw,
  type DryNote,
} from '@wunsch/core/ferment';
import { useRead } from '../../shell/door.tsx';
import { useNow } from '../../shell/now.ts';
import { Button } from '../../ui/Button.tsx';
import { Choice } from '../../ui/Field.tsx';
import { Chip, Figure, Panel } from '../../ui/Panel.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useDraft } from '../../shell/useDraft.ts';
import { useWords, type Words } from '../../words/words.tsx';
import { PutRight } from '../PutRight.tsx';
import { DriedDialog } from './DriedDialog.tsx';
import { DryingChart } from './DryingChart.tsx';
import { expectedYields, TO_NIBS } from './expected.ts';
import { ForCharge } from './ForCharge.tsx';
import { notesOf, useLotWork } from './useLot.ts';

const HOUR = 3_600_000;

/** Weighed longer ago than this beans have dried on, h. */
const FRESH_H = 1;

/** Drying by weighing: the moisture now from the scale alone, and the hours still to go. */
export function DryingPanel({ view, mayMake }: { view: LotView; mayMake: boolean }) {
  const words = useWords();
  const { t } = words;
  const now = useNow(60_000);
  const [law, setLaw] = useState<DryLaw>('lewis');
  const [finishing, setFinishing] = useState(false);
  const drying = useMemo(() => follow(notesOf(view, 'drying')), [view]);
  const forecast = useMemo(() => (drying.isKnown ? forecastDrying({ ...drying, law }) : null), [drying, law]);
  const began = drying.isKnown ? drying.weighings[0]!.of.at : null;
  const nowHours = began === null ? 0 : (now - Date.parse(began)) / HOUR;
  const weighed = drying.isKnown ? drying.weighings.at(-1)! : null;
  const last = weighed?.moisture ?? null;
  // What was weighed long ago is not what is there now.
  const isOld = weighed !== null && nowHours - weighed.hours > FRESH_H;
  const expected = isOld && forecast?.ok ? forecast.at(nowHours) : null;
  return (
    <Panel title={t('dry.title')} aside={t('dry.left', { target: DRY_TARGET })}>
      {!drying.isKnown || !forecast ? (
        <p className="text-ink-3">{t('dry.first')}</p>
      ) : (
        <>
          <div className="mb-3 flex flex-wrap gap-6">
            <Figure
              name={t(isOld && !expected ? 'dry.weighed' : 'dry.now')}
              note={
                expected
                  ? t('dry.now.expected', {
                      low: words.number(expected.low, 1),
                      high: words.number(expected.high, 1),
                      moisture: words.number(last ?? 0, 1),
                      when: words.when(weighed!.of.at),
                    })
                  : isOld
                    ? words.when(weighed!.of.at)
                    : undefined
              }
            >{`${words.number(expected?.median ?? last ?? 0, 1)} %`}</Figure>
            {forecast.ok ? (
              <Figure
                name={t('dry.left', { target: DRY_TARGET })}
                note={
                  Number.isFinite(forecast.toTarget.high)
                    ? t('dry.left.range', {
                        low: words.number(Math.max(0, forecast.toTarget.low - nowHours)),
                        high: words.number(Math.max(0, forecast.toTarget.high - nowHours)),
                      })
                    : t('dry.left.never')
                }
              >
                {Number.isFinite(forecast.toTarget.median)
                  ? `${words.number(Math.max(0, forecast.toTarget.median - nowHours))} h`
                  : '—'}
              </Figure>
            ) : (
              <p className="self-end text-ink-3">{t('dry.needs', { n: forecast.needs })}</p>
            )}
            <Choice
              label={t('dry.law')}
              value={law}
              onChange={setLaw}
              options={(['lewis', 'page'] as const).map((l) => ({ value: l, label: t(`dry.law.${l}`) }))}
            />
          </div>
          {drying.contradicts && (
            <p role="status" className="mb-2 text-[13.5px] text-warn">
              {t('dry.contradicts', {
                measured: words.number(drying.contradicts.measured, 1),
                byMass: words.number(drying.contradicts.byMass, 1),
              })}
            </p>
          )}
          <p className="flex flex-wrap gap-2">
            {dryNotes(drying.weighings, undefined, forecast).map((n) => (
              <Chip key={n.code} tone={n.code === 'target-reached' ? 'ok' : 'bad'}>
                {noteText(n, nowHours - (weighed?.hours ?? 0), words)}
              </Chip>
            ))}
          </p>
          <DryingChart weighings={drying.weighings} forecast={forecast} nowHours={nowHours} />
        </>
      )}
      {drying.misweighed.map(({ of }) => (
        <Misweighed key={of.id} view={view} weighing={of} mayMake={mayMake} />
      ))}
      {mayMake && view.lot.remainingMg > 0 && (
        <>
          <Weighing view={view} />
          <Button className="mt-3" onClick={() => setFinishing(true)}>
            {t('dry.finish')}
          </Button>
        </>
      )}
      <Charge view={view} />
      {finishing && (
        <DriedDialog view={view} moisture={expected?.median ?? last} onClose={() => setFinishing(false)} />
      )}
    </Panel>
  );
}

/** What to look out for, in words; what is to come is told from now on, so many hours after the last weighing. */
function noteText(note: DryNote, gone: number, words: Words): string {
  const { t } = words;
  switch (note.code) {
    case 'mould-risk':
      return t('dry.note.mould-risk', { days: words.number(note.days, 1) });
    case 'mould-ahead': {
      const [left, chance] = [note.hours - gone, words.chance(note.chance)];
      return left >= 0.5
        ? t('dry.note.mould-ahead', { hours: words.number(left, 0), chance })
        : t('dry.note.mould-by-now', { chance });
    }
    default:
      return t(`dry.note.${note.code}`, { moisture: words.number(note.moisture, 1) });
  }
}

type Weighed = ReturnType<typeof notesOf<'drying'>>[number];

/** A drying by its weighings, and each of them with the entry it was kept as. */
const follow = (weighings: readonly Weighed[]) =>
  followDrying(
    weighings.map((w) => ({
      hours: Date.parse(w.at) / HOUR,
      mass: w.data.massMg,
      moisture: w.data.moisture,
      of: w,
      at: w.at,
    })),
  );

/** A weighing beans cannot have had: named, left out, and put right here. */
function Misweighed({ view, weighing, mayMake }: { view: LotView; weighing: Weighed; mayMake: boolean }) {
  const words = useWords();
  const { t } = words;
  const work = useLotWork(view.lot);
  return (
    <PutRight
      text={t(weighing.data.moisture === null ? 'dry.misweighed' : 'dry.mismeasured', {
        mass: words.mass(weighing.data.massMg),
        moisture: words.number(weighing.data.moisture ?? 0, 1),
        when: words.when(weighing.at),
      })}
      label={t('dry.misweighed.was')}
      submit={t('dry.misweighed.correct')}
      field={{ dimension: 'mass', unit: words.heavyUnit, min: 1000, max: 1e10 }}
      may={mayMake}
      onRight={(massMg) =>
        work.note(
          { ...weighing.data, massMg },
          t('done.drying', { code: view.lot.code, mass: words.mass(massMg) }),
          weighing,
        )
      }
    />
  );
}

function Weighing({ view }: { view: LotView }) {
  const words = useWords();
  const { t } = words;
  const work = useLotWork(view.lot);
  const { draft, change, keep } = useDraft<{ massMg: number | null; moisture: number | null }>({
    massMg: null,
    moisture: null,
  });
  const { massMg, moisture } = draft;
  return (
    <form
      className="mt-3 flex flex-wrap items-end gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        if (massMg === null) return;
        void keep(() =>
          work.note(
            { kind: 'drying', massMg, moisture, note: '' },
            t('done.drying', { code: view.lot.code, mass: words.mass(massMg) }),
          ),
        );
      }}
    >
      <QuantityField
        label={t('dry.mass')}
        dimension="mass"
        unit={words.heavyUnit}
        value={massMg}
        onChange={(next) => change({ massMg: next })}
        min={1000}
        max={1e10}
        className="w-40"
      />
      <QuantityField
        label={t('dry.moisture')}
        dimension="percent"
        value={moisture}
        onChange={(next) => change({ moisture: next })}
        min={0}
        max={90}
        optional
        className="w-44"
      />
      <Button type="submit" look="main" disabled={massMg === null}>
        {t('dry.take')}
      </Button>
    </form>
  );
}

/** Whether what came in reaches a charge of nibs; counted in pods where it was picked by the pod. */
function Charge({ view }: { view: LotView }) {
  const { id, material, arrivedMg, remainingMg } = view.lot;
  const { data: pickings } = useRead<PickingRecord[]>('/api/pickings');
  if ((material !== 'pods' && material !== 'wet beans') || remainingMg === 0) return null;
  const pods = (pickings ?? []).filter((p) => p.lotId === id).reduce((sum, p) => sum + p.pods, 0);
  return (
    <ForCharge
      from={material}
      massMg={arrivedMg}
      pods={pods > 0 ? pods : null}
      toNibs={expectedYields(view, TO_NIBS)}
    />
  );
}
