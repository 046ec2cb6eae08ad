import { Scale } from 'lucide-react';
import { Link, useLocation, useNavigate } from 'react-router';
import { stepInSight } from './chosenStep.ts';
import type { BatchView, MovementRecord } from '@wunsch/contract';
import { lotWords } from '@wunsch/core/beans';
import { Button } from '../ui/Button.tsx';
import { focusPage } from '../ui/focusPage.ts';
import { Chip } from '../ui/Panel.tsx';
import { useWords, type Words } from '../words/words.tsx';
import { useBatchState } from './useBatchState.ts';
import { useDraft } from './useDraft.ts';
import { useEntryHere } from './useEntryHere.ts';
import { newId } from './entry.ts';
import { Glyph, STAGE } from './glyphs.tsx';
import { isMissing } from './api.ts';
import { useBatch, useInHand } from './inhand.ts';
import { isAllDone, isDue, leftToTakeUp, nextWords } from './nextWords.ts';
import { useNow } from './now.ts';
import { useMayMake, useMayTaste } from './session.tsx';
import { observationText } from './observationText.ts';

/** One line of the last entries. */
interface LastEntry {
  id: string;
  at: string;
  by: string;
  text: string;
}

function movementText(m: MovementRecord, words: Words): string {
  const what =
    m.direction === 'loss'
      ? words.word('loss', m.reason ?? '')
      : m.ingredientId
        ? words.word('ingredient', m.label ?? '')
        : words.word('material', m.material ?? '');
  return words.t(`entry.${m.direction}`, { what, mass: words.mass(m.massMg) });
}

/** The latest weights and observations of a batch, newest first. */
export function lastEntries(view: BatchView, words: Words, count: number): LastEntry[] {
  const weights = view.movements
    .filter((m) => m.inForce && (m.source !== 'derived' || m.direction === 'in'))
    .map((m) => ({ id: m.id, at: m.at, by: m.by, text: movementText(m, words) }));
  const seen = view.observations.map((o) => ({
    id: o.id,
    at: o.at,
    by: o.by,
    text: observationText(o.data, words),
  }));
  return [...weights, ...seen].sort((a, b) => b.at.localeCompare(a.at)).slice(0, count);
}

/** Most letters of a code that find room beside the station in large type. */
const ROOM_FOR = 6;

