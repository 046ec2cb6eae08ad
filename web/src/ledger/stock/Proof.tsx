import type { StockProof } from '@wunsch/contract';
import { useRead } from '../../shell/door.tsx';
import { Chip, Panel } from '../../ui/Panel.tsx';
import { useWords } from '../../words/words.tsx';

/** Most losses named one by one. */
const NAMED = 4;

interface Share {
  key: string;
  name: string;
  massMg: number;
  fill: string;
}

/** Whether the books come out even: all that came, and where all of it is, as one bar. */
export function Proof() {
  const words = useWords();
  const { t } = words;
  const { data } = useRead<StockProof>('/api/stock-proof');
  if (!data) return null;
  const { mass, bars } = data;
  const cameMg = mass.receivedMg + mass.offShelfMg + mass.foundMg;
  if (cameMg === 0) return null;
  const rest = mass.losses.slice(NAMED).reduce((sum, l) => sum + l.massMg, 0);
  const shares: Share[] = [
    { key: 'hand', name: t('proof.on-hand'), massMg: mass.onHandMg, fill: 'var(--violet)' },
    { key: 'process', name: t('proof.in-process'), massMg: mass.inProcessMg, fill: 'var(--violet-2)' },
    { key: 'left', name: t('proof.left'), massMg: mass.leftMg, fill: 'var(--ink-3)' },
    ...mass.losses.slice(0, NAMED).map((l) => ({
      key: `loss ${l.reason}`,
      name: words.word('loss', l.reason),
      massMg: l.massMg,
      fill: 'var(--line-2)',
    })),
    { key: 'rest', name: t('proof.other-losses'), massMg: rest, fill: 'var(--line)' },
  ].filter((s) => s.massMg > 0);
  const isEven = mass.differenceMg === 0 && bars.difference === 0;
  return (
    <Panel
      title={t('proof')}
      aside={
        <Chip tone={isEven ? 'ok' : 'bad'}>
          {isEven
            ? t('proof.even')
            : t('proof.off', {
                mass: words.mass(Math.abs(mass.differenceMg)),
                bars: Math.abs(bars.difference),
              })}
        </Chip>
      }
    >
      <p className="mb-2 text-[13.5px] text-ink-2">{t('proof.text', { mass: words.mass(cameMg) })}</p>
      <div
        role="img"
        aria-label={shares.map((s) => `${s.name} ${words.mass(s.massMg)}`).join(', ')}
        className="flex h-8 w-full overflow-hidden rounded-[3px]"
      >
        {shares.map((s) => (
          <span
            key={s.key}
            className="h-full border-r border-panel last:border-r-0"
            style={{ width: `${(100 * s.massMg) / cameMg}%`, background: s.fill }}
          />
        ))}
      </div>
      <dl className="mt-3 grid grid-cols-2 gap-x-6 gap-y-2 text-[13.5px] sm:grid-cols-4">
        {shares.map((s) => (
          <div key={s.key} className="min-w-0">
            <dt className="flex items-center gap-1.5 text-[12.5px] text-ink-2">
              <span
                aria-hidden="true"
                className="inline-block size-3 shrink-0 border border-edge"
                style={{ background: s.fill }}
              />
              {s.name}
            </dt>
            <dd className="num text-[16px]">{words.mass(s.massMg)}</dd>
          </div>
        ))}
      </dl>
      {bars.made + bars.found > 0 && (
        <p className="mt-3 text-[13.5px] text-ink-2">
          {t('proof.bars', {
            made: bars.made + bars.found,
            here: words.number(bars.onHand),
            left: words.number(bars.left),
            lost: words.number(bars.lost + bars.melted),
          })}
        </p>
      )}
    </Panel>
  );
}
