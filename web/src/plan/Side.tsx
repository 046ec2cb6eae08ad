import { Link } from 'react-router';
import { useMemo, useState } from 'react';
import type { PlanRoomView } from '@wunsch/contract';
import {
  chancesToLearn,
  differencesOf,
  openSpans,
  UNATTENDED,
  type Broken,
  type ChanceToLearn,
  type Help,
  type Move,
  type PlannedStep,
} from '@wunsch/core/plan';
import { useMayMake } from '../shell/session.tsx';
import { Button } from '../ui/Button.tsx';
import { FaultBox } from '../ui/FaultBox.tsx';
import { useWords, type Words } from '../words/words.tsx';
import type { Block } from './blocks.ts';
import { CannotMake } from './CannotMake.tsx';
import { Differences, isOther } from './Differences.tsx';
import { Instead } from './Instead.tsx';
import { daysWords, orderName, placeName, setUpWords, whoName } from './names.ts';
import { Short } from './Short.tsx';
import type { PlanHere } from './usePlan.ts';

/** What stands beside the board: a batch that was chosen, what has moved and why, and what holds things back. */
export function Side({
  room,
  here,
  chosen,
  broken,
  isBeside,
  onBeside,
  onLeave,
}: {
  room: PlanRoomView;
  here: PlanHere;
  chosen: { batch: string; block: Block | null } | null;
  broken: readonly Broken[];
  /** Whether the plan in force is drawn beside, and turning that on and off. */
  isBeside: boolean;
  onBeside: () => void;
  onLeave: () => void;
}) {
  const words = useWords();
  const { t } = words;
  const mayMake = useMayMake();
  const { plan, proposal, repair, kept, helps } = here;
  const moves = repair?.moves ?? [];
  const isNew = kept === null && plan !== null && plan.steps.length > 0;
  // Those that fare otherwise than in the plan in force.
  const others = kept && plan ? differencesOf(kept.orders, plan.orders).filter(isOther) : [];
  // A promise that nothing can be made for is ready at no time.
  const isPromised = plan !== null && plan.orders.some((o) => o.ready !== null);
  const hasNews = isNew || proposal !== null || moves.length > 0 || (repair?.added.length ?? 0) > 0;
  return (
    <div className="grid gap-4 p-4">
      {broken.length > 0 && (
        <FaultBox role="status">
          {t('plan.breaks', { what: [...new Set(broken.map((b) => t(`plan.rule.${b.rule}`)))].join(', ') })}
        </FaultBox>
      )}
      {chosen && plan && (
        // What was typed for one step is nothing to another.
        <BatchSteps
          key={`${chosen.batch} ${chosen.block?.key}`}
          room={room}
          here={here}
          batch={chosen.batch}
          block={chosen.block}
          onLeave={onLeave}
        />
      )}
      {plan && hasNews && (
        <section aria-label={t('plan.news')} className="rounded border border-line-2 p-3">
          <h2 className="text-[16px]">
            {t(isNew ? 'plan.first' : proposal ? 'plan.proposed' : 'plan.mended')}
          </h2>
          <p className="mt-1 text-[13px] text-ink-2">
            {isNew
              ? t('plan.first.text')
              : moves.length > 0
                ? t('plan.moves', { n: moves.length })
                : t(proposal ? 'plan.proposed.text' : 'plan.mended.text')}
          </p>
          {moves.length > 0 && <Moves room={room} moves={moves} />}
          {others.length > 0 && (
            <div className="mt-2">
              <Differences room={room} differences={others} caption={t('plan.orders-then')} />
            </div>
          )}
          <div className="mt-3 flex flex-wrap gap-2">
            {kept && (
              <Button aria-pressed={isBeside} onClick={onBeside}>
                {t('plan.side-by-side')}
              </Button>
            )}
          </div>
          {mayMake && (
            <div className="mt-3 flex flex-wrap gap-2">
              <Button look="main" onClick={() => void here.accept(plan, here.pins).catch(() => undefined)}>
                {t('plan.accept')}
              </Button>
              {proposal && <Button onClick={here.drop}>{t('plan.drop')}</Button>}
            </div>
          )}
        </section>
      )}
      {repair?.instead && plan && (
        <Instead room={room} now={plan} instead={repair.instead} onLook={here.lookAt} />
      )}
      {plan && plan.busiest.length > 0 && (
        <section>
          <h2 className="text-[13px] font-semibold text-ink-3">{t('plan.holds-back')}</h2>
          <p className="mt-1 text-[13.5px]">
            {t(isPromised ? 'plan.busiest' : 'plan.busiest.unpromised', {
              who: placeName(plan.busiest[0]!.id, t) ?? whoName(room, plan.busiest[0]!.id),
              share: words.percent(plan.busiest[0]!.share, 0),
            })}
          </p>
          {helps.slice(0, 2).map((h) => (
            <p key={JSON.stringify(h.change)} className="mt-1 text-[13.5px]">
              {helpWords(room, h, words)}
            </p>
          ))}
          {helps.length === 0 && isPromised && (
            <p className="mt-1 text-[13px] text-ink-3">{t('plan.no-help')}</p>
          )}
        </section>
      )}
      {plan && <Learning room={room} steps={plan.steps} />}
      {plan && <Short room={room} materials={plan.needs.materials} steps={plan.steps} />}
      {plan && <CannotMake room={room} needs={plan.needs} />}
    </div>
  );
}

