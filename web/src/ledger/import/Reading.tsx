import { FIELDS, type FieldType, type ReadRow, type ReadTable } from '@wunsch/core/spreadsheet';
import { Panel } from '../../ui/Panel.tsx';
import { useWords, type Words } from '../../words/words.tsx';
import type { ClashingRow, OpenTable } from './useTable.ts';

/** Rows shown before they are taken over, and cells in the way that are listed. */
const SHOWN = { rows: 6, troubles: 40 };

/** A value that was read, as the workshop writes it. */
function shown(value: string | number | undefined, type: FieldType, words: Words): string {
  if (value === undefined) return '';
  if (type === 'mass') return words.mass(Number(value));
  if (type === 'money') return words.money(Number(value));
  if (type === 'day') return words.day(String(value));
  return typeof value === 'number' ? words.number(value, Number.isInteger(value) ? 0 : 1) : value;
}

/** What of the table will be taken over, and what will not, row by row and why. */
export function Reading({
  table,
  result,
}: {
  table: OpenTable;
  result: ReadTable & { clashes: readonly ClashingRow[] };
}) {
  const words = useWords();
  const { t } = words;
  const fields = FIELDS[table.kind].filter((f) => table.mapping.columns[f.id]);
  const nameOf = (id: string) => (id === '' ? '' : t(`import.field.${id}` as 'import.field.code'));
  const inTheWay = [
    ...result.troubles.map((x) => ({ ...x, text: x.text, why: t(`import.why.${x.why}`) })),
    ...result.clashes.map((x) => ({ ...x, why: t(`import.clash.${x.why}`) })),
  ].sort((a, b) => a.row - b.row);
  const left = new Set(inTheWay.map((x) => x.row)).size;
  return (
    <>
      <Panel
        title={t('import.reads', { n: result.rows.length })}
        aside={t('import.leaves', { left, skipped: result.skipped.length })}
      >
        {result.rows.length === 0 ? (
          <p>{t('import.nothing')}</p>
        ) : (
          <div
            className="overflow-x-auto"
            tabIndex={0}
            role="region"
            aria-label={t('import.reads', { n: result.rows.length })}
          >
            <table className="w-full text-[13.5px]">
              <thead>
                <tr className="border-b border-edge text-left text-[12.5px] text-ink-3">
                  <th className="py-1 pr-3 font-medium">{t('import.row')}</th>
                  {fields.map((f) => (
                    <th key={f.id} className="py-1 pr-3 font-medium">
                      {nameOf(f.id)}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {result.rows.slice(0, SHOWN.rows).map((row: ReadRow) => (
                  <tr key={row.row} className="border-b border-line">
                    <td className="num py-1.5 pr-3 text-ink-3">{row.row}</td>
                    {fields.map((f) => (
                      <td
                        key={f.id}
                        className={`whitespace-nowrap py-1.5 pr-3 ${f.type === 'text' ? '' : 'num'}`}
                      >
                        {shown(row[f.id], f.type, words).slice(0, 40)}
                      </td>
                    ))}
                  </tr>
                ))}
              </tbody>
            </table>
            {result.rows.length > SHOWN.rows && (
              <p className="mt-2 text-[12.5px] text-ink-3">
                {t('import.more', { n: result.rows.length - SHOWN.rows })}
              </p>
            )}
          </div>
        )}
      </Panel>
      {inTheWay.length > 0 && (
        <Panel title={t('import.left', { n: left })}>
          <p className="mb-2 text-[13.5px] text-ink-2">{t('import.left.text')}</p>
          <ul className="grid gap-1 text-[13.5px]">
            {inTheWay.slice(0, SHOWN.troubles).map((x, i) => (
              <li key={i} className="grid grid-cols-[64px_minmax(0,1fr)] gap-2 border-b border-line py-1">
                <span className="num text-ink-3">{t('import.row.n', { n: x.row })}</span>
                <span>
                  {x.field && <b className="font-semibold">{nameOf(x.field)}</b>}
                  {x.text && <q className="mx-1.5">{x.text}</q>} {x.why}
                </span>
              </li>
            ))}
          </ul>
          {inTheWay.length > SHOWN.troubles && (
            <p className="mt-2 text-[12.5px] text-ink-3">
              {t('import.more', { n: inTheWay.length - SHOWN.troubles })}
            </p>
          )}
        </Panel>
      )}
    </>
  );
}
