import { useMemo } from 'react';
import { Link, useSearchParams } from 'react-router';
import type { Person, TrailItem } from '@wunsch/contract';
import { useRead } from '../shell/door.tsx';
import { trailDetail } from '../shell/trailWords.ts';
import { BookTable } from '../ui/BookTable.tsx';
import { Button } from '../ui/Button.tsx';
import { SelectField, TextField } from '../ui/Field.tsx';
import { Panel } from '../ui/Panel.tsx';
import { useWords } from '../words/words.tsx';
import { useTableLook } from './looks/useTableLook.tsx';

/** Entries shown at once. */
const SHOWN = 200;

/** What the trail can be narrowed to; each stands in the page’s address. */
const FILTERS = ['by', 'kind', 'batch', 'from', 'to', 'changes', 'before'] as const;
type Filter = (typeof FILTERS)[number];

/** Midnight at the beginning of a day here, or of the day after, as an instant; null for what is no day. */
function midnight(day: string | null, daysOn: number): string | null {
  const [year, month, date] = (day ?? '').split('-').map(Number);
  if (!year || !month || !date) return null;
  const at = new Date(year, month - 1, date + daysOn);
  return Number.isNaN(at.getTime()) ? null : at.toISOString();
}

/** The address of what is looked for, from what stands in the page’s. */
export function trailPath(params: URLSearchParams): string {
  const query = new URLSearchParams({ limit: String(SHOWN) });
  const set = (name: string, value: string | null) => value && query.set(name, value);
  set('by', params.get('by'));
  set('kinds', params.get('kind'));
  set('batch', params.get('batch')?.trim() ?? null);
  set('from', midnight(params.get('from'), 0));
  set('to', midnight(params.get('to'), 1));
  set('changes', params.get('changes') && 'true');
  set('before', params.get('before'));
  return `/api/trail?${query.toString()}`;
}

/** How much earlier than what was written before it an entry may say it happened, ms: phones send when they can, and their clocks differ. */
const CLOCKS = 1_800_000;

/** Entries written down after something that happened later, by their sequence: the trail goes by when it was written. */
export function writtenLater(newestFirst: readonly Pick<TrailItem, 'seq' | 'at'>[]): ReadonlySet<number> {
  const late = new Set<number>();
  let latest = -Infinity;
  for (const { seq, at } of newestFirst.toReversed()) {
    const when = Date.parse(at);
    if (when < latest - CLOCKS) late.add(seq);
    latest = Math.max(latest, when);
  }
  return late;
}

/** Who did what, back to the first day: by person, kind, batch and days, or only what was changed afterwards. */
export function TrailSheet() {
  const words = useWords();
  const { t } = words;
  const look = useTableLook('trail');
  const [params, setParams] = useSearchParams();
  const { data } = useRead<TrailItem[]>(trailPath(params));
  const set = (name: Filter, value: string) =>
    setParams(
      (old) => {
        if (value) old.set(name, value);
        else old.delete(name);
        // Whatever else is asked for is asked from the newest on.
        if (name !== 'before') old.delete('before');
        return old;
      },
      { replace: name !== 'before' },
    );
  const isNarrowed = FILTERS.some((f) => params.get(f));
  const late = useMemo(() => writtenLater(data ?? []), [data]);
  const detail = (item: TrailItem) => trailDetail(item, words);
  return (
    <Panel title={t('trail')}>
      <Narrowing params={params} onSet={set} />
      {!data ? (
        <p className="text-ink-3">{t('loading')}</p>
      ) : (
        <BookTable
          caption={t('trail')}
          look={look}
          first={SHOWN}
          rows={data}
          keyOf={(i) => String(i.seq)}
          empty={t(isNarrowed ? 'trail.none-so' : 'trail.none')}
          columns={[
            {
              id: 'at',
              title: t('when'),
              value: (i) => `${i.at} ${words.when(i.at)}`,
              cell: (i) => (
                <>
                  {words.when(i.at)}
                  {late.has(i.seq) && <span className="block text-[12px] text-ink-3">{t('trail.late')}</span>}
                </>
              ),
            },
            { id: 'by', title: t('who'), value: (i) => i.by, cell: (i) => i.by },
            {
              id: 'kind',
              title: t('what'),
              value: (i) => words.word('trail', i.kind),
              cell: (i) => (
                <span className={i.undone ? 'line-through' : ''}>{words.word('trail', i.kind)}</span>
              ),
            },
            {
              id: 'detail',
              title: t('detail'),
              value: detail,
              cell: (i) =>
                i.batchId ? (
                  <Link to={`/batch/${i.batchId}`} className="underline underline-offset-4">
                    {detail(i) || t('batch')}
                  </Link>
                ) : (
                  detail(i)
                ),
            },
          ]}
        />
      )}
      <div className="mt-3 flex flex-wrap gap-2">
        {params.get('before') && <Button onClick={() => set('before', '')}>{t('trail.newest')}</Button>}
        {data?.length === SHOWN && (
          <Button onClick={() => set('before', String(data.at(-1)!.seq))}>{t('trail.older')}</Button>
        )}
      </div>
    </Panel>
  );
}

function Narrowing({
  params,
  onSet,
}: {
  params: URLSearchParams;
  onSet: (name: Filter, value: string) => void;
}) {
  const words = useWords();
  const { t } = words;
  const { data: people = [] } = useRead<Person[]>('/api/people');
  const { data: kinds = [] } = useRead<string[]>('/api/trail-kinds');
  const named = kinds
    .map((kind) => ({ kind, name: words.word('trail', kind) }))
    .sort((a, b) => a.name.localeCompare(b.name));
  const of = (name: Filter) => params.get(name) ?? '';
  return (
    <div
      role="group"
      aria-label={t('trail.narrow')}
      className="mb-3 grid grid-cols-2 items-end gap-3 sm:grid-cols-3 lg:grid-cols-6"
    >
      <SelectField label={t('who')} value={of('by')} onChange={(e) => onSet('by', e.target.value)}>
        <option value="">{t('trail.anyone')}</option>
        {people.map((p) => (
          <option key={p.id} value={p.initials}>
            {p.name}
          </option>
        ))}
      </SelectField>
      <SelectField label={t('what')} value={of('kind')} onChange={(e) => onSet('kind', e.target.value)}>
        <option value="">{t('trail.anything')}</option>
        {named.map(({ kind, name }) => (
          <option key={kind} value={kind}>
            {name}
          </option>
        ))}
      </SelectField>
      <TextField
        label={t('batch')}
        value={of('batch')}
        onChange={(e) => onSet('batch', e.target.value)}
        maxLength={60}
      />
      <TextField
        label={t('trail.from')}
        type="date"
        value={of('from')}
        onChange={(e) => onSet('from', e.target.value)}
      />
      <TextField
        label={t('trail.to')}
        type="date"
        value={of('to')}
        onChange={(e) => onSet('to', e.target.value)}
      />
      <label className="flex min-h-11 items-center gap-2 text-[13.5px]">
        <input
          type="checkbox"
          className="size-5 accent-(--violet-text)"
          checked={of('changes') !== ''}
          onChange={(e) => onSet('changes', e.target.checked ? '1' : '')}
        />
        {t('trail.changes')}
      </label>
    </div>
  );
}
