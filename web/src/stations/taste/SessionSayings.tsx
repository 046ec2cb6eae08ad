import { Link } from 'react-router';
import type { BatchView, Impression } from '@wunsch/contract';
import { mean } from '@wunsch/core/numerics';
import { Figure } from '../../ui/Panel.tsx';
import { useWords } from '../../words/words.tsx';
import { sessionPath } from './sessions/useSessions.ts';

/** Every liking of a batch there is: from cards of its own page, and from opened sessions. */
export const likingsOf = ({ tastings, impressions }: BatchView): number[] => [
  ...tastings.map((x) => x.card.liking),
  ...impressions.map((x) => x.liking),
];

/** How often a batch was tasted. */
export const timesTasted = ({ tastings, impressions }: BatchView): number =>
  tastings.length + impressions.length;

/** What was said of a batch in opened sessions: a line for each, with what its glasses were thought of in the mean. */
export function SessionSayings({ impressions }: { impressions: readonly Impression[] }) {
  const words = useWords();
  const { t } = words;
  const ids = [...new Set(impressions.map((x) => x.sessionId))];
  const meanOf = (values: readonly (number | null)[]) => {
    const said = values.filter((v) => v !== null);
    return said.length > 0 ? words.number(mean(said), 1) : '—';
  };
  return ids.map((id) => {
    const mine = impressions.filter((x) => x.sessionId === id);
    const { session, at } = mine.at(-1)!;
    return (
      <li key={id} className="flex min-w-0 flex-wrap gap-6 border-b border-line pb-3">
        <Figure
          name={t('taste.inSession', { session: session!, when: words.when(at) })}
          note={t('taste.blindCards', { n: mine.length })}
        >
          {meanOf(mine.map((x) => x.liking))}{' '}
          <span className="text-[13px] font-normal">{words.within(t('liking'))}</span>
        </Figure>
        <Figure name={t('basic.sour')}>{meanOf(mine.map((x) => x.sour))}</Figure>
        <Figure name={t('texture.grit')}>{meanOf(mine.map((x) => x.grit))}</Figure>
        <Link
          to={sessionPath(id!)}
          className="inline-flex min-h-11 items-center self-center text-[13.5px] font-semibold underline underline-offset-4"
        >
          {t('taste.toSession')}
        </Link>
      </li>
    );
  });
}
