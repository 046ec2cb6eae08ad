import type { ReadRow } from '@wunsch/core/spreadsheet';
import { CheckField } from '../../ui/Field.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { useWords } from '../../words/words.tsx';

/** Most rows asked about, the latest first. */
const MOST = 40;

/** Batches begun this long ago are taken to be still in the making, days: the longest that blocks usually rest. */
const RECENT = 90;

const DAY = 86_400_000;

/** Weights of a row from its beans towards the bars, each with the material it is of. */
const WEIGHTS = [
  ['chocolateMg', 'chocolate'],
  ['nibsMg', 'nibs'],
  ['roastedMg', 'roasted beans'],
] as const;

/** Batches of a table that have not become bars, the latest first. */
export const withoutBars = (rows: readonly ReadRow[]): ReadRow[] =>
  rows
    .filter((r) => r.bars === undefined)
    .sort((a, b) => String(b.startedOn).localeCompare(String(a.startedOn)))
    .slice(0, MOST);

/** Whether such a batch is still being made, where nobody has said otherwise. */
export const likelyGoesOn = (row: ReadRow, now: number): boolean =>
  now - Date.parse(String(row.startedOn)) <= RECENT * DAY;

/** Which batches of a table are still being made: they go on here from their last weight. */
export function GoesOn({
  rows,
  goesOn,
  onChange,
}: {
  rows: readonly ReadRow[];
  goesOn: (row: ReadRow) => boolean;
  onChange: (row: ReadRow, goesOn: boolean) => void;
}) {
  const words = useWords();
  const { t } = words;
  if (rows.length === 0) return null;
  const lastWeight = (row: ReadRow) => {
    const last = WEIGHTS.find(([field]) => row[field] !== undefined);
    return last
      ? `${words.mass(Number(row[last[0]]))} ${words.word('material', last[1])}`
      : t('import.goes-on.beans');
  };
  return (
    <Panel title={t('import.goes-on')}>
      <p className="mb-2 max-w-[72ch] text-[13.5px] text-ink-2">{t('import.goes-on.text')}</p>
      <ul className="grid gap-x-6 sm:grid-cols-2">
        {rows.map((row) => (
          <li key={row.row}>
            <CheckField
              label={t('import.goes-on.row', {
                code: String(row.code),
                day: words.day(String(row.startedOn)),
                what: lastWeight(row),
              })}
              checked={goesOn(row)}
              onChange={(on) => onChange(row, on)}
            />
          </li>
        ))}
      </ul>
    </Panel>
  );
}
