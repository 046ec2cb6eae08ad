import { ChevronRight } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import type { FaultTableView } from '@wunsch/contract';
import { newId } from '../shell/entry.ts';
import { useRead } from '../shell/door.tsx';
import { useSession } from '../shell/session.tsx';
import { useEntryHere } from '../shell/useEntryHere.ts';
import { Button } from '../ui/Button.tsx';
import { Chip, Panel } from '../ui/Panel.tsx';
import { useWords } from '../words/words.tsx';
import { CauseDialog } from './CauseDialog.tsx';
import { causeName } from './Causes.tsx';

type CauseOf = FaultTableView['causes'][number];

/** What the odds of causes rest on: how common each is and how it shows, as written, as the workshop says, and as its cases have moved it. */
export default function CauseTablePage() {
  const words = useWords();
  const { t } = words;
  const { data } = useRead<FaultTableView>('/api/fault-table');
  const [changing, setChanging] = useState<CauseOf | null>(null);
  const most = data ? Math.max(...data.causes.map((c) => Math.max(c.share, c.writtenShare))) : 1;
  return (
    <div className="mx-auto grid max-w-5xl gap-2 p-3 sm:px-4">
      <p>
        <Link
          to="/ledger?sheet=cases"
          className="inline-flex min-h-11 items-center underline underline-offset-4"
        >
          {t('cases')}
        </Link>
      </p>
      <h1 className="text-[26px]">{t('causes.title')}</h1>
      <p className="max-w-prose text-[14px] text-ink-2">{t('causes.text')}</p>
      {!data ? (
        <p className="text-ink-3">{t('loading')}</p>
      ) : (
        <Panel title={t('causes.common')} aside={t('causes.learned', { n: data.learnedFrom })}>
          <p className="mb-2 text-[13px] text-ink-3">
            {t('causes.legend', { unknown: words.percent(data.unknownShare, 0) })}
          </p>
          <ul>
            {data.causes.map((c) => (
              <CauseRow key={c.cause} of={c} most={most} onChange={() => setChanging(c)} />
            ))}
          </ul>
        </Panel>
      )}
      {changing && <CauseDialog of={changing} onClose={() => setChanging(null)} />}
    </div>
  );
}

function CauseRow({ of, most, onChange }: { of: CauseOf; most: number; onChange: () => void }) {
  const words = useWords();
  const { t } = words;
  const isOwner = useSession().person.role === 'owner';
  const send = useEntryHere();
  const back = () =>
    void send({
      path: `/api/cause-estimates/${newId()}`,
      body: { cause: of.cause, estimate: null },
      label: t('done.cause.back', { cause: causeName(of.cause, t) }),
      undo: true,
    }).catch(() => undefined);
  return (
    <li className="border-b border-line last:border-0">
      <details className="group">
        <summary className="grid min-h-11 cursor-pointer grid-cols-[minmax(0,1fr)_auto] items-center gap-x-4 py-1 text-[14px] sm:grid-cols-[minmax(0,1.6fr)_minmax(0,1fr)_3.5rem]">
          <span className="flex items-center gap-2">
            <ChevronRight
              size={16}
              aria-hidden="true"
              className="shrink-0 text-ink-3 group-open:rotate-90 motion-safe:transition-transform"
            />
            {causeName(of.cause, t)}
            {of.by && <Chip>{t('causes.yours')}</Chip>}
          </span>
          <Share share={of.share} written={of.writtenShare} most={most} />
          <span className="num text-right">{words.percent(of.share, of.share < 0.1 ? 1 : 0)}</span>
        </summary>
        <div className="pb-3 pl-6 text-[13.5px]">
          <p className="text-ink-2">
            {t(`station.${of.station}`)}, {t('causes.cases', { n: of.cases })}
            {of.by && of.at && `; ${t('causes.said', { by: of.by, when: words.day(of.at) })}`}
          </p>
          <div className="mt-2 grid gap-x-8 gap-y-3 sm:grid-cols-2">
            <Chances title={t('causes.signs')} of={of.signs} nameOf={(name) => words.word('sign', name)} />
            <Chances
              title={t('causes.clues')}
              of={of.clues}
              nameOf={(name) => words.word('clue', `${name}.name`)}
            />
          </div>
          {isOwner && (
            <p className="mt-3 flex flex-wrap gap-2">
              <Button onClick={onChange}>{t('causes.change')}</Button>
              {of.by && <Button onClick={back}>{t('causes.back')}</Button>}
            </p>
          )}
        </div>
      </details>
    </li>
  );
}

/** A share as a bar, and where it is written as an upright line. */
function Share({ share, written, most }: { share: number; written: number; most: number }) {
  return (
    <span className="relative hidden h-4 sm:block" aria-hidden="true">
      <span className="absolute inset-x-0 top-1/2 block h-px bg-line" />
      <span
        className="absolute top-1 block h-2 bg-(--violet-2)"
        style={{ left: 0, width: `${(100 * share) / most}%` }}
      />
      <span
        className="absolute inset-y-0 block w-0.5 bg-(--ink)"
        style={{ left: `${(100 * written) / most}%` }}
      />
    </span>
  );
}

function Chances({
  title,
  of,
  nameOf,
}: {
  title: string;
  of: readonly { name: string; written: number | null; now: number }[];
  nameOf: (name: string) => string;
}) {
  const words = useWords();
  const { t } = words;
  return (
    <div>
      <h3 className="mb-1 text-[12.5px] font-medium text-ink-3">{title}</h3>
      {of.length === 0 && <p className="text-ink-3">{t('causes.as-usual')}</p>}
      <ul>
        {of.map((c) => (
          <li key={c.name} className="flex items-baseline justify-between gap-3 border-b border-line py-1">
            <span>{nameOf(c.name)}</span>
            <span className="num shrink-0">
              {words.percent(c.now, 0)}
              {(c.written === null || Math.abs(c.written - c.now) >= 0.005) && (
                <span className="text-ink-3">
                  {' '}
                  {c.written === null
                    ? t('causes.not-written')
                    : t('causes.written', { chance: words.percent(c.written, 0) })}
                </span>
              )}
            </span>
          </li>
        ))}
      </ul>
    </div>
  );
}
