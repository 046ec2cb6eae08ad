import { Link } from 'react-router';
import type { ClassView } from '@wunsch/contract';
import { Panel } from '../ui/Panel.tsx';
import { useWords } from '../words/words.tsx';
import { stuffName } from './classNames.ts';

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

/** What a class takes, against what there is. */
export function Needs({ of }: { of: ClassView }) {
  const words = useWords();
  const { t } = words;
  // What is on the shelf today says nothing about a class that has been.
  const isAhead = of.held === null && of.state === 'planned';
  return (
    <Panel title={t('class.needs')}>
      <ul className="grid gap-1.5 text-[13.5px]">
        {of.needs.map((n) => {
          const short =
            n.massMg !== null && n.onHandMg !== null && n.onHandMg < n.massMg ? n.massMg - n.onHandMg : 0;
          return (
            <li key={`${n.what} ${n.name}`} className="flex flex-wrap justify-between gap-x-3">
              <span>{stuffName(n.name, words)}</span>
              <span className="num">
                {n.massMg === null ? t('class.needs.moulds', { n: n.pieces ?? 0 }) : words.mass(n.massMg)}
                {n.massMg !== null && isAhead && (
                  <span
                    className={`ml-2 text-[12.5px] ${short > 0 ? 'font-semibold text-bad' : 'text-ink-3'}`}
                  >
                    {short > 0
                      ? `▲ ${t('class.needs.short', { mass: words.mass(short) })}`
                      : n.what === 'base' && of.base.of === 'recipe'
                        ? t('class.needs.to-make')
                        : n.onHandMg === null
                          ? t('class.needs.unknown')
                          : t('class.needs.here', { mass: words.mass(n.onHandMg) })}
                  </span>
                )}
              </span>
            </li>
          );
        })}
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
