import { Link } from 'react-router';
import type { BatchView } from '@wunsch/contract';
import { mean } from '@wunsch/core/numerics';
import { STAGE } from '../shell/glyphs.tsx';
import { likingsOf } from '../stations/taste/SessionSayings.tsx';
import { useWords } from '../words/words.tsx';
import { lotPrice } from '../ui/lotPrice.ts';

/** A card for each station the batch has been at, with what went in, came out and was lost. */
export function StationCards({ view }: { view: BatchView }) {
  const words = useWords();
  const { t } = words;
  const likings = likingsOf(view);
  return (
    <ul className="mt-2 grid grid-cols-2 gap-1 sm:grid-cols-3 lg:grid-cols-5 xl:grid-cols-9">
      {view.flow.stations.map((s) => {
        const rows: [string, string][] = [];
        if (s.inMg > 0) rows.push([t('in'), words.mass(s.inMg)]);
        for (const a of s.additions.slice(0, 2))
          rows.push([words.word('ingredient', a.label), words.mass(a.massMg)]);
        for (const l of s.losses.filter((x) => x.massMg !== 0).slice(0, 2))
          rows.push([words.word('loss', l.reason), words.mass(l.massMg)]);
        if (s.outMg > 0) rows.push([t('out'), words.mass(s.outMg)]);
        const grind = s.station === 'grind' ? view.grind.at(-1) : undefined;
        if (grind) rows.push([t('grind.hours'), `${words.number(grind.hours, 1)} h`]);
        if (s.station === 'taste' && likings.length > 0)
          rows.push([t('liking'), words.number(mean(likings), 1)]);
        if (s.station === 'beans')
          rows.push(
            [t('lot'), view.lot.code],
            [t('lot.price', { unit: words.heavyUnit }), lotPrice(view.lot, words)],
          );
        const ahead = s.state === 'ahead' || s.state === 'skipped';
        return (
          <li key={s.station}>
            <Link
              to={s.station === 'beans' ? `/beans/${view.lot.id}` : `/${s.station}/${view.batch.id}`}
              className={`block h-full min-h-[120px] overflow-hidden rounded border bg-panel hover:bg-panel-2 ${s.station === view.flow.here ? 'border-2 border-violet-text' : 'border-line'} ${ahead ? 'border-dashed' : ''}`}
            >
              <span
                aria-hidden="true"
                className="block h-[5px]"
                style={{ background: STAGE[s.station].fill }}
              />
              <span className="block px-2 pb-2 pt-1">
                <span className="flex justify-between gap-1 text-[12.5px] font-semibold">
                  <span className="truncate">{t(`station.${s.station}`)}</span>
                </span>
                <span className="block text-[12px] text-ink-3">{t(`station-state.${s.state}`)}</span>
                {rows.map(([name, value]) => (
                  <span key={name + value} className="mt-1 block border-t border-line pt-1">
                    <span className="block truncate text-[12px] text-ink-3">{name}</span>
                    <span className="num block truncate text-[13.5px]">{value}</span>
                  </span>
                ))}
              </span>
            </Link>
          </li>
        );
      })}
    </ul>
  );
}
