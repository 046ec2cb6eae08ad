import { Download, Upload } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { TABLE_NAMES } from '@wunsch/contract';
import type { Address } from '../shell/api.ts';
import { useDoor } from '../shell/door.tsx';
import { useMayMake, useSession } from '../shell/session.tsx';
import { Button } from '../ui/Button.tsx';
import { Panel } from '../ui/Panel.tsx';
import { useWords } from '../words/words.tsx';
import { saveFile, tableOf, xlsxOf } from './tableFiles.ts';

const LINK =
  'flex min-h-11 items-center justify-between gap-3 rounded border border-edge bg-panel px-4 text-[13.5px] font-semibold hover:bg-panel-2';

/** What can be taken away as files. */
export function FilesSheet() {
  const { address } = useDoor();
  const mayMake = useMayMake();
  return (
    <div className="grid gap-2">
      {mayMake && <BringIn />}
      <Tables mayMake={mayMake} address={address} />
      <Whole />
    </div>
  );
}

/** What was kept elsewhere. */
function BringIn() {
  const { t } = useWords();
  return (
    <Panel title={t('files.in')}>
      <p className="mb-3 text-[13.5px] text-ink-2">{t('import.open.text')}</p>
      <Link to="/ledger/import" className={`${LINK} sm:w-80`}>
        {t('import.open')}
        <Upload size={16} aria-hidden="true" />
      </Link>
    </Panel>
  );
}

/** Everything in one file. */
function Whole() {
  const { t } = useWords();
  const { address, isPractice } = useDoor();
  const isOwner = useSession().person.role === 'owner';
  if (isPractice) return null;
  return (
    <Panel title={t('files.whole')}>
      <p className="mb-3 max-w-[78ch] text-[13.5px] text-ink-2">
        {t(isOwner ? 'files.whole.text' : 'files.whole.owners')}
      </p>
      {isOwner && (
        <a href={address('/api/archive.zip')} download className={`${LINK} sm:w-80`}>
          {t('files.whole.take')}
          <Download size={16} aria-hidden="true" />
        </a>
      )}
    </Panel>
  );
}

function Tables({ mayMake, address }: { mayMake: boolean; address: Address }) {
  const { t } = useWords();
  const [making, setMaking] = useState<string | null>(null);
  const [error, setError] = useState<string | null>(null);
  /** The same table as a spreadsheet’s own file, made here from the CSV. */
  const sheet = async (name: string) => {
    setMaking(name);
    setError(null);
    try {
      const answer = await fetch(address(`/api/tables/${name}.csv`));
      if (!answer.ok) throw new Error(String(answer.status));
      saveFile(`${name}.xlsx`, await xlsxOf(tableOf(name, await answer.text())));
    } catch (failure) {
      setError(t(failure instanceof RangeError ? 'files.xlsx.long' : 'files.xlsx.failed'));
    } finally {
      setMaking(null);
    }
  };
  return (
    <Panel title={t('files.tables')}>
      <p className="mb-3 text-[13.5px] text-ink-2">{t(mayMake ? 'files.text' : 'files.makers')}</p>
      {mayMake && (
        <ul className="grid gap-2 sm:grid-cols-2">
          {TABLE_NAMES.map((name) => (
            <li key={name} className="flex gap-2">
              <a
                href={address(`/api/tables/${name}.csv`)}
                download={`${name}.csv`}
                className={`${LINK} min-w-0 flex-1`}
              >
                {t(`files.${name}`)}
                <Download size={16} aria-hidden="true" />
              </a>
              <Button
                onClick={() => void sheet(name)}
                disabled={making !== null}
                aria-label={t('files.xlsx', { table: t(`files.${name}`) })}
              >
                {making === name ? '…' : t('take.xlsx')}
              </Button>
            </li>
          ))}
          <li>
            <a href={address('/api/events.epcis.jsonld')} download="events.epcis.jsonld" className={LINK}>
              {t('files.epcis')}
              <Download size={16} aria-hidden="true" />
            </a>
          </li>
          <li>
            <a href={address('/api/plots.geojson')} download="plots.geojson" className={LINK}>
              {t('files.plots')}
              <Download size={16} aria-hidden="true" />
            </a>
          </li>
        </ul>
      )}
      <p role="status" className="mt-2 text-[13.5px] font-semibold text-bad">
        {error}
      </p>
    </Panel>
  );
}
