import { useMemo, useState } from 'react';
import type { HoldBegin, LotView } from '@wunsch/contract';
import {
  HOLD_METHODS,
  holdTime,
  probedHold,
  splitStack,
  StackModel,
  type HoldKind,
  type HoldTime,
  type Stack,
} from '@wunsch/core/hold';
import { SeriesChart, type Series } from '../../charts/SeriesChart.tsx';
import { newId } from '../../shell/entry.ts';
import { useNow } from '../../shell/now.ts';
import { Button } from '../../ui/Button.tsx';
import { Choice } from '../../ui/Field.tsx';
import { Chip, Panel } from '../../ui/Panel.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useDraft } from '../../shell/useDraft.ts';
import { useWords, type Words } from '../../words/words.tsx';
import { notesOf, useLotWork } from './useLot.ts';

const DAY = 86_400_000;

/** The pest hold of a lot: how long its stack needs, what the core probe says, and when it may go. */
export function HoldPanel({ view, mayMake }: { view: LotView; mayMake: boolean }) {
  const words = useWords();
  const { t } = words;
  const { lot } = view;
  const [planning, setPlanning] = useState(false);
  const hold = notesOf(view, 'hold').at(-1);
  return (
    <Panel
      title={t('pest.title')}
      aside={mayMake && !planning && <Button onClick={() => setPlanning(true)}>{t('pest.begin')}</Button>}
    >
      {planning ? (
        <HoldPlanner view={view} onClose={() => setPlanning(false)} />
      ) : lot.onHold && hold ? (
        <RunningHold view={view} hold={hold} mayMake={mayMake} />
      ) : (
        <p className="text-ink-3">{lot.onHold ? lot.holdReason || t('on-hold') : t('pest.none')}</p>
      )}
    </Panel>
  );
}

function HoldPlanner({ view, onClose }: { view: LotView; onClose: () => void }) {
  const words = useWords();
  const { t } = words;
  const work = useLotWork(view.lot);
  const [method, setMethod] = useState<HoldKind>('freezing');
  const [sides, setSides] = useState<[number | null, number | null, number | null]>([0.8, 0.5, 0.3]);
  const [parts, setParts] = useState<number | null>(1);
  const [startC, setStart] = useState<number | null>(20);
  const [airC, setAir] = useState<number | null>(HOLD_METHODS.freezing.airC);
  const [coreC, setCore] = useState<number | null>(HOLD_METHODS.freezing.coreC);
  const [days, setDays] = useState<number | null>(HOLD_METHODS.freezing.days);
  const choose = (kind: HoldKind) => {
    setMethod(kind);
    setAir(HOLD_METHODS[kind].airC);
    setCore(HOLD_METHODS[kind].coreC);
    setDays(HOLD_METHODS[kind].days);
  };
  const whole: Stack | null =
    sides.every((s) => s !== null && s > 0) && startC !== null && airC !== null
      ? { sides: sides as [number, number, number], startC, airC }
      : null;
  const stack = whole && parts ? splitStack(whole, parts) : null;
  const time = stack && coreC !== null && days !== null ? holdTime(stack, coreC, days) : null;
  const tight = whole && coreC !== null ? new StackModel(whole).daysTo(coreC) : null;
  const halved = whole && coreC !== null ? new StackModel(splitStack(whole, 2)).daysTo(coreC) : null;
  const side = (i: 0 | 1 | 2) => ({
    value: sides[i] === null ? null : sides[i]! * 1000,
    onChange: (v: number | null) =>
      setSides(sides.map((s, k) => (k === i ? (v === null ? null : v / 1000) : s)) as typeof sides),
  });
  const begin = async () => {
    if (!stack || coreC === null || days === null) return;
    const body: HoldBegin = {
      lotId: view.lot.id,
      method,
      sides: stack.sides as [number, number, number],
      startC: stack.startC,
      airC: stack.airC,
      coreC,
      days,
      reason: t(`pest.${method}`),
      wasOnHold: view.lot.onHold,
    };
    await work.send({
      path: `/api/holds/${newId()}`,
      body,
      label: t('done.hold', { code: view.lot.code }),
      undo: true,
    });
    onClose();
  };
  return (
    <form
      className="grid gap-3"
      onSubmit={(e) => {
        e.preventDefault();
        void begin().catch(() => undefined);
      }}
    >
      <Choice
        label={t('pest.school')}
        value={method}
        options={(['freezing', 'heat'] as const).map((m) => ({ value: m, label: t(`pest.${m}`) }))}
        onChange={choose}
      />
      <div className="grid grid-cols-2 gap-2 md:grid-cols-4">
        <Millimetres label={t('pest.length')} {...side(0)} />
        <Millimetres label={t('pest.width')} {...side(1)} />
        <Millimetres label={t('pest.height')} {...side(2)} />
        <QuantityField
          label={t('pest.parts')}
          dimension="count"
          value={parts}
          onChange={setParts}
          min={1}
          max={20}
        />
        <QuantityField
          label={t('pest.start')}
          dimension="temperature"
          value={startC}
          onChange={setStart}
          min={-30}
          max={60}
        />
        <QuantityField
          label={t('pest.air')}
          dimension="temperature"
          value={airC}
          onChange={setAir}
          min={-40}
          max={80}
        />
        <QuantityField
          label={t('pest.core')}
          dimension="temperature"
          value={coreC}
          onChange={setCore}
          min={-40}
          max={80}
        />
        <QuantityField
          label={t('pest.days')}
          dimension="count"
          value={days}
          onChange={setDays}
          min={0}
          max={60}
        />
      </div>
      {time && coreC !== null && (
        <p role="status" className="num text-[16px]">
          {time.daysInAll === null
            ? refusalText(time, coreC, words)
            : t('pest.result', {
                core: words.temperature(coreC, 0),
                days: words.number(time.daysToCore!, 2),
                all: words.number(time.daysInAll, 1),
              })}
        </p>
      )}
      {tight !== null && halved !== null && time?.daysToCore != null && (
        <p className="text-ink-2">
          {(parts ?? 1) > 1
            ? t('pest.gap', {
                tight: words.number(tight, 1),
                parts: parts!,
                gapped: words.number(time.daysToCore, 1),
              })
            : t('pest.gap.advice', { gapped: words.number(halved, 1) })}
        </p>
      )}
      {stack && time?.daysInAll != null && coreC !== null && (
        <StackCharts stack={stack} until={time.daysInAll} coreC={coreC} />
      )}
      <p className="text-[12.5px] text-ink-3">{t('pest.adviser')}</p>
      <div className="flex gap-2">
        <Button type="submit" look="main" disabled={!time?.daysInAll}>
          {t('pest.begin')}
        </Button>
        <Button look="quiet" onClick={onClose}>
          {t('cancel')}
        </Button>
      </div>
    </form>
  );
}