/** Most chances to learn shown at once. */
const CHANCES = 5;

const WEEK = 7 * 86_400_000;

/** Names said one by one; of the others their number. */
const NAMED = 4;

/** Chances at the same step, those of one step together. */
function together(chances: readonly ChanceToLearn[]): [ChanceToLearn, ...ChanceToLearn[]][] {
  const steps = new Map<string, [ChanceToLearn, ...ChanceToLearn[]]>();
  for (const c of chances) {
    const there = steps.get(c.stepKey);
    if (there) there.push(c);
    else steps.set(c.stepKey, [c]);
  }
  return [...steps.values()];
}

function namesOf(room: PlanRoomView, chances: readonly ChanceToLearn[], t: Words['t']): string {
  const names = chances.slice(0, NAMED).map((c) => whoName(room, c.personId));
  const more = chances.length - names.length;
  return names.join(', ') + (more > 0 ? ` ${t('plan.learn.more', { n: more })}` : '');
}

/** Who could stand beside whom this week; nothing in a workshop that signs nobody off. */
function Learning({ room, steps }: { room: PlanRoomView; steps: readonly PlannedStep[] }) {
  const words = useWords();
  const { t } = words;
  const chances = useMemo(() => {
    if (room.signed.length === 0) return [];
    const spans = new Map(
      room.people.map((p) => [
        p.id,
        openSpans(
          room,
          p.week ?? room.week,
          room.absences.filter((a) => a.who === null || a.who === p.id),
          8,
        ),
      ]),
    );
    return chancesToLearn({
      steps,
      people: room.people,
      signed: room.signed,
      free: new Set(room.free),
      from: room.now,
      until: new Date(Date.parse(room.now) + WEEK).toISOString(),
      isThere: (id, start, end) =>
        (spans.get(id) ?? []).some(([a, b]) => a <= Date.parse(start) && b >= Date.parse(end)),
    });
  }, [room, steps]);
  return (
    <>
      {room.openStations.length > 0 && (
        <p className="text-[13px] text-ink-2">
          {t('plan.open-stations', {
            stations: room.openStations.map((s) => t(`station.${s}`)).join(', '),
          })}
        </p>
      )}
      {chances.length > 0 && (
        <section>
          <h2 className="text-[13px] font-semibold text-ink-3">{t('plan.learn')}</h2>
          <ul className="mt-1 grid gap-1 text-[13.5px]">
            {together(chances)
              .slice(0, CHANCES)
              .map(([first, ...others]) => (
                <li key={first.stepKey}>
                  {t('plan.learn.row', {
                    who: namesOf(room, [first, ...others], t),
                    station: t(`station.${first.station}`),
                    teacher: whoName(room, first.teacherId),
                    when: words.when(first.start),
                    code: first.code,
                  })}
                </li>
              ))}
          </ul>
        </section>
      )}
    </>
  );
}

/** What one thing more would buy, in a sentence. */
function helpWords(room: PlanRoomView, { change, orderId, sooner }: Help, words: Words): string {
  const { t } = words;
  const order = orderName(room, orderId, t);
  const by = daysWords(sooner, words);
  switch (change.kind) {
    case 'second':
      return t('plan.help.second', { name: whoName(room, change.machineId), order, by });
    case 'moulds':
      return t('plan.help.moulds', { n: change.count, order, by });
    case 'evening':
      return t('plan.help.evening', { name: whoName(room, change.personId), order, by });
    default:
      return '';
  }
}

/** What lies elsewhere than before, and why. */
function Moves({ room, moves }: { room: PlanRoomView; moves: readonly Move[] }) {
  const words = useWords();
  const { t } = words;
  const [all, setAll] = useState(false);
  const shown = all ? moves : moves.slice(0, 4);
  const why = (m: Move) => {
    if (m.why.kind === 'after')
      return t('plan.why.after', { code: m.why.code, stage: t(`plan.stage.${m.why.stage}`) });
    if (m.why.kind === 'away') return t('plan.why.away', { who: whoName(room, m.why.who) });
    if (m.why.kind === 'for') return t('plan.why.for', { stage: t(`plan.stage.${m.why.stage}`) });
    return t(m.why.kind === 'pinned' ? 'plan.why.pinned' : 'plan.why.rule');
  };
  return (
    <>
      <ul className="mt-2">
        {shown.map((m) => (
          <li key={`${m.key} ${m.ready?.kind ?? ''}`} className="border-t border-line py-1.5 text-[13px]">
            <span className="font-semibold">{m.code}</span>{' '}
            {m.ready
              ? t(`plan.ready.${m.ready.kind}`, { machine: whoName(room, m.ready.machineId) })
              : t(`plan.stage.${m.stage}`)}
            <span className="block">
              {m.from === m.to ? (
                words.when(m.to)
              ) : (
                <>
                  <s className="text-ink-3">{words.when(m.from)}</s> <b>{words.when(m.to)}</b>
                </>
              )}
              {m.given && ` · ${t('plan.given', { who: whoName(room, m.given.to) || '–' })}`}
            </span>
            <span className="block text-ink-3">{why(m)}</span>
          </li>
        ))}
      </ul>
      {moves.length > 4 && (
        <Button look="quiet" onClick={() => setAll(!all)}>
          {all ? t('plan.fewer') : t('plan.all', { n: moves.length })}
        </Button>
      )}
    </>
  );
}

