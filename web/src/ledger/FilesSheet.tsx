import { Download } from 'lucide-react';
import { useDoor } from '../shell/door.tsx';
import { useMayMake } from '../shell/session.tsx';
import { Panel } from '../ui/Panel.tsx';
import { useWords } from '../words/words.tsx';

/** Tables that can be taken away. */
const TABLES = [
  'lots',
  'batches',
  'steps',
  'movements',
  'stock',
  'deliveries',
  'supplies',
  'observations',
  'tastings',
  'cases',
  'trail',
] as const;

/** What can be taken away as files. */
export function FilesSheet() {
  const { t } = useWords();
  const { address } = useDoor();
  const mayMake = useMayMake();
  return (
    <Panel title={t('files.tables')}>
      <p className="mb-3 text-[13.5px] text-ink-2">{t(mayMake ? 'files.text' : 'files.makers')}</p>
      {mayMake && (
        <ul className="grid gap-2 sm:grid-cols-2">
          {TABLES.map((name) => (
            <li key={name}>
              <a
                href={address(`/api/tables/${name}.csv`)}
                download={`${name}.csv`}
                className="flex min-h-11 items-center justify-between gap-3 rounded border border-edge bg-panel px-4 text-[13.5px] font-semibold hover:bg-panel-2"
              >
                {t(`files.${name}`)}
                <Download size={16} aria-hidden="true" />
              </a>
            </li>
          ))}
          <li>
            <a
              href={address('/api/plots.geojson')}
              download="plots.geojson"
              className="flex min-h-11 items-center justify-between gap-3 rounded border border-edge bg-panel px-4 text-[13.5px] font-semibold hover:bg-panel-2"
            >
              {t('files.plots')}
              <Download size={16} aria-hidden="true" />
            </a>
          </li>
        </ul>
      )}
    </Panel>
  );
}