/** A length in cm or m, kept in mm. */
function Millimetres({
  label,
  value,
  onChange,
}: {
  label: string;
  value: number | null;
  onChange: (mm: number | null) => void;
}) {
  return (
    <QuantityField
      label={label}
      dimension="length"
      unit="cm"
      value={value === null ? null : value * 1000}
      onChange={(um) => onChange(um === null ? null : um / 1000)}
      min={10_000}
      max={20_000_000}
    />
  );
}

/** The core over time, and the temperature through the stack. */
function StackCharts({ stack, until, coreC }: { stack: Stack; until: number; coreC: number }) {
  const words = useWords();
  const { t } = words;
  const shown = words.degrees;
  const { core, across } = useMemo(() => {
    const model = new StackModel(stack);
    const at = Array.from({ length: 61 }, (_, i) => (i * until) / 60);
    const shortest = Math.min(...stack.sides);
    const moments = [0.25, 1, until / 2, until].filter((d) => d <= until);
    return {
      core: at.map((d): [number, number] => [d, shown(model.at(d))]),
      across: moments.map((d) => ({
        days: d,
        points: model
          .profile(d)
          .map((p): [number, number] => [((p.position + 1) / 2) * shortest * 100, shown(p.celsius)]),
      })),
    };
    // The words change with the language, which makes the page anew.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [JSON.stringify(stack), until]);
  const looks: Series['look'][] = ['faint', 'planned', 'machine', 'measured'];
  return (
    <div className="grid gap-3 lg:grid-cols-2">
      <div>
        <h3 className="text-[14px]">{t('pest.curve')}</h3>
        <SeriesChart
          label={t('pest.curve')}
          series={[{ name: t('pest.curve'), points: core, look: 'measured' }]}
          xTitle={t('unit.d')}
          yTitle={words.temperatureUnit}
          xFormat={(x) => words.number(x, 1)}
          yFormat={(y) => words.number(y)}
          aim={{ y: shown(coreC), name: words.temperature(coreC, 0) }}
          height={210}
        />
      </div>
      <div>
        <h3 className="text-[14px]">{t('pest.across')}</h3>
        <SeriesChart
          label={t('pest.across')}
          series={across.map((a, i) => ({
            name: t('pest.across.days', { n: words.number(a.days, a.days < 3 ? 2 : 1) }),
            points: a.points,
            look: looks[i]!,
          }))}
          xTitle="cm"
          yTitle={words.temperatureUnit}
          xFormat={(x) => words.number(x)}
          yFormat={(y) => words.number(y)}
          height={210}
        />
      </div>
    </div>
  );
}

function RunningHold({
  view,
  hold,
  mayMake,
}: {
  view: LotView;
  hold: ReturnType<typeof notesOf<'hold'>>[number];
  mayMake: boolean;
}) {
  const words = useWords();
  const { t } = words;
  const work = useLotWork(view.lot);
  const now = useNow(60_000);
  const { draft, change, keep } = useDraft<{ celsius: number | null }>({ celsius: null });
  const began = Date.parse(hold.at);
  const { data } = hold;
  const stack: Stack = { sides: data.sides, startC: data.startC, airC: data.airC };
  const time = holdTime(stack, data.coreC, data.days);
  const probe = probedHold(
    notesOf(view, 'holdProbe')
      .filter((p) => Date.parse(p.at) >= began)
      .map((p) => ({ at: Date.parse(p.at), celsius: p.data.celsius })),
    { coreC: data.coreC, days: data.days, cold: data.method === 'freezing', now },
  );
  const endsAt = probe ? probe.endsAt : time.daysInAll === null ? null : began + time.daysInAll * DAY;
  const over = endsAt !== null && now > endsAt;
  return (
    <div className="grid gap-3">
      <p className="text-[15px]">
        {t('pest.since', { when: words.day(hold.at) })}
        {endsAt !== null &&
          `, ${t(probe ? 'pest.until.probe' : 'pest.until', { when: words.when(new Date(endsAt).toISOString()) })}`}
        .
      </p>
      {probe && probe.endsAt === null && (
        <p>
          {t(probe.silent ? 'pest.probe.silent' : 'pest.probe.open', {
            celsius: words.temperature(probe.lastC),
            when: words.when(new Date(probe.lastAt).toISOString()),
          })}
        </p>
      )}
      {over && <Chip tone="due">{t('pest.over')}</Chip>}
      {time.daysInAll !== null && (
        <StackCharts stack={stack} until={Math.max(time.daysInAll, 1)} coreC={data.coreC} />
      )}
      <p className="text-[12.5px] text-ink-3">
        {t('pest.adviser')} {t('pest.condense')}
      </p>
      {mayMake && (
        <form
          className="flex flex-wrap items-end gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            const { celsius } = draft;
            if (celsius === null) return;
            void keep(() =>
              work.note(
                { kind: 'holdProbe', celsius },
                t('done.probe', { temperature: words.temperature(celsius) }),
              ),
            );
          }}
        >
          <QuantityField
            label={t('pest.probe')}
            dimension="temperature"
            value={draft.celsius}
            onChange={(celsius) => change({ celsius })}
            optional
            min={-60}
            max={100}
            className="max-w-44"
          />
          <Button type="submit" disabled={draft.celsius === null}>
            {t('pest.probe.take')}
          </Button>
          <Button
            look={over ? 'main' : 'plain'}
            onClick={() =>
              void work
                .change({ onHold: false, holdReason: '' }, t('done.released', { code: view.lot.code }))
                .catch(() => undefined)
            }
          >
            {t('pest.release', { code: view.lot.code })}
          </Button>
        </form>
      )}
    </div>
  );
}

/** Why this air cannot do it, and the minus that may have been forgotten. */
function refusalText({ refusal }: HoldTime, coreC: number, words: Words): string {
  const core = words.temperature(coreC, 0);
  const never = words.t(refusal?.code === 'too-slow' ? 'pest.too-slow' : 'pest.never', { core });
  return refusal?.meantC === null || !refusal
    ? never
    : `${never} ${words.t('pest.meant', { air: words.temperature(refusal.meantC, 0) })}`;
}
