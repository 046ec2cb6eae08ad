import { Check, Eye, TriangleAlert } from 'lucide-react';
import { Link } from 'react-router';
import type { LabelView } from '@wunsch/contract';
import { Panel } from '../../ui/Panel.tsx';
import { useWords, type Words } from '../../words/words.tsx';
import type { WordKey } from '../../words/en.ts';

const ORDER = { missing: 0, look: 1, met: 2 } as const;

/** As many decimals as a figure has, two at most. */
const decimalsOf = (value: number) =>
  [0, 1].find((d) => Math.abs(value * 10 ** d - Math.round(value * 10 ** d)) < 1e-6) ?? 2;

/** A check in words. What is missing has its own sentence where it needs one. */
function checkText({ name, state, params }: LabelView['checks'][number], words: Words): string {
  const { t } = words;
  const written: Record<string, string> = Object.fromEntries(
    Object.entries(params).map(([key, value]) => [
      key,
      typeof value === 'number' ? words.number(value, decimalsOf(value)) : value,
    ]),
  );
  if (name === 'fits')
    return t('check.fits.missing', {
      mm: written.mm ?? '',
      side: t(params.side === 'back' ? 'lab.back' : 'lab.front'),
      parts: String(params.parts ?? '')
        .split(',')
        .filter(Boolean)
        .map((p) => words.word('part', p))
        .join(', '),
    });
  if (name === 'carriedOver')
    return t('check.carriedOver.look', {
      ...written,
      allergen: words.word('allergen', String(params.allergen)),
    });
  if (name === 'filled' && 'water' in params) return t('check.filled.water', written);
  if (name === 'ownName' && state === 'look')
    return params.rule
      ? t('check.ownName.look', { ...written, rule: words.word('sold', String(params.rule)) })
      : t('check.ownName.look.alone', written);
  return t(`check.${name}.${state}` as WordKey, written);
}

/** What the chosen market asks of the label: what is missing first, named before anything is printed. */
export function LabelChecks({
  view,
  market,
  batchId,
}: {
  view: LabelView;
  market: 'EU' | 'US';
  /** Whose moulding says until when the bars keep. */
  batchId?: string | undefined;
}) {
  const words = useWords();
  const { t } = words;
  const checks = [...view.checks].sort((a, b) => ORDER[a.state] - ORDER[b.state]);
  const missing = checks.filter((c) => c.state === 'missing').length;
  return (
    <Panel
      title={t('check.title', { market: t(`lab.market.${market}`) })}
      aside={missing > 0 ? t('check.missing', { n: missing }) : t('check.all')}
    >
      <ul className="grid gap-x-4 gap-y-1 sm:grid-cols-2">
        {checks.map((c, i) => (
          <li
            key={`${c.name}${i}`}
            className={`flex gap-2 text-[13.5px] ${c.state === 'missing' ? 'font-semibold text-bad sm:col-span-2' : c.state === 'look' ? 'text-ink' : 'text-ink-2'}`}
          >
            {c.state === 'met' ? (
              <Check size={17} className="mt-0.5 shrink-0 text-ok" aria-label={t('check.met')} />
            ) : c.state === 'missing' ? (
              <TriangleAlert size={17} className="mt-0.5 shrink-0" aria-label={t('check.is-missing')} />
            ) : (
              <Eye size={17} className="mt-0.5 shrink-0" aria-label={t('check.look')} />
            )}
            {c.name === 'address' && c.state === 'missing' ? (
              <Link to="/settings" className="underline underline-offset-4">
                {checkText(c, words)}
              </Link>
            ) : c.name === 'bestBefore' && c.state !== 'met' && batchId ? (
              <Link to={`/mould/${batchId}`} className="underline underline-offset-4">
                {checkText(c, words)}
              </Link>
            ) : (
              <span>{checkText(c, words)}</span>
            )}
          </li>
        ))}
      </ul>
      <p className="mt-2 text-[12px] text-ink-3">
        {words.word('source', view.source)}. {t('label.law')}
      </p>
    </Panel>
  );
}
