import {
  getCoreRowModel,
  getExpandedRowModel,
  getFilteredRowModel,
  getGroupedRowModel,
  getSortedRowModel,
  useReactTable,
  type ColumnDef,
  type ExpandedState,
  type Row,
  type SortingState,
} from '@tanstack/react-table';
import { ArrowDown, ArrowUp, ChevronDown, ChevronRight } from 'lucide-react';
import { useEffect, useMemo, useState, type ReactNode } from 'react';
import { flushSync } from 'react-dom';
import { useWords } from '../words/words.tsx';
import { Button } from './Button.tsx';
import { TextField } from './Field.tsx';

/** A column of a book. */
export interface BookColumn<R> {
  id: string;
  title: string;
  cell: (row: R) => ReactNode;
  /** What it is sorted and searched by; it can be neither where left out. */
  value?: (row: R) => string | number;
  numeric?: boolean;
  /** Left out on a phone. */
  wide?: boolean;
  /** What a group shows in this column, e.g. the sum. */
  sum?: (rows: readonly R[]) => ReactNode;
}

/** Which rows are ticked, and what ticking one is called. */
export interface BookChoice<R> {
  chosen: ReadonlySet<string>;
  onChoose: (chosen: ReadonlySet<string>) => void;
  nameOf: (row: R) => string;
}

/** How the table is looked at, where that is kept outside it, and what stands beside the search. */
export interface BookLook {
  search: string;
  sorting: SortingState;
  onLook: (look: { search: string; sorting: SortingState }) => void;
  kept?: ReactNode;
}

/** Rows that are there at once: what is newest, or what was searched for. */
const FIRST = 50;

/** Rows drawn at each press for more: a browser takes its time over thousands. */
const AT_ONCE = 400;

/** A group of rows opens by itself up to this many. */
const FEW = 3;

/**
 * A long table one looks things up in: searched, sorted by any heading, and grouped, each group with its sums and folded where it is
 * long.
 */
