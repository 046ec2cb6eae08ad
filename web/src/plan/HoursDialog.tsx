import { useState } from 'react';
import type { HolidayPlace, PlanRoomView, WorkHoursPut } from '@wunsch/contract';
import { STATIONS, type Station } from '@wunsch/core/ledger';
import type { z } from 'zod';
import { useRead } from '../shell/door.tsx';
import { useEntryHere } from '../shell/useEntryHere.ts';
import { newId } from '../shell/entry.ts';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { SelectField, TextField } from '../ui/Field.tsx';
import { QuantityField } from '../ui/QuantityField.tsx';
import { useWords } from '../words/words.tsx';
import { readHours, writeHours } from './hoursText.ts';

type Hours = z.output<typeof WorkHoursPut> & { version: number };
type Place = z.infer<typeof HolidayPlace>;

/** When the workshop works: its week, each person’s own, quiet hours, holidays, and who works where. */
export function HoursDialog({ room, onClose }: { room: PlanRoomView; onClose: () => void }) {
  const { data: hours } = useRead<Hours>('/api/work-hours');
  const { t } = useWords();
  return (
    <Dialog open onClose={onClose} title={t('plan.hours.set')} description={t('plan.hours.text')} wide>
      {hours && <HoursForm room={room} hours={hours} onClose={onClose} />}
    </Dialog>
  );
}

const MG_PER_KG = 1_000_000;

