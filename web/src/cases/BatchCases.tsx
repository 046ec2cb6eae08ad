import { Link } from 'react-router';
import type { CaseBrief } from '@wunsch/contract';
import { useRead } from '../shell/door.tsx';
import { useMayMake } from '../shell/session.tsx';
import { Chip, Panel } from '../ui/Panel.tsx';
import { useWords } from '../words/words.tsx';
import { causeName } from './Causes.tsx';

/** Faults and complaints of a batch's bars, and the way to a new one. */
export function BatchCases({ batchId }: { batchId: string }) {
  const words = useWords();
  const { t } = words;
  const mayMake = useMayMake();
  const { data = [] } = useRead<CaseBrief[]>(`/api/cases?batchId=${batchId}`);
  return (
    <Panel title={t('cases')}>
      <ul className="text-[13.5px]">
        {data.map((c) => (
          <li key={c.id} className="flex items-center justify-between gap-3 border-b border-line py-1">
            <Link
              to={`/case/${c.id}`}
              className="inline-flex min-h-11 items-center underline underline-offset-4"
            >
              {t('case.title', { n: c.number })}:{' '}
              {c.closedAt !== null
                ? causeName(c.cause, t)
                : c.signs.map((s) => t(`sign.${s}`)).join(', ') || c.text.slice(0, 60)}
            </Link>
            <Chip tone={c.closedAt === null ? 'bad' : 'ok'}>
              {t(c.closedAt === null ? 'cases.open' : 'cases.closed')}
            </Chip>
          </li>
        ))}
      </ul>
      {mayMake && (
        <Link
          to={`/case/new?batch=${batchId}`}
          className="mt-2 inline-flex min-h-11 items-center rounded border border-edge bg-panel px-4 text-[13.5px] font-semibold hover:bg-panel-2"
        >
          {t('cases.new')}
        </Link>
      )}
    </Panel>
  );
}