export function BookTable<R>({
  caption,
  rows,
  columns,
  keyOf,
  groupOf,
  empty,
  choice,
  look,
  first = FIRST,
  opensTo = FEW,
}: {
  caption: string;
  rows: readonly R[];
  columns: readonly BookColumn<R>[];
  keyOf: (row: R) => string;
  /** Name of the group a row belongs to; one list where left out. */
  groupOf?: (row: R) => string;
  empty: string;
  /** Rows may be ticked, by their keys. */
  choice?: BookChoice<R>;
  /** Kept by the table itself where left out. */
  look?: BookLook;
  /** Rows that are there at once, where they come by the page anyway. */
  first?: number;
  /** Up to how many rows a group opens by itself. */
  opensTo?: number;
}) {
  const { t, number } = useWords();
  const [own, setOwn] = useState<{ search: string; sorting: SortingState }>({ search: '', sorting: [] });
  const { search } = look ?? own;
  // A column that is not shown now cannot be sorted by.
  const sorting = (look ?? own).sorting.filter(({ id }) => columns.some((c) => c.id === id && c.value));
  const onLook = look?.onLook ?? setOwn;
  const groups = useMemo(() => {
    const counts = new Map<string, number>();
    if (groupOf) for (const row of rows) counts.set(groupOf(row), (counts.get(groupOf(row)) ?? 0) + 1);
    return counts;
  }, [rows, groupOf]);
  const [folded, setFolded] = useState<Readonly<Record<string, boolean>>>({});
  const expanded: ExpandedState = Object.fromEntries(
    [...groups].map(([name, n]) => [
      `group:${name}`,
      // One group alone is all there is to see.
      search !== '' || !(folded[`group:${name}`] ?? (n > opensTo && groups.size > 1)),
    ]),
  );
  const [most, setMost] = useState(first);
  // On paper nothing is left out.
  useEffect(() => {
    const showAll = () => flushSync(() => setMost(Infinity));
    window.addEventListener('beforeprint', showAll);
    return () => window.removeEventListener('beforeprint', showAll);
  }, []);
  const defs = useMemo(
    (): ColumnDef<R>[] => [
      ...(groupOf ? [{ id: 'group', accessorFn: groupOf, enableGlobalFilter: true } as ColumnDef<R>] : []),
      ...columns.map((c): ColumnDef<R> =>
        c.value
          ? { id: c.id, accessorFn: c.value, enableGlobalFilter: true }
          : { id: c.id, enableSorting: false, enableGlobalFilter: false },
      ),
    ],
    [columns, groupOf],
  );
  const table = useReactTable({
    data: rows as R[],
    columns: defs,
    getRowId: keyOf,
    state: { globalFilter: search, sorting, expanded, grouping: groupOf ? ['group'] : [] },
    onSortingChange: (next) => onLook({ search, sorting: typeof next === 'function' ? next(sorting) : next }),
    globalFilterFn: (row, id, sought: string) =>
      String(row.getValue(id)).toLowerCase().includes(sought.trim().toLowerCase()),
    getColumnCanGlobalFilter: (c) => c.accessorFn !== undefined,
    getCoreRowModel: getCoreRowModel(),
    getFilteredRowModel: getFilteredRowModel(),
    getSortedRowModel: getSortedRowModel(),
    getGroupedRowModel: getGroupedRowModel(),
    getExpandedRowModel: getExpandedRowModel(),
    // Nothing is put back by itself: rows and columns are new at each drawing, and that would draw the table for ever.
    autoResetAll: false,
  });
  if (rows.length === 0) return <p className="py-3 text-[13.5px] text-ink-3">{empty}</p>;
  const all = table.getRowModel().rows;
  // Whoever searches wants to see what was found.
  const shown = all.slice(0, search === '' ? most : Math.max(most, AT_ONCE));
  const hide = (c: BookColumn<R>) => (c.wide ? 'hidden sm:table-cell' : '');
  return (
    <>
      <div className="mb-2 flex flex-wrap items-end gap-x-4 gap-y-2">
        <div className="w-full max-w-xs">
          <TextField
            label={t('table.search')}
            type="search"
            value={search}
            onChange={(e) => onLook({ search: e.target.value, sorting })}
          />
        </div>
        {look?.kept}
      </div>
      <div className="overflow-x-auto" tabIndex={0} role="region" aria-label={caption}>
        <table className="w-full border-collapse text-[13.5px]">
          <caption className="sr-only">{caption}</caption>
          <thead>
            <tr className="border-b border-line-2 text-left text-[12px] text-ink-3">
              {choice && (
                <th scope="col" className="w-11">
                  <span className="sr-only">{t('table.choose')}</span>
                </th>
              )}
              {columns.map((c) => {
                const column = table.getColumn(c.id)!;
                const order = column.getIsSorted();
                return (
                  <th
                    key={c.id}
                    scope="col"
                    aria-sort={order === 'asc' ? 'ascending' : order === 'desc' ? 'descending' : undefined}
                    className={`px-2 font-medium ${c.numeric ? 'text-right' : ''} ${hide(c)}`}
                  >
                    {column.getCanSort() ? (
                      <button
                        type="button"
                        className="inline-flex min-h-11 items-center gap-1 font-medium hover:underline"
                        onClick={column.getToggleSortingHandler()}
                      >
                        {c.title}
                        {order === 'asc' && <ArrowUp size={13} aria-hidden="true" />}
                        {order === 'desc' && <ArrowDown size={13} aria-hidden="true" />}
                      </button>
                    ) : (
                      c.title
                    )}
                  </th>
                );
              })}
            </tr>
          </thead>
          <tbody>
            {shown.map((row) =>
              row.getIsGrouped() ? (
                <GroupRow
                  key={row.id}
                  row={row}
                  columns={columns}
                  count={number(row.subRows.length)}
                  choice={choice}
                  keyOf={keyOf}
                  onFold={() => setFolded({ ...folded, [row.id]: row.getIsExpanded() })}
                />
              ) : (
                <tr key={row.id} className="border-b border-line align-baseline">
                  {choice && (
                    <td className="p-0">
                      <Tick
                        label={choice.nameOf(row.original)}
                        checked={choice.chosen.has(row.id)}
                        onChange={(on) => choice.onChoose(withKeys(choice.chosen, [row.id], on))}
                      />
                    </td>
                  )}
                  {columns.map((c, i) => (
                    <td
                      key={c.id}
                      className={`px-2 py-2.5 ${groupOf && i === 0 && !choice ? 'pl-7' : ''} ${c.numeric ? 'text-right tabular-nums' : ''} ${hide(c)}`}
                    >
                      {c.cell(row.original)}
                    </td>
                  ))}
                </tr>
              ),
            )}
          </tbody>
        </table>
      </div>
      {all.length > shown.length && (
        <Button className="mt-2" onClick={() => setMost(most + AT_ONCE)}>
          {t('table.more', { n: Math.min(AT_ONCE, all.length - shown.length) })}
        </Button>
      )}
      {shown.length === 0 && (
        <p role="status" className="py-3 text-[13.5px] text-ink-3">
          {t('table.nothing', { of: number(rows.length) })}
        </p>
      )}
    </>
  );
}