/** The slip: the ticket of the batch in hand. */
export function Slip() {
  const words = useWords();
  const { t } = words;
  const id = useInHand();
  const { data: view, error } = useBatch(id);
  const now = useNow();
  const navigate = useNavigate();
  const mayMake = useMayMake();
  const mayTaste = useMayTaste();
  const setState = useBatchState();
  if (!id) return <p className="p-6 text-[13.5px] text-ink-3">{t('slip.nothing')}</p>;
  if (!view)
    return <p className="p-6 text-[13.5px] text-ink-3">{t(isMissing(error) ? 'slip.nothing' : 'loading')}</p>;
  const { batch, flow, next, lot } = view;
  const due = isDue(next, now);
  // While some of it is still on its way the bars so far are not all there is.
  const isAllBars = flow.bars > 0 && flow.here === 'taste';
  const action = nextWords(batch, next, words);
  const allDone = isAllDone(view);
  const leftMg = next.code === 'nothing' ? leftToTakeUp(view) : 0;
  const last = lastEntries(view, words, 6);
  // Where one stands at its page already as well: the work is on the page, so Tab goes on there and not in the slip.
  const goTo = (path: string) => {
    void navigate(path);
    focusPage();
  };
  return (
    <div className="flex h-full flex-col">
      <div className="px-[18px] pb-4 pt-6">
        <div className="flex justify-between text-[12px] text-ink-3">
          <span>{t('slip.in-hand')}</span>
          {batch.state !== 'open' && (
            <Chip tone={batch.state === 'finished' ? 'ok' : 'bad'}>{t(`state.${batch.state}`)}</Chip>
          )}
        </div>
        <div className="mt-0.5 flex items-end justify-between gap-2">
          <Link
            to={`/batch/${batch.id}`}
            className={`num leading-none hover:underline ${batch.code.length > ROOM_FOR ? 'text-[27px]' : 'text-[40px]'}`}
            style={{ letterSpacing: '-0.035em' }}
          >
            {batch.code}
          </Link>
          <span className="flex items-center gap-1.5 pb-1 text-[13px] font-semibold">
            <Glyph station={flow.here} size={17} />
            {t(`station.${flow.here}`)}
          </span>
        </div>
        <p className="mt-2.5 font-semibold">
          {lotWords(lot.name, lot.harvest).join(' ')}
          {lot.country && `, ${lot.country}`}
        </p>
        <p className="text-[12.5px] text-ink-3">
          {view.recipe ? `${view.recipe.name}, ` : ''}
          {t('slip.begun', { when: words.day(batch.startedAt), by: batch.by })}
        </p>
        <ol className="mt-3 flex items-center justify-between" aria-label={t('slip.stations')}>
          {flow.stations.map((s) => {
            const here = s.station === flow.here && s.state !== 'not needed';
            const state = here ? 'here' : s.state;
            const filled = here || state === 'done' || state === 'running' || state === 'skipped';
            return (
              <li
                key={s.station}
                title={`${t(`station.${s.station}`)}: ${t(`station-state.${state}`)}`}
                className={
                  state === 'not needed'
                    ? 'h-[2px] w-[10px]'
                    : `size-[14px] rounded-full border ${here ? 'border-2 outline-2 outline-offset-2 outline-violet-text' : ''} ${state === 'skipped' ? 'opacity-40' : ''}`
                }
                style={{
                  background:
                    state === 'not needed' ? 'var(--edge)' : filled ? STAGE[s.station].fill : 'transparent',
                  borderColor: 'var(--edge)',
                }}
              >
                <span className="sr-only">{`${t(`station.${s.station}`)}: ${t(`station-state.${state}`)}`}</span>
              </li>
            );
          })}
        </ol>
        <div className="mt-3 flex items-end justify-between gap-2">
          <span className="num text-[30px] leading-none">
            {isAllBars ? t('bars.n', { n: words.number(flow.bars) }) : words.mass(flow.nowMg)}
          </span>
          <span className="grid text-right text-[12px] text-ink-3">
            {flow.bars > 0 && !isAllBars && <span>{t('slip.bars', { n: words.number(flow.bars) })}</span>}
            {flow.startMg > 0 && <span>{t('slip.from', { mass: words.mass(flow.startMg) })}</span>}
          </span>
        </div>
      </div>
      <div aria-hidden="true" className="relative border-t-2 border-dotted border-line-2">
        <span className="absolute -left-[9px] -top-[8px] size-[14px] rounded-full border border-line-2 bg-paper" />
        <span className="absolute -right-[9px] -top-[8px] size-[14px] rounded-full border border-line-2 bg-paper" />
      </div>
      <div className="grow px-[10px] pt-3">
        <section
          aria-label={t('slip.next')}
          className={`rounded p-3 ${due ? 'bg-signal text-on-signal' : 'border border-edge'}`}
        >
          <div className={`flex justify-between text-[12px] ${due ? 'text-on-signal' : 'text-ink-3'}`}>
            <span className="font-semibold">{due ? t('slip.due-now') : t('slip.next')}</span>
            <span>{next.dueAt ? words.when(next.dueAt) : ''}</span>
          </div>
          <h2 className="mt-0.5 text-[19px] leading-tight">
            {allDone && flow.bars > 0
              ? t('next.all-done')
              : leftMg > 0
                ? t('slip.left', { mass: words.mass(leftMg) })
                : action.title}
          </h2>
          {next.code !== 'nothing' && (mayMake || (mayTaste && next.station === 'taste')) && (
            <Button look="main" big className="mt-3 w-full" onClick={() => goTo(action.path)}>
              {action.button}
            </Button>
          )}
          {mayMake && allDone && (
            <Button look="main" big className="mt-3 w-full" onClick={() => setState(batch, 'finished')}>
              {t('batch.finish')}
            </Button>
          )}
          {mayMake && leftMg > 0 && (
            <Button className="mt-3 w-full" onClick={() => setState(batch, 'open')}>
              {t('batch.reopen')}
            </Button>
          )}
        </section>
        {last.length > 0 && (
          <h2 className="mt-4 px-2 text-[12.5px] font-medium text-ink-3" style={{ fontFamily: 'inherit' }}>
            {t('slip.last')}
          </h2>
        )}
        <ul className="px-2 [@media(max-height:840px)]:[&>li:nth-child(n+4)]:hidden">
          {last.map((e) => (
            <li key={e.id} className="flex gap-3 border-b border-line py-1.5 text-[12.5px]">
              <span className="min-w-16 shrink-0 tabular-nums text-ink-3">{words.when(e.at)}</span>
              <span className="grow truncate" title={e.text}>
                {e.text}
              </span>
              <span className="text-ink-3">{e.by}</span>
            </li>
          ))}
        </ul>
      </div>
      {mayMake && batch.state === 'open' && <QuickNote key={batch.id} view={view} />}
      <div className="flex gap-2 p-[10px]">
        <Button className="flex-1" onClick={() => goTo(`/batch/${batch.id}`)}>
          {t('slip.open')}
        </Button>
        {mayMake && next.code !== 'nothing' && (
          <Button
            className="flex-1"
            data-key-else="w"
            icon={<Scale size={17} aria-hidden="true" />}
            onClick={() => navigate(`${action.path}${action.path.includes('?') ? '&' : '?'}weigh=1`)}
          >
            {t('weigh')}
          </Button>
        )}
      </div>
    </div>
  );
}

function QuickNote({ view }: { view: BatchView }) {
  const words = useWords();
  const { t } = words;
  const send = useEntryHere();
  const { draft, change, keep } = useDraft({ text: '' });
  const location = useLocation();
  // What is written beside a machine is about that one.
  const open = view.steps.filter((s) => s.status === 'open');
  const meant = stepInSight(open, location)?.id ?? view.next.at?.stepId ?? open.at(-1)?.id ?? null;
  return (
    <form
      className="mt-3 flex gap-2 px-[10px]"
      onSubmit={(e) => {
        e.preventDefault();
        const text = draft.text.trim();
        if (text === '') return;
        void keep(() =>
          send({
            path: `/api/observations/${newId()}`,
            body: { batchId: view.batch.id, stepId: meant, data: { kind: 'note', text } },
            label: t('done.note'),
            batchId: view.batch.id,
            undo: true,
          }),
        );
      }}
    >
      <input
        id="slip-note"
        value={draft.text}
        onChange={(e) => change({ text: e.target.value })}
        aria-label={t('slip.note')}
        placeholder={t('slip.note')}
        className="min-h-11 w-full rounded border border-edge bg-panel px-3"
        autoComplete="off"
      />
      <Button type="submit">{t('slip.add')}</Button>
    </form>
  );
}
