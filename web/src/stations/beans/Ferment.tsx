import { useState } from 'react';
import type { LotView } from '@wunsch/contract';
import { boxPlan, corridorAt, degreeHours, fermentNotes, nextTurn } from '@wunsch/core/ferment';
import { SeriesChart } from '../../charts/SeriesChart.tsx';
import { useDoor } from '../../shell/door.tsx';
import { newId } from '../../shell/entry.ts';
import { useNow } from '../../shell/now.ts';
import { Button } from '../../ui/Button.tsx';
import { TextField } from '../../ui/Field.tsx';
import { Chip, Figure, Panel } from '../../ui/Panel.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useDraft } from '../../shell/useDraft.ts';
import { useWords } from '../../words/words.tsx';
import { JuiceDialog } from './JuiceDialog.tsx';
import { notesOf, useLotWork } from './useLot.ts';

const HOUR = 3_600_000;

/** The fermenting of a wet lot: a look a day, the usual corridor, degree-hours, and when to turn. */
export function FermentPanel({ view, mayMake }: { view: LotView; mayMake: boolean }) {
  const words = useWords();
  const { t } = words;
  const work = useLotWork(view.lot);
  const { now: clock } = useDoor();
  const now = useNow(60_000);
  const [draining, setDraining] = useState(false);
  const looks = notesOf(view, 'ferment');
  const began = Math.min(
    Date.parse(`${view.lot.receivedOn}T08:00:00`),
    ...looks.map((l) => Date.parse(l.at)),
  );
  const hoursOf = (at: string) => (Date.parse(at) - began) / HOUR;
  const readings = looks.flatMap((l) =>
    l.data.celsius === null ? [] : [{ hours: hoursOf(l.at), celsius: l.data.celsius }],
  );
  const turns = looks.filter((l) => l.data.turned).map((l) => hoursOf(l.at));
  // Once drying has begun, or all of it has been taken in dry, the fermentation is over, and nothing is due any more.
  const dried = notesOf(view, 'drying')[0];
  const isOver = dried !== undefined || view.lot.remainingMg === 0;
  const lastSeen = Math.max(began, ...looks.map((l) => Date.parse(l.at)));
  const ended = dried ? Date.parse(dried.at) : isOver ? lastSeen : now;
  const nowHours = (ended - began) / HOUR;
  const notes = fermentNotes(readings, turns, nowHours).filter((n) => !isOver || n.code !== 'turn-due');
  const due = began + nextTurn(turns) * HOUR;
  const shown = words.degrees;
  const end = Math.max(120, nowHours, ...readings.map((r) => r.hours));
  const corridor = Array.from({ length: 25 }, (_, i) => (i * end) / 24);
  const remind = () =>
    work.send({
      path: `/api/observations/${newId()}`,
      body: {
        lotId: view.lot.id,
        data: {
          kind: 'timer',
          label: t('ferment.turn-label', { code: view.lot.code }),
          dueAt: new Date(Math.max(due, clock() + 60_000)).toISOString(),
        },
      },
      label: t('done.timer'),
      undo: true,
    });
  return (
    <Panel
      title={t('ferment.title')}
      aside={t(isOver ? 'ferment.days' : 'ferment.day', { n: Math.max(1, Math.ceil(nowHours / 24)) })}
    >
      <div className="mb-3 flex flex-wrap gap-6">
        <Figure
          name={t('ferment.degree-hours', { celsius: words.temperature(40, 0) })}
          note={t('ferment.degree-hours.hint')}
        >
          {`${words.number(words.kelvin(degreeHours(readings)))} ${words.kelvinUnit}·h`}
        </Figure>
        {!isOver && (
          <Figure
            name={due < now ? t('ferment.turn-due', { when: '' }) : t('ferment.next-turn', { when: '' })}
          >
            {words.when(new Date(due).toISOString())}
          </Figure>
        )}
        {view.juiceMg > 0 && <Figure name={t('juice.kept')}>{words.mass(view.juiceMg)}</Figure>}
        {mayMake && !isOver && (
          <span className="flex flex-wrap gap-2">
            <Button onClick={() => void remind().catch(() => undefined)}>{t('ferment.turn-timer')}</Button>
            <Button onClick={() => setDraining(true)}>{t('juice.keep')}</Button>
          </span>
        )}
      </div>
      {notes.map((n) => {
        if (n.code === 'turn-due')
          return (
            <p key={n.code}>
              <Chip tone="due">
                {t('ferment.turn-due', { when: words.when(new Date(due).toISOString()) })}
              </Chip>
            </p>
          );
        if (n.code === 'too-cool-at-day-3')
          return (
            <div key={n.code} className="mb-2">
              <Chip tone="bad">
                {t('ferment.note.too-cool-at-day-3', { celsius: words.temperature(40, 0) })}
              </Chip>
              <ul className="ml-4 mt-1 list-disc">
                {boxPlan('dark').map((s) => (
                  <li key={s.fromHours}>
                    {t('ferment.box', { from: s.fromHours, temperature: words.temperature(s.celsius, 0) })}
                  </li>
                ))}
              </ul>
            </div>
          );
        return (
          <p key={n.code}>
            <Chip tone="bad">
              {t(`ferment.note.${n.code}`, {
                low: words.temperature(n.low, 0),
                high: words.temperature(n.high, 0),
              })}
            </Chip>
          </p>
        );
      })}
      {readings.length > 0 && (
        <SeriesChart
          label={t('ferment.chart')}
          height={230}
          xTitle={t('unit.h')}
          yTitle={words.temperatureUnit}
          xFormat={(x) => words.number(x)}
          yFormat={(y) => words.number(y)}
          now={nowHours}
          series={[
            {
              name: t('ferment.measured'),
              look: 'measured',
              points: readings.map((r): [number, number] => [r.hours, shown(r.celsius)]),
            },
          ]}
          ranges={[
            {
              name: t('ferment.usual'),
              points: corridor.map((h): [number, number, number] => {
                const { low, high } = corridorAt(h);
                return [h, shown(low), shown(high)];
              }),
            },
          ]}
        />
      )}
      {mayMake && view.lot.remainingMg > 0 && <Look view={view} />}
      {draining && <JuiceDialog lot={view.lot} keptMg={view.juiceMg} onClose={() => setDraining(false)} />}
    </Panel>
  );
}