function GroupRow<R>({
  row,
  columns,
  count,
  choice,
  keyOf,
  onFold,
}: {
  row: Row<R>;
  columns: readonly BookColumn<R>[];
  count: string;
  choice: BookChoice<R> | undefined;
  keyOf: (row: R) => string;
  onFold: () => void;
}) {
  const { t } = useWords();
  const open = row.getIsExpanded();
  const rows = row.subRows.map((r) => r.original);
  const Mark = open ? ChevronDown : ChevronRight;
  return (
    <tr className="border-b border-line bg-panel-2 font-semibold">
      {choice && (
        <td className="p-0">
          <Tick
            label={t('table.choose.all', { what: String(row.getGroupingValue('group')) })}
            checked={rows.every((r) => choice.chosen.has(keyOf(r)))}
            onChange={(on) => choice.onChoose(withKeys(choice.chosen, rows.map(keyOf), on))}
          />
        </td>
      )}
      {columns.map((c, i) =>
        i === 0 ? (
          <th key={c.id} scope="row" className="px-0 text-left">
            <button
              type="button"
              aria-expanded={open}
              className="flex min-h-11 w-full items-center gap-2 px-2 text-left"
              onClick={onFold}
            >
              <Mark size={15} className="shrink-0" aria-hidden="true" />
              <span>
                {String(row.getGroupingValue('group'))}{' '}
                <span className="font-normal text-ink-3">{count}</span>
              </span>
            </button>
          </th>
        ) : (
          <td
            key={c.id}
            className={`px-2 ${c.numeric ? 'text-right tabular-nums' : ''} ${c.wide ? 'hidden sm:table-cell' : ''}`}
          >
            {c.sum?.(rows)}
          </td>
        ),
      )}
    </tr>
  );
}

/** A set with some keys put in or taken out. */
function withKeys(set: ReadonlySet<string>, keys: readonly string[], on: boolean): ReadonlySet<string> {
  const next = new Set(set);
  for (const key of keys)
    if (on) next.add(key);
    else next.delete(key);
  return next;
}

/** A box to tick, as large as a finger. */
function Tick({
  label,
  checked,
  onChange,
}: {
  label: string;
  checked: boolean;
  onChange: (on: boolean) => void;
}) {
  return (
    <label className="grid size-11 cursor-pointer place-items-center">
      <input
        type="checkbox"
        className="size-5 accent-(--violet-text)"
        aria-label={label}
        checked={checked}
        onChange={(e) => onChange(e.target.checked)}
      />
    </label>
  );
}