/** A batch in the plan: its steps, who and when, latest starts; one of them can be held or pushed. */
function BatchSteps({
  room,
  here,
  batch,
  block,
  onLeave,
}: {
  room: PlanRoomView;
  here: PlanHere;
  batch: string;
  block: Block | null;
  onLeave: () => void;
}) {
  const words = useWords();
  const { t } = words;
  const mayMake = useMayMake();
  const steps = (here.plan?.steps ?? []).filter((s) => s.batch === batch && s.stage !== 'set');
  const [notBefore, setNotBefore] = useState('');
  const own = steps.find((s) => block?.steps.some((x) => x.key === s.key) && !s.begun);
  if (steps.length === 0) return null;
  const pin = own ? here.pins.find((p) => p.step === own.key) : undefined;
  const [first] = steps;
  const lot = room.lots.find((l) => l.id === first!.lotId);
  const recipe = room.recipes.find((r) => r.id === first!.recipeId);
  return (
    <section aria-label={first!.code} className="rounded border border-line-2 p-3">
      <div className="flex items-start justify-between gap-2">
        <div>
          <h2 className="text-[22px] leading-tight">{first!.code}</h2>
          <p className="text-[13px] text-ink-2">{[recipe?.name, lot?.name].filter(Boolean).join(', ')}</p>
        </div>
        <Button look="quiet" onClick={onLeave}>
          {t('close')}
        </Button>
      </div>
      <ul className="mt-2">
        {steps.map((s) => (
          <li
            key={s.key}
            className={`grid grid-cols-[1fr_auto] gap-x-2 border-t border-line py-1 text-[13px] ${own?.key === s.key ? 'bg-violet-tint' : ''}`}
          >
            <span className="font-semibold">
              {t(`plan.stage.${s.stage}`)}
              {s.parts > 1 && ` ${s.part}/${s.parts}`}
            </span>
            <span className="num">{words.when(s.start)}</span>
            <span className="text-ink-3">
              {doing(room, s, t)}
              {s.setUp && !s.begun && (
                <span className={`block ${s.setUp.hands === null ? 'font-semibold text-bad' : 'text-ink-2'}`}>
                  {setUpWords(s, whoName(room, s.machineId), words, (id) => whoName(room, id))}
                </span>
              )}
            </span>
            <span className="num text-ink-3">
              {s.latest && !s.begun ? t('plan.latest', { when: words.when(s.latest) }) : ''}
            </span>
          </li>
        ))}
      </ul>
      <div className="mt-3 flex flex-wrap items-end gap-2">
        {first!.batchId && (
          <Link
            to={`/batch/${first!.batchId}`}
            className="inline-flex min-h-11 items-center rounded border border-edge px-4 font-semibold hover:bg-panel-2"
          >
            {t('plan.open-batch')}
          </Link>
        )}
        {mayMake && own && (
          <>
            {pin ? (
              <Button onClick={() => void here.pinStep(own.key, null)}>{t('plan.loosen')}</Button>
            ) : (
              <Button onClick={() => void here.pinStep(own.key, { step: own.key, at: own.start, how: 'at' })}>
                {t('plan.pin')}
              </Button>
            )}
            <label className="grid gap-1 text-[12.5px] font-medium text-ink-2">
              {t('plan.not-before')}
              <input
                type="datetime-local"
                value={notBefore}
                onChange={(e) => setNotBefore(e.target.value)}
                className="min-h-11 rounded border border-edge bg-panel px-2 text-[14px]"
              />
            </label>
            <Button
              disabled={!notBefore}
              onClick={() =>
                void here.pinStep(own.key, {
                  step: own.key,
                  at: new Date(notBefore).toISOString(),
                  how: 'not before',
                })
              }
            >
              {t('plan.push')}
            </Button>
          </>
        )}
      </div>
    </section>
  );
}

/** Who does a step, with what. */
function doing(room: PlanRoomView, s: PlannedStep, t: Words['t']): string {
  if (s.begun) return [t('plan.begun'), whoName(room, s.machineId)].filter(Boolean).join(', ');
  const who = UNATTENDED.has(s.stage) ? t('plan.by-itself') : whoName(room, s.personId);
  return [who, whoName(room, s.machineId)].filter(Boolean).join(', ');
}
