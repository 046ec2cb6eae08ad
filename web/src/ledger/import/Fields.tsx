import { FIELDS, type Mapping } from '@wunsch/core/spreadsheet';
import { SelectField } from '../../ui/Field.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { useWords } from '../../words/words.tsx';
import { columnsOf, type OpenTable } from './useTable.ts';

const UNITS = ['g', 'kg', 'lb', 'oz'];
const SCALES = ['5', '10', '100'];
const NOT = 'none';

/** Which column is which, and how its figures are written. */
export function Fields({
  table,
  toColumn,
  toUnit,
  change,
}: {
  table: OpenTable;
  toColumn: (field: string, at: number | null) => void;
  toUnit: (field: string, unit: string) => void;
  change: (part: Partial<Mapping>) => void;
}) {
  const { t } = useWords();
  const { mapping, kind } = table;
  const columns = columnsOf(table);
  const doubts = [
    !mapping.sure.units && t('import.doubt.units'),
    !mapping.sure.days && t('import.doubt.days'),
    !mapping.sure.numbers && t('import.doubt.numbers'),
  ].filter(Boolean);
  return (
    <Panel title={t('import.fields')} aside={t('import.headings', { row: mapping.headings + 1 })}>
      {doubts.length > 0 && (
        <ul className="mb-3 grid gap-1 border-l-4 border-signal pl-3 text-[13.5px]">
          {doubts.map((d) => (
            <li key={String(d)}>{d}</li>
          ))}
        </ul>
      )}
      <div className="grid gap-x-4 gap-y-3 sm:grid-cols-2 lg:grid-cols-3">
        {FIELDS[kind].map((field) => {
          const column = mapping.columns[field.id];
          const name = t(`import.field.${field.id}` as 'import.field.code');
          const units = field.type === 'mass' ? UNITS : field.type === 'score' ? SCALES : [];
          return (
            <div key={field.id} className="flex items-end gap-2">
              <SelectField
                label={field.required ? `${name} *` : name}
                className="min-w-0 grow"
                value={column ? column.at : NOT}
                onChange={(e) => toColumn(field.id, e.target.value === NOT ? null : Number(e.target.value))}
              >
                <option value={NOT}>{t('import.not-there')}</option>
                {columns.map((c) => (
                  <option key={c.at} value={c.at}>
                    {(c.heading || t('import.column', { n: c.at + 1 })) +
                      (c.sample ? `: ${c.sample.slice(0, 24)}` : '')}
                  </option>
                ))}
              </SelectField>
              {column && units.length > 0 && (
                <SelectField
                  label={t(field.type === 'mass' ? 'import.unit' : 'import.scale')}
                  className="w-24 shrink-0"
                  aria-label={`${name}: ${t(field.type === 'mass' ? 'import.unit' : 'import.scale')}`}
                  value={column.unit ?? units[0]}
                  onChange={(e) => toUnit(field.id, e.target.value)}
                >
                  {units.map((u) => (
                    <option key={u}>{u}</option>
                  ))}
                </SelectField>
              )}
            </div>
          );
        })}
      </div>
      <div className="mt-4 grid gap-x-4 gap-y-3 border-t border-line pt-3 sm:grid-cols-2 lg:grid-cols-3">
        <SelectField
          label={t('import.days')}
          value={mapping.days}
          onChange={(e) =>
            change({ days: e.target.value as Mapping['days'], sure: { ...mapping.sure, days: true } })
          }
        >
          <option value="dmy">{t('import.days.dmy')}</option>
          <option value="mdy">{t('import.days.mdy')}</option>
          <option value="ymd">{t('import.days.ymd')}</option>
        </SelectField>
        <SelectField
          label={t('import.numbers')}
          value={mapping.numbers}
          onChange={(e) =>
            change({
              numbers: e.target.value as Mapping['numbers'],
              sure: { ...mapping.sure, numbers: true },
            })
          }
        >
          <option value="en">1,234.5</option>
          <option value="de">1.234,5</option>
        </SelectField>
      </div>
    </Panel>
  );
}
