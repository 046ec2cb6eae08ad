import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { TABLE_KINDS, type ReadRow } from '@wunsch/core/spreadsheet';
import { useDoor } from '../../shell/door.tsx';
import { newId } from '../../shell/entry.ts';
import { useMayMake } from '../../shell/session.tsx';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { Button } from '../../ui/Button.tsx';
import { Choice, SelectField } from '../../ui/Field.tsx';
import { FileButton, TABLES } from '../../ui/FileButton.tsx';
import { EmptyState, Panel } from '../../ui/Panel.tsx';
import { openTable, TableError } from '../../shell/openTable.ts';
import { useWords } from '../../words/words.tsx';
import { Earlier } from './Earlier.tsx';
import { Fields } from './Fields.tsx';
import { GoesOn, likelyGoesOn, withoutBars } from './GoesOn.tsx';
import { Reading } from './Reading.tsx';
import { missingFields, useTable } from './useTable.ts';

/**
 * Taking over what was kept in a spreadsheet before: the file is opened here, how it is read is guessed and can be put right, and everything that
 * will be taken over, and what will not and why, stands on the screen before anything is written. It goes in, and comes out again, as one entry.
 */
export default function ImportPage() {
  const { t, explain } = useWords();
  const mayMake = useMayMake();
  const send = useEntryHere();
  const navigate = useNavigate();
  const { table, result, open, toSheet, toKind, toColumn, toUnit, change, close } = useTable();
  const [wrong, setWrong] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  /** What was said of rows without bars, by their number. */
  const [said, setSaid] = useState<Readonly<Record<number, boolean>>>({});
  const { now } = useDoor();
  const unfinished = table?.kind === 'batches' && result ? withoutBars(result.rows) : [];
  const goesOn = (row: ReadRow) => said[row.row] ?? likelyGoesOn(row, now());
  const choose = async (file: File) => {
    setWrong(null);
    setSaid({});
    try {
      open(file.name, await openTable(file));
    } catch (error) {
      setWrong(error instanceof TableError ? t(`import.${error.why}`) : explain(error));
    }
  };
  const take = async () => {
    const going = new Set(unfinished.filter(goesOn));
    setBusy(true);
    setWrong(null);
    try {
      await send({
        path: `/api/imports/${newId()}`,
        body: {
          of: table!.kind,
          file: table!.file.slice(0, 200),
          rows: result!.rows.map((r) => (going.has(r) ? { ...r, goesOn: true } : r)),
        },
        label: t('import.done', { n: result!.rows.length }),
        undo: true,
      });
      await navigate('/ledger?sheet=files');
    } catch (error) {
      setWrong(explain(error));
      setBusy(false);
    }
  };
  if (!mayMake) return <EmptyState title={t('import')}>{t('files.makers')}</EmptyState>;
  const missing = table ? missingFields(table) : [];
  return (
    <div className="mx-auto grid max-w-5xl gap-2 p-3 sm:px-4">
      <p>
        <Link
          to="/ledger?sheet=files"
          className="inline-flex min-h-11 items-center underline underline-offset-4"
        >
          {t('files')}
        </Link>
      </p>
      <h1 className="text-[26px]">{t('import')}</h1>
      {!table && (
        <>
          <Panel>
            <p className="mb-3 max-w-[72ch]">{t('import.text')}</p>
            <FileButton label={t('import.choose')} accept={TABLES} onFile={(f) => void choose(f)} />
          </Panel>
          <Earlier />
        </>
      )}
      {table && (
        <>
          <Panel title={table.file} aside={<Button onClick={close}>{t('import.other')}</Button>}>
            <div className="grid gap-3">
              {table.sheets.length > 1 && (
                <SelectField
                  label={t('import.sheet')}
                  className="sm:w-80"
                  value={table.sheet}
                  onChange={(e) => toSheet(Number(e.target.value))}
                >
                  {table.sheets.map((s, i) => (
                    <option key={s.name} value={i}>
                      {s.name}
                    </option>
                  ))}
                </SelectField>
              )}
              <Choice
                label={t('import.kind')}
                value={table.kind}
                options={TABLE_KINDS.map((k) => ({
                  value: k,
                  label: t(`import.${k}`),
                  note: t(`import.${k}.note`),
                }))}
                onChange={toKind}
              />
            </div>
          </Panel>
          <Fields table={table} toColumn={toColumn} toUnit={toUnit} change={change} />
          {missing.length > 0 ? (
            <Panel>
              <p role="status">
                {t('import.missing', {
                  fields: missing.map((f) => t(`import.field.${f}` as 'import.field.code')).join(', '),
                })}
              </p>
            </Panel>
          ) : (
            result && (
              <>
                <Reading table={table} result={result} />
                <GoesOn
                  rows={unfinished}
                  goesOn={goesOn}
                  onChange={(row, on) => setSaid((old) => ({ ...old, [row.row]: on }))}
                />
                {wrong && (
                  <p role="alert" className="text-bad">
                    {wrong}
                  </p>
                )}
                <div>
                  <Button
                    look="main"
                    big
                    className="w-full sm:w-auto"
                    disabled={busy || result.rows.length === 0}
                    onClick={() => void take()}
                  >
                    {t(busy ? 'import.takes' : 'import.take', { n: result.rows.length })}
                  </Button>
                </div>
              </>
            )
          )}
        </>
      )}
      {wrong && !table && (
        <p role="alert" className="text-bad">
          {wrong}
        </p>
      )}
    </div>
  );
}
