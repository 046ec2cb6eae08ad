import { Scale } from 'lucide-react';
import { useState } from 'react';
import type { BatchView, Machine, ParcelRecord } from '@wunsch/contract';
import { ENTRY_STATION, type Station } from '@wunsch/core/ledger';
import { ApiProblem } from '../shell/api.ts';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { TextField } from '../ui/Field.tsx';
import { WeightPad } from '../ui/WeightPad.tsx';
import { useMayMake } from '../shell/session.tsx';
import { useWords } from '../words/words.tsx';
import { useSources, type TakeIn } from './work.ts';

/** What is about to be weighed in, what the pad begins with, and whether that is all there was and not a weight. */
interface Chosen {
  from: ParcelRecord;
  startMg: number | null;
  isAll?: boolean;
}

/** A suggested part as a scale is loaded to, mg: to ten grams, less than a kilogram to one; all there is stays what it is. */
export function weighable(mg: number, thereMg: number): number {
  const step = mg < 1e6 ? 1000 : 10_000;
  return mg === thereMg ? mg : Math.min(thereMg, Math.max(1, Math.round(mg / step)) * step);
}

/**
 * Weighing in: choose what goes in, all of it or a weighed part. `take` puts it into the open step, or begins one with it.
 */
export function WeighIn({
  view,
  station,
  title,
  take,
  suggestMg,
  holds,
  together = false,
  inMg = 0,
  startOpen = false,
  main = view.next.station === station,
}: {
  view: BatchView;
  station: Station;
  title: string;
  take: TakeIn;
  suggestMg?: number;
  /** What it goes into: more than that holds is asked about before it is taken. */
  holds?: Pick<Machine, 'name' | 'maxMg'> | null;
  /** Whether what the batch has in several parcels may be taken at once; `take` then has the further ones. */
  together?: boolean;
  /** What is in there already. */
  inMg?: number;
  startOpen?: boolean;
  /** Whether it is the page’s first thing to do; where nothing is said, while the batch goes on here. */
  main?: boolean;
}) {
  const words = useWords();
  const { t } = words;
  const mayMake = useMayMake();
  const { own, lots, others } = useSources(view, station);
  const [open, setOpen] = useState(startOpen);
  const [parcel, setParcel] = useState<Chosen | null>(null);
  const [held, setHeld] = useState<{
    parcel: ParcelRecord;
    massMg: number | null;
    also?: readonly ParcelRecord[];
  } | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  const weigh = async (
    from: ParcelRecord,
    massMg: number | null,
    override = '',
    also?: readonly ParcelRecord[],
  ) => {
    try {
      await take(from, massMg, override, also);
      setOpen(false);
      setParcel(null);
      setHeld(null);
    } catch (error) {
      if (error instanceof ApiProblem && error.problem.code === 'on-hold') {
        setParcel(null);
        setHeld({ parcel: from, massMg, also });
        return;
      }
      throw error;
    }
  };
  const overfull = (massMg: number) =>
    holds?.maxMg && inMg + massMg > holds.maxMg
      ? t('weigh.holds', {
          name: holds.name,
          max: words.mass(holds.maxMg),
          mass: words.mass(inMg + massMg),
        })
      : null;
  const takeAll = (from: ParcelRecord) => {
    if (overfull(from.remainingMg)) setParcel({ from, startMg: from.remainingMg, isAll: true });
    else weigh(from, null).catch((error: unknown) => setFailure(words.explain(error)));
  };
  const parts = together
    ? own.filter((p) => p.material === own[0]!.material && ENTRY_STATION[p.material] === station)
    : [];
  const partsMg = parts.reduce((sum, p) => sum + p.remainingMg, 0);
  const group = (name: string, parcels: readonly ParcelRecord[]) =>
    parcels.length > 0 && (
      <section className="mb-3">
        <h3 className="mb-1 text-[13px] text-ink-3">{name}</h3>
        <ul className="grid gap-2">
          {parcels.slice(0, 30).map((p) => (
            <li key={p.id} className="flex flex-wrap items-center gap-2 rounded border border-line p-2">
              <span className="min-w-0 grow">
                <span className="block font-semibold">
                  {p.batchCode ?? p.lotCode} {words.word('material', p.material)}
                  {p.onHold && <span className="ml-2 text-bad">▲ {t('on-hold')}</span>}
                </span>
                <span className="block text-[12px] text-ink-3">
                  {words.mass(p.remainingMg)} {p.label && p.label !== p.material ? `· ${p.label}` : ''} ·{' '}
                  {words.day(p.madeAt)}
                </span>
              </span>
              <Button data-first="" onClick={() => takeAll(p)}>
                {t('take.all', { mass: words.mass(p.remainingMg) })}
              </Button>
              <Button
                look={parts.length > 1 ? 'plain' : 'main'}
                onClick={() =>
                  setParcel({
                    from: p,
                    startMg:
                      suggestMg && suggestMg <= p.remainingMg ? weighable(suggestMg, p.remainingMg) : null,
                  })
                }
              >
                {t('take.part')}
              </Button>
            </li>
          ))}
        </ul>
      </section>
    );
  if (!mayMake) return null;
  if (view.batch.state !== 'open')
    return (
      <p className="text-[14px] text-ink-2">
        {t(view.batch.state === 'finished' ? 'weigh.finished' : 'weigh.over')}
      </p>
    );
  return (
    <>
      <Button
        look={main ? 'main' : 'plain'}
        big={main}
        {...{ [main ? 'data-key' : 'data-key-else']: 'w' }}
        icon={<Scale size={18} aria-hidden="true" />}
        onClick={() => setOpen(true)}
      >
        {title}
      </Button>
      {open && !parcel && !held && (
        <Dialog open onClose={() => setOpen(false)} title={title} description={t('take.hint')}>
          {failure && (
            <p role="alert" className="mb-2 text-bad">
              {failure}
            </p>
          )}
          {own.length + lots.length + others.length === 0 && (
            <p className="text-ink-2">{t('take.nothing')}</p>
          )}
          {parts.length > 1 && !overfull(partsMg) && (
            <Button
              look="main"
              big
              className="mb-3 w-full"
              data-first=""
              onClick={() =>
                void weigh(parts[0]!, null, '', parts.slice(1)).catch((error: unknown) =>
                  setFailure(words.explain(error)),
                )
              }
            >
              {t('take.together', { n: parts.length, mass: words.mass(partsMg) })}
            </Button>
          )}
          {group(t('take.own'), own)}
          {group(t('take.lots'), lots)}
          {group(t('take.others'), others)}
        </Dialog>
      )}
      {parcel && (
        <WeightPad
          title={title}
          description={`${words.word('material', parcel.from.material)}, ${t('there', { mass: words.mass(parcel.from.remainingMg) })}`}
          action={title}
          max={parcel.from.remainingMg}
          all={parcel.from.remainingMg}
          bulk={parcel.from.remainingMg}
          initial={parcel.startMg}
          doubt={overfull}
          onWeight={(mg) => weigh(parcel.from, parcel.isAll && mg === parcel.startMg ? null : mg)}
          onClose={() => setParcel(null)}
        />
      )}
      {held && (
        <HoldOverride
          lotCode={held.parcel.lotCode ?? ''}
          onClose={() => setHeld(null)}
          onGo={(why) => weigh(held.parcel, held.massMg, why, held.also)}
        />
      )}
    </>
  );
}

function HoldOverride({
  lotCode,
  onGo,
  onClose,
}: {
  lotCode: string;
  onGo: (why: string) => Promise<void>;
  onClose: () => void;
}) {
  const words = useWords();
  const { t } = words;
  const [why, setWhy] = useState('');
  const [error, setError] = useState<string | null>(null);
  return (
    <Dialog open onClose={onClose} title={t('hold.title', { lot: lotCode })} description={t('hold.text')}>
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          onGo(why).catch((failure: unknown) => setError(words.explain(failure)));
        }}
      >
        <TextField
          label={t('hold.why')}
          value={why}
          onChange={(e) => setWhy(e.target.value)}
          maxLength={200}
          required
          error={error}
          autoFocus
        />
        <Button type="submit" look="danger" big disabled={why.trim() === ''}>
          {t('hold.go')}
        </Button>
      </form>
    </Dialog>
  );
}