function HoursForm({ room, hours, onClose }: { room: PlanRoomView; hours: Hours; onClose: () => void }) {
  const words = useWords();
  const { t } = words;
  const send = useEntryHere();
  const [week, setWeek] = useState(() => hours.week.map(writeHours));
  const [country, setCountry] = useState(hours.country ?? '');
  const [region, setRegion] = useState(hours.region ?? '');
  const [loud, setLoud] = useState(hours.loudHours ? writeHours([hours.loudHours]) : '');
  const [restDays, setRestDays] = useState<number | null>(hours.restDays);
  const [restMg, setRestMg] = useState(hours.restKg === null ? null : Math.round(hours.restKg * MG_PER_KG));
  const [deliveryDays, setDeliveryDays] = useState<number | null>(hours.deliveryDays);
  const [beanDeliveryDays, setBeanDeliveryDays] = useState<number | null>(hours.beanDeliveryDays ?? null);
  const [timeZone, setTimeZone] = useState(hours.timeZone);
  const [people, setPeople] = useState(() =>
    room.people.map((p) => {
      const own = hours.people.find((x) => x.personId === p.id);
      return {
        personId: p.id,
        name: p.name,
        week: own?.week?.map(writeHours) ?? null,
        stations: own?.stations ?? null,
      };
    }),
  );
  const { data: countries = [] } = useRead<Place[]>(`/api/holiday-places?language=${words.language}`);
  const { data: regions = [] } = useRead<Place[]>(
    country ? `/api/holiday-places?language=${words.language}&country=${country}` : null,
  );
  const days = Array.from({ length: 7 }, (_, k) =>
    new Intl.DateTimeFormat(words.language === 'de' ? 'de-DE' : 'en-GB', {
      weekday: 'short',
      timeZone: 'UTC',
    }).format(new Date(Date.UTC(2026, 0, 5 + k))),
  );
  const read = week.map(readHours);
  const loudRead = loud.trim() === '' ? [] : readHours(loud);
  const peopleRead = people.map((p) => p.week?.map(readHours) ?? null);
  const isWrong =
    read.some((d) => d === null) ||
    loudRead === null ||
    loudRead.length > 1 ||
    peopleRead.some((w) => w?.some((d) => d === null));
  const save = () => {
    if (isWrong) return;
    const body: WorkHoursPut = {
      timeZone: timeZone.trim(),
      week: read as [number, number][][],
      loudHours: loudRead[0] ?? null,
      country: country || null,
      region: region || null,
      restDays: restDays ?? 1,
      restKg: restMg === null ? null : restMg / MG_PER_KG,
      deliveryDays: deliveryDays ?? 7,
      beanDeliveryDays,
      people: people.map(({ name: _, ...p }, k) => ({
        ...p,
        week: peopleRead[k] as [number, number][][] | null,
      })),
    };
    void send({
      path: `/api/work-hours/${newId()}`,
      body,
      ...(hours.version > 0 && { ifMatch: hours.version }),
      label: t('done.plan.hours'),
      undo: true,
    }).then(onClose, () => undefined);
  };
  const dayFields = (values: readonly string[], change: (k: number, text: string) => void, name: string) => (
    <div className="grid gap-2 min-[360px]:grid-cols-2 sm:grid-cols-3">
      {values.map((text, k) => (
        <TextField
          key={days[k]}
          label={name ? `${days[k]} ${name}` : days[k]}
          value={text}
          onChange={(e) => change(k, e.target.value)}
          error={readHours(text) === null ? t('plan.hours.wrong') : null}
        />
      ))}
    </div>
  );
  return (
    <form
      className="grid gap-4"
      onSubmit={(e) => {
        e.preventDefault();
        save();
      }}
    >
      {dayFields(week, (k, text) => setWeek(week.map((x, i) => (i === k ? text : x))), '')}
      <div className="grid gap-3 sm:grid-cols-3">
        <SelectField
          label={t('plan.hours.country')}
          value={country}
          onChange={(e) => {
            setCountry(e.target.value);
            setRegion('');
          }}
        >
          <option value="">{t('plan.hours.no-country')}</option>
          {countries.map((c) => (
            <option key={c.code} value={c.code}>
              {c.name}
            </option>
          ))}
        </SelectField>
        {regions.length > 0 && (
          <SelectField
            label={t('plan.hours.region')}
            value={region}
            onChange={(e) => setRegion(e.target.value)}
          >
            <option value="">–</option>
            {regions.map((c) => (
              <option key={c.code} value={c.code}>
                {c.name}
              </option>
            ))}
          </SelectField>
        )}
        <TextField
          label={t('plan.hours.loud')}
          value={loud}
          placeholder="7:00–21:00"
          onChange={(e) => setLoud(e.target.value)}
          error={loudRead === null || loudRead.length > 1 ? t('plan.hours.wrong') : null}
        />
        <QuantityField
          label={t('plan.hours.rest')}
          dimension="number"
          value={restDays}
          onChange={setRestDays}
          min={0}
          max={365}
        />
        <QuantityField
          label={t('plan.hours.shelf')}
          dimension="mass"
          unit={words.heavyUnit}
          value={restMg}
          onChange={setRestMg}
          min={0.1 * MG_PER_KG}
          max={100_000 * MG_PER_KG}
          optional
        />
        <QuantityField
          label={t('plan.hours.delivery')}
          dimension="number"
          value={deliveryDays}
          onChange={setDeliveryDays}
          min={0}
          max={365}
        />
        <QuantityField
          label={t('plan.hours.delivery.beans')}
          dimension="number"
          value={beanDeliveryDays}
          onChange={setBeanDeliveryDays}
          min={0}
          max={730}
          optional
        />
        <TextField
          label={t('plan.hours.zone')}
          value={timeZone}
          onChange={(e) => setTimeZone(e.target.value)}
        />
      </div>
      {people.map((p, i) => {
        const change = (part: Partial<(typeof people)[number]>) =>
          setPeople(people.map((x, k) => (k === i ? { ...x, ...part } : x)));
        return (
          <fieldset key={p.personId} className="rounded border border-line p-3">
            <legend className="px-1 font-semibold">{p.name}</legend>
            <label className="flex min-h-11 items-center gap-2">
              <input
                type="checkbox"
                className="size-5"
                checked={p.week !== null}
                onChange={(e) => change({ week: e.target.checked ? [...week] : null })}
              />
              {t('plan.hours.own')}
            </label>
            {p.week &&
              dayFields(
                p.week,
                (k, text) => change({ week: p.week!.map((x, n) => (n === k ? text : x)) }),
                p.name,
              )}
            <div
              role="group"
              aria-label={t('plan.hours.stations', { name: p.name })}
              className="mt-2 flex flex-wrap gap-1"
            >
              {STATIONS.filter((s) => s !== 'beans').map((s: Station) => {
                const may = p.stations === null || p.stations.includes(s);
                return (
                  <button
                    key={s}
                    type="button"
                    aria-pressed={may}
                    onClick={() => {
                      const all = STATIONS.filter((x) => x !== 'beans');
                      const now = p.stations ?? all;
                      const next = may ? now.filter((x) => x !== s) : [...now, s];
                      change({ stations: next.length === all.length ? null : next });
                    }}
                    className={`min-h-11 rounded border px-3 text-[13px] font-semibold ${may ? 'border-violet bg-violet text-white' : 'border-edge bg-panel hover:bg-panel-2'}`}
                  >
                    {t(`station.${s}`)}
                  </button>
                );
              })}
            </div>
          </fieldset>
        );
      })}
      <div>
        <Button type="submit" look="main" disabled={isWrong}>
          {t('plan.hours.keep')}
        </Button>
      </div>
    </form>
  );
}
