import { useMemo, useState } from 'react';
import type { BatchBrief, Lot } from '@wunsch/contract';
import {
  FIELDS,
  guessKind,
  guessMapping,
  MOST_ROWS,
  readTable,
  withFigures,
  type Mapping,
  type ReadRow,
  type ReadTable,
  type TableKind,
} from '@wunsch/core/spreadsheet';
import { useDoor, useRead } from '../../shell/door.tsx';
import { todayAt } from '../../stations/today.ts';
import type { Sheet } from '../../shell/openTable.ts';
import { useWords } from '../../words/words.tsx';

/** Why a row that was read cannot be taken over as the books stand. */
export type Clash = 'code-taken' | 'no-such-lot' | 'no-such-batch' | 'too-many';

/** A row that was read and does not go with the books. */
export interface ClashingRow {
  row: number;
  field: string;
  text: string;
  why: Clash;
}

/** An opened file as it is being turned into rows of the books. */
export interface OpenTable {
  file: string;
  sheets: readonly Sheet[];
  sheet: number;
  kind: TableKind;
  mapping: Mapping;
}

const rowsOf = (table: Pick<OpenTable, 'sheets' | 'sheet'>) => table.sheets[table.sheet]!.rows;

/** What a row says against what is in the books already. */
function clashOf(
  row: ReadRow,
  kind: TableKind,
  codes: { lots: Set<string>; batches: Set<string> },
): ClashingRow | null {
  const of = (field: string, why: Clash): ClashingRow => ({
    row: row.row,
    field,
    text: String(row[field]),
    why,
  });
  const has = (set: Set<string>, field: string) => set.has(String(row[field]).toLowerCase());
  if (kind === 'lots') return has(codes.lots, 'code') ? of('code', 'code-taken') : null;
  if (kind === 'batches') {
    if (has(codes.batches, 'code')) return of('code', 'code-taken');
    return has(codes.lots, 'lot') ? null : of('lot', 'no-such-lot');
  }
  return has(codes.batches, 'batch') ? null : of('batch', 'no-such-batch');
}

/** Opening a file, guessing how it is to be read, and what of it can be taken over. */
export function useTable() {
  const words = useWords();
  const { now } = useDoor();
  const [table, setTable] = useState<OpenTable | null>(null);
  const { data: lots } = useRead<Lot[]>('/api/lots');
  const { data: batches } = useRead<BatchBrief[]>('/api/batches?limit=20000');
  const today = todayAt(now());
  const guessed = (sheets: readonly Sheet[], sheet: number, kind?: TableKind) => {
    const rows = sheets[sheet]!.rows;
    const of = kind ?? guessKind(rows) ?? 'batches';
    return { kind: of, mapping: guessMapping(of, rows, words.language) };
  };
  const result = useMemo(() => {
    if (!table || !lots || !batches) return null;
    const read: ReadTable = readTable(table.kind, rowsOf(table), table.mapping, {
      currency: words.currency,
      today,
    });
    const codes = {
      lots: new Set(lots.map((l) => l.code.toLowerCase())),
      batches: new Set(batches.filter((b) => b.state !== 'void').map((b) => b.code.toLowerCase())),
    };
    const clashes: ClashingRow[] = [];
    const good = read.rows.filter((row) => {
      const clash = clashOf(row, table.kind, codes);
      if (clash) clashes.push(clash);
      return !clash;
    });
    for (const row of good.slice(MOST_ROWS))
      clashes.push({ row: row.row, field: '', text: '', why: 'too-many' });
    return { ...read, rows: good.slice(0, MOST_ROWS), clashes };
  }, [table, lots, batches, words.currency, today]);
  return {
    table,
    result,
    open: (file: string, sheets: readonly Sheet[]) =>
      setTable({ file, sheets, sheet: 0, ...guessed(sheets, 0) }),
    toSheet: (sheet: number) => setTable((old) => old && { ...old, sheet, ...guessed(old.sheets, sheet) }),
    toKind: (kind: TableKind) =>
      setTable((old) => old && { ...old, ...guessed(old.sheets, old.sheet, kind) }),
    /** Puts a field into another column, or into none; figures are looked at again there. */
    toColumn: (field: string, at: number | null) =>
      setTable((old) => {
        if (!old) return old;
        const { [field]: _, ...rest } = old.mapping.columns;
        const columns = at === null ? rest : { ...rest, [field]: { at } };
        const { mapping, kind } = old;
        const again = withFigures(
          kind,
          rowsOf(old),
          { headings: mapping.headings, columns },
          mapping.numbers,
        );
        return { ...old, mapping: again };
      }),
    toUnit: (field: string, unit: string) =>
      setTable(
        (old) =>
          old && {
            ...old,
            mapping: {
              ...old.mapping,
              columns: { ...old.mapping.columns, [field]: { ...old.mapping.columns[field]!, unit } },
              sure: { ...old.mapping.sure, units: true },
            },
          },
      ),
    change: (part: Partial<Mapping>) =>
      setTable((old) => old && { ...old, mapping: { ...old.mapping, ...part } }),
    close: () => setTable(null),
  };
}

/** Columns of the sheet in hand, each with its heading and first cell. */
export function columnsOf(table: OpenTable): { at: number; heading: string; sample: string }[] {
  const rows = rowsOf(table);
  const { headings } = table.mapping;
  const body = rows.slice(headings + 1, headings + 40);
  const width = Math.max(0, ...rows.slice(0, 200).map((r) => r.length));
  const shown = (cell: unknown) =>
    cell === null || cell === undefined
      ? ''
      : cell instanceof Date
        ? cell.toISOString().slice(0, 10)
        : String(cell as string);
  return Array.from({ length: width }, (_, at) => ({
    at,
    heading: headings >= 0 ? shown(rows[headings]?.[at]) : '',
    sample: body.map((r) => shown(r[at])).find((c) => c.trim() !== '') ?? '',
  }));
}

/** Fields still needed before anything can be read. */
export const missingFields = (table: OpenTable): string[] =>
  FIELDS[table.kind].filter((f) => f.required && !table.mapping.columns[f.id]).map((f) => f.id);