/** What one look at the heap notes down; each part may be left out. */
interface FermentLook {
  celsius: number | null;
  ambientC: number | null;
  drainedMg: number | null;
  turned: boolean;
  smell: string;
  cutLook: string;
}

function Look({ view }: { view: LotView }) {
  const words = useWords();
  const { t } = words;
  const work = useLotWork(view.lot);
  const { draft, change, keep } = useDraft<FermentLook>({
    celsius: null,
    ambientC: null,
    drainedMg: null,
    turned: false,
    smell: '',
    cutLook: '',
  });
  const { celsius, ambientC, drainedMg, turned, smell, cutLook } = draft;
  const empty = celsius === null && ambientC === null && drainedMg === null && !turned && !smell && !cutLook;
  return (
    <form
      className="mt-3 grid items-end gap-2 sm:grid-cols-3"
      aria-label={t('ferment.log')}
      onSubmit={(e) => {
        e.preventDefault();
        if (empty) return;
        void keep((look) =>
          work.note({ kind: 'ferment', ...look }, t('done.ferment', { code: view.lot.code })),
        );
      }}
    >
      <QuantityField
        label={t('ferment.mass-temp')}
        dimension="temperature"
        value={celsius}
        onChange={(next) => change({ celsius: next })}
        min={0}
        max={70}
        optional
      />
      <QuantityField
        label={t('ferment.ambient')}
        dimension="temperature"
        value={ambientC}
        onChange={(next) => change({ ambientC: next })}
        min={-20}
        max={60}
        optional
      />
      <QuantityField
        label={t('ferment.drained')}
        dimension="mass"
        value={drainedMg}
        onChange={(next) => change({ drainedMg: next })}
        min={0}
        max={1e10}
        optional
      />
      <TextField
        label={t('ferment.smell')}
        value={smell}
        onChange={(e) => change({ smell: e.target.value })}
        maxLength={200}
      />
      <TextField
        label={t('ferment.cut')}
        value={cutLook}
        onChange={(e) => change({ cutLook: e.target.value })}
        maxLength={200}
      />
      <label className="flex min-h-11 items-center gap-3 self-end">
        <input
          type="checkbox"
          checked={turned}
          onChange={(e) => change({ turned: e.target.checked })}
          className="size-5 accent-(--violet-text)"
        />
        {t('ferment.turned')}
      </label>
      <Button type="submit" look="main" disabled={empty} className="sm:col-span-3">
        {t('ferment.take')}
      </Button>
    </form>
  );
}
