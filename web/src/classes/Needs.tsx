import { Link } from 'react-router';
import type { ClassView } from '@wunsch/contract';
import { Panel } from '../ui/Panel.tsx';
import { useWords, type Words } from '../words/words.tsx';
import { comingTo, stuffName } from './classNames.ts';

/** What is done before a class begins, and when. */
export function Before({ of }: { of: ClassView }) {
  const words = useWords();
  const { t } = words;
  const start = Date.parse(of.startsAt);
  return (
    <Panel title={t('class.before')}>
      <ul className="grid gap-2 text-[13.5px]">
        {of.sheet.before.map(({ what, hoursBefore, massMg }) => (
          <li key={what} className="grid grid-cols-[7.5rem_1fr] gap-2">
            <span className="num text-ink-2">
              {hoursBefore >= 12
                ? `${words.day(new Date(start - hoursBefore * 3_600_000).toISOString())}`
                : words.time(new Date(start - hoursBefore * 3_600_000).toISOString())}
            </span>
            <span>{t(`class.before.${what}`, { mass: massMg ? words.mass(massMg) : '' })}</span>
          </li>
        ))}
      </ul>
    </Panel>
  );
}

/** What a class takes, against what there is: with every place taken as long as it lies ahead, since that is what is bought for. */
export function Needs({ of }: { of: ClassView }) {
  const words = useWords();
  const { t } = words;
  // What is on the shelf today says nothing about a class that has been.
  const isAhead = of.held === null && of.state === 'planned';
  const coming = comingTo(of).length;
  const isFull = !isAhead || coming >= of.places;
  return (
    <Panel title={t('class.needs')} aside={!isFull && t('class.cost.full', { n: of.places })}>
      <ul className="grid gap-1.5 text-[13.5px]">
        {of.needs.map((n) => (
          <Need
            key={`${n.what} ${n.name}`}
            of={of}
            need={n}
            coming={coming}
            isAhead={isAhead}
            isFull={isFull}
          />
        ))}
      </ul>
      {of.base.of === 'recipe' && isAhead && (
        <p className="mt-2 text-[13px] text-ink-2">
          {t('class.needs.planned')}{' '}
          <Link to="/plan" className="underline underline-offset-4">
            {t('plan')}
          </Link>
        </p>
      )}
    </Panel>
  );
}

/** One thing a class takes: how much with every place taken, how much of it for those who come, and what is there. */
function Need({
  of,
  need,
  coming,
  isAhead,
  isFull,
}: {
  of: ClassView;
  need: ClassView['needs'][number];
  /** How many come. */
  coming: number;
  isAhead: boolean;
  isFull: boolean;
}) {
  const words = useWords();
  const { t } = words;
  const massMg = isFull ? need.massMg : (need.fullMg ?? need.massMg);
  const pieces = isFull ? need.pieces : (need.fullPieces ?? need.pieces);
  const short =
    massMg !== null && need.onHandMg !== null && need.onHandMg < massMg ? massMg - need.onHandMg : 0;
  const now =
    isFull || coming === 0 || need.massMg === null || need.massMg === massMg
      ? null
      : t('class.needs.now', { n: coming, mass: words.mass(need.massMg) });
  const there = massMg !== null && isAhead ? thereOf(of, need, short, words) : null;
  return (
    <li className="flex flex-wrap justify-between gap-x-3">
      <span>{need.what === 'beans' ? t('class.needs.beans') : stuffName(need.name, words)}</span>
      <span className="num ml-auto text-right">
        {massMg === null ? t('class.needs.moulds', { n: pieces ?? 0 }) : words.mass(massMg)}
        {there && (
          <span className={`ml-2 text-[12.5px] ${short > 0 ? 'font-semibold text-bad' : 'text-ink-3'}`}>
            {there}
          </span>
        )}
        {now && (
          <span className="block font-body text-[12.5px] font-normal tracking-normal text-ink-3">{now}</span>
        )}
      </span>
    </li>
  );
}

/** What there is of something a class takes, in words. */
function thereOf(of: ClassView, need: ClassView['needs'][number], short: number, words: Words): string {
  const { t } = words;
  if (short > 0) return `▲ ${t('class.needs.short', { mass: words.mass(short) })}`;
  if (need.what === 'base' && of.base.of === 'recipe') return t('class.needs.to-make');
  if (need.onHandMg === null) return t('class.needs.unknown');
  return t('class.needs.here', { mass: words.mass(need.onHandMg) });
}
