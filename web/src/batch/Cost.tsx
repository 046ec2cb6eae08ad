import type { BatchView } from '@wunsch/contract';
import { Panel } from '../ui/Panel.tsx';
import { useWords } from '../words/words.tsx';

/** What a bar costs, by its parts, the dearest first. */
export function Cost({ view }: { view: BatchView }) {
  const words = useWords();
  const { t } = words;
  const { cost, flow } = view;
  const shades = ['var(--violet)', 'var(--violet-2)', '#A886A3', '#C9B4C6', 'var(--line-2)', 'var(--line)'];
  const range =
    cost.forecast && flow.barsExpected && flow.barsExpected.low > 0
      ? `${words.money(cost.total / flow.barsExpected.high)}–${words.money(cost.total / flow.barsExpected.low)}`
      : null;
  return (
    <Panel
      title={t('cost')}
      aside={
        cost.bars > 0 ? t(cost.forecast ? 'cost.if' : 'cost.of', { n: words.number(cost.bars) }) : undefined
      }
      className="content-start"
    >
      <div className="flex items-end gap-4">
        <span className="num text-[38px] leading-none">
          {cost.perBar === null ? '—' : words.money(cost.perBar)}
        </span>
        <span className="text-[12.5px] text-ink-3">{range}</span>
      </div>
      <div className="mt-3 flex h-5 gap-px" aria-hidden="true">
        {cost.parts.map((p, i) => (
          <div
            key={p.label}
            style={{
              width: `${(100 * p.cost) / Math.max(cost.total, 1)}%`,
              background: shades[Math.min(i, shades.length - 1)],
            }}
          />
        ))}
      </div>
      <ul className="mt-2">
        {cost.parts.map((p, i) => (
          <li key={p.label} className="flex items-center gap-2 border-b border-line py-1.5">
            <span
              aria-hidden="true"
              className="size-3"
              style={{ background: shades[Math.min(i, shades.length - 1)] }}
            />
            <span className="grow">
              {words.word('cost', words.word('ingredient', p.label))}
              {p.label === 'labour' ? `, ${words.duration(cost.labourMinutes * 60)}` : ''}
            </span>
            <span className="num">
              {cost.bars > 0 ? words.money(p.cost / cost.bars) : words.money(p.cost)}
            </span>
          </li>
        ))}
      </ul>
      <p className="mt-2 text-[12px] text-ink-3">{t('cost.total', { money: words.money(cost.total) })}</p>
    </Panel>
  );
}
