import { useState } from 'react';
import { Link } from 'react-router';
import type { BatchView, Tasting } from '@wunsch/contract';
import { signsTasted } from '@wunsch/core/faults';
import { useMayMake, useMayTaste } from '../../shell/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { Chip, Figure, Panel } from '../../ui/Panel.tsx';
import { Tabs } from '../../ui/Tabs.tsx';
import { useWords } from '../../words/words.tsx';
import { StationFrame } from '../StationFrame.tsx';
import { FullCard } from './FullCard.tsx';
import { ReadLabel } from './ReadLabel.tsx';
import { sessionPath, useSessions } from './sessions/useSessions.ts';
import { QuickCard } from './QuickCard.tsx';
import { useCurrentStrokes, useNoteList } from './useNoteList.ts';
import { NoteListDialog } from './NoteListDialog.tsx';
import { SessionSayings, timesTasted } from './SessionSayings.tsx';
import { useSave } from './useSave.ts';
import { TastingStrip } from './TastingStrip.tsx';

/** Sourness and grit of a card, whichever form it has. */
function figures(tasting: Tasting): { sour: number | null; grit: number | null } {
  const { card } = tasting;
  if (card.form === 'quick') return { sour: card.sour, grit: card.grit };
  return { sour: card.basics.sour?.strength ?? null, grit: card.texture.grit ?? null };
}

/** From a card that found something wrong to what it may come from, with what it found already said. */
function FromCard({ batchId, card }: { batchId: string; card: Tasting['card'] }) {
  const { t } = useWords();
  const signs = signsTasted(card);
  if (signs.length === 0) return null;
  return (
    <Link
      to={`/case/new?batch=${batchId}&signs=${signs.join(',')}`}
      className="inline-flex min-h-11 items-center self-center text-[13.5px] font-semibold underline underline-offset-4"
    >
      {t('taste.why', { signs: signs.map((s) => t(`sign.${s}`)).join(', ') })}
    </Link>
  );
}

/** Everyone's tastings of a batch. */
export function Tastings({ view }: { view: BatchView }) {
  const words = useWords();
  const { t } = words;
  const current = useCurrentStrokes();
  if (timesTasted(view) === 0) return <p className="text-ink-3">{t('taste.none')}</p>;
  return (
    <ul className="grid grid-cols-1 gap-4">
      {view.tastings.map((x) => {
        const { sour, grit } = figures(x);
        return (
          <li key={x.id} className="min-w-0 border-b border-line pb-3">
            <div className="flex flex-wrap gap-6">
              <Figure name={`${x.by}, ${words.when(x.at)}`} note={t(`form.${x.card.form}`)}>
                {words.number(x.card.liking)}{' '}
                <span className="text-[13px] font-normal">{words.within(t('liking'))}</span>
              </Figure>
              <Figure name={t('basic.sour')}>{sour ?? '—'}</Figure>
              <Figure name={t('texture.grit')}>{grit ?? '—'}</Figure>
              {x.card.words && <p className="max-w-prose grow self-center">{x.card.words}</p>}
              <FromCard batchId={view.batch.id} card={x.card} />
            </div>
            {x.card.form === 'full' && x.card.strip.length > 0 && (
              <TastingStrip strokes={current(x.card.strip)} />
            )}
          </li>
        );
      })}
      <SessionSayings impressions={view.impressions} />
    </ul>
  );
}

function TastingTabs({ view }: { view: BatchView }) {
  const { t } = useWords();
  const save = useSave(view);
  const mayTaste = useMayTaste();
  const [tab, setTab] = useState('quick');
  const all = (
    <Panel title={mayTaste ? undefined : t('taste.all', { n: timesTasted(view) })}>
      <Tastings view={view} />
    </Panel>
  );
  if (!mayTaste) return all;
  return (
    <Tabs
      label={t('station.taste')}
      value={tab}
      onChange={setTab}
      sheets={[
        { id: 'quick', title: t('taste.quick'), content: <QuickCard key={view.batch.id} save={save} /> },
        {
          id: 'full',
          title: t('taste.full'),
          content: (
            <FullCard key={view.batch.id} cardKey={view.batch.id} save={save} onSaved={() => setTab('all')} />
          ),
        },
        {
          id: 'all',
          title: t('taste.all', { n: timesTasted(view) }),
          content: all,
        },
      ]}
    />
  );
}

/** A session that tastes now is one tap away. */
function NowTasting() {
  const { t } = useWords();
  const { data } = useSessions();
  return data
    ?.filter((s) => s.status === 'tasting')
    .map((s) => (
      <Link
        key={s.id}
        to={sessionPath(s.id)}
        className="panel mb-2 flex min-h-12 flex-wrap items-center gap-x-4 gap-y-1 px-4 py-2 hover:bg-panel-2"
      >
        <span className="font-semibold">{s.title}</span>
        <Chip>
          <span aria-hidden="true">●&nbsp;</span>
          {t('panel.status.tasting')}
        </Chip>
        <span className="num ml-auto text-[13px] text-ink-2">
          {t('panel.seat.done', { done: s.cards, of: s.seats.reduce((sum, x) => sum + x.of, 0) })}
        </span>
      </Link>
    ));
}

/** Taste: the quick card and the full one with its strip. */
export default function TastePage() {
  const { t } = useWords();
  const mayMake = useMayMake();
  const { data: notes } = useNoteList();
  const [editing, setEditing] = useState(false);
  return (
    <StationFrame
      station="taste"
      action={
        <span className="flex flex-wrap gap-2">
          <ReadLabel />
          {mayMake && notes && <Button onClick={() => setEditing(true)}>{t('notes.edit')}</Button>}
          <Link
            to="/taste/batches"
            className="grid min-h-11 place-items-center rounded border border-edge bg-panel px-3 text-[13.5px] font-semibold hover:bg-panel-2"
          >
            {t('tasted.title')}
          </Link>
          <Link
            to="/taste/sessions"
            className="grid min-h-11 place-items-center rounded border border-edge bg-panel px-3 text-[13.5px] font-semibold hover:bg-panel-2"
          >
            {t('panel.sessions')}
          </Link>
          {editing && notes && <NoteListDialog list={notes} onClose={() => setEditing(false)} />}
        </span>
      }
    >
      {(view) => (
        <>
          <NowTasting />
          <TastingTabs view={view} />
        </>
      )}
    </StationFrame>
  );
}
