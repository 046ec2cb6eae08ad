import type { ReactNode } from 'react';
import { useWords } from '../words/words.tsx';

/** A column of a table. */
export interface Column<R> {
  id: string;
  title: string;
  cell: (row: R) => ReactNode;
  /** Numbers stand at the right. */
  numeric?: boolean;
}

/** A plain table with a caption for those who hear it; it scrolls sideways where it must. */
export function Table<R>({
  caption,
  columns,
  rows,
  keyOf,
  empty,
  hides,
}: {
  caption: string;
  columns: readonly Column<R>[];
  /** Undefined while they are not known: then nothing is said of there being none. */
  rows: readonly R[] | undefined;
  keyOf: (row: R) => string;
  empty?: string;
  /** Whether the row at a place is folded away, and only printed. */
  hides?: (index: number) => boolean;
}) {
  const { t } = useWords();
  if (!rows) return <p className="py-3 text-[13.5px] text-ink-3">{t('loading')}</p>;
  if (rows.length === 0 && empty) return <p className="py-3 text-[13.5px] text-ink-3">{empty}</p>;
  return (
    <div className="overflow-x-auto" tabIndex={0} role="region" aria-label={caption}>
      <table className="w-full border-collapse text-[13.5px]">
        <caption className="sr-only">{caption}</caption>
        <thead>
          <tr className="border-b border-line-2 text-left text-[12px] text-ink-3">
            {columns.map((c) => (
              <th key={c.id} scope="col" className={`px-2 py-2 font-medium ${c.numeric ? 'text-right' : ''}`}>
                {c.title}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row, i) => (
            <tr
              key={keyOf(row)}
              className={`border-b border-line align-baseline ${hides?.(i) ? 'hidden print:table-row' : ''}`}
            >
              {columns.map((c) => (
                <td key={c.id} className={`px-2 py-2.5 ${c.numeric ? 'text-right tabular-nums' : ''}`}>
                  {c.cell(row)}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
