import { useState } from 'react';
import type { PlanRoomView } from '@wunsch/contract';
import type { Change, Difference, WorkshopPlan } from '@wunsch/core/plan';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { SelectField } from '../ui/Field.tsx';
import { QuantityField } from '../ui/QuantityField.tsx';
import { useWords } from '../words/words.tsx';
import { planAnswers } from '../workers/plan.ts';
import { Impossible } from './Impossible.tsx';
import { Differences } from './Differences.tsx';

type Kind = Change['kind'];

interface Answer {
  plan: WorkshopPlan;
  differences: Difference[];
}

/** What was asked, and what came of it; neither while it is being reckoned. */
interface Tried {
  key: string;
  found: Answer | null;
  problem: Error | null;
}

/** What something would change: every order before and after. */
export function WhatIfDialog({
  room,
  plan,
  onShow,
  onClose,
}: {
  room: PlanRoomView;
  plan: WorkshopPlan;
  /** Shows the plan as it would be beside the one that is shown. */
  onShow: (then: WorkshopPlan) => void;
  onClose: () => void;
}) {
  const words = useWords();
  const { t } = words;
  const machines = room.machines.filter((m) => m.places === null && !m.retired);
  const [kind, setKind] = useState<Kind>('stops');
  const [machineId, setMachineId] = useState(
    machines.find((m) => m.station === 'grind')?.id ?? machines[0]?.id ?? '',
  );
  const [mouldId, setMouldId] = useState(room.moulds[0]?.id ?? '');
  const [personId, setPersonId] = useState(room.people[0]?.id ?? '');
  const [lotId, setLotId] = useState(room.lots[0]?.id ?? '');
  const [days, setDays] = useState<number | null>(1);
  const [count, setCount] = useState<number | null>(1);
  const [tried, setTried] = useState<Tried | null>(null);
  const change = (): Change | null => {
    switch (kind) {
      case 'stops':
        return machineId && days ? { kind, machineId, days, from: room.now } : null;
      case 'second':
        return machineId ? { kind, machineId } : null;
      case 'moulds':
        return mouldId && count ? { kind, mouldId, count } : null;
      case 'evening':
        return personId ? { kind, personId } : null;
      case 'late-beans':
        return lotId && days ? { kind, lotId, days } : null;
    }
  };
  const asked = change();
  const key = JSON.stringify(asked);
  // What comes back late belongs to what was asked, and not to what is chosen by then.
  const here = tried?.key === key ? tried : null;
  const isAsking = here !== null && here.found === null && here.problem === null;
  const ask = () => {
    if (!asked) return;
    setTried({ key, found: null, problem: null });
    const answered = (of: Pick<Tried, 'found' | 'problem'>) =>
      setTried((now) => (now?.key === key ? { key, ...of } : now));
    planAnswers
      .ask<Answer>((thread) => thread.whatIf(room, plan, asked))
      .then(
        (found) => answered({ found, problem: null }),
        (error: unknown) => answered({ found: null, problem: error as Error }),
      );
  };
  return (
    <Dialog open onClose={onClose} title={t('plan.what-if')} description={t('plan.what-if.text')} wide>
      <div className="grid gap-3">
        <div className="grid gap-3 sm:grid-cols-3">
          <SelectField label={t('plan.what')} value={kind} onChange={(e) => setKind(e.target.value as Kind)}>
            {(['stops', 'second', 'moulds', 'evening', 'late-beans'] as const).map((k) => (
              <option key={k} value={k}>
                {t(`plan.what.${k}`)}
              </option>
            ))}
          </SelectField>
          {(kind === 'stops' || kind === 'second') && (
            <SelectField
              label={t('plan.machine')}
              value={machineId}
              onChange={(e) => setMachineId(e.target.value)}
            >
              {machines.map((m) => (
                <option key={m.id} value={m.id}>
                  {m.name}
                </option>
              ))}
            </SelectField>
          )}
          {kind === 'moulds' && (
            <>
              <SelectField
                label={t('plan.mould')}
                value={mouldId}
                onChange={(e) => setMouldId(e.target.value)}
              >
                {room.moulds.map((m) => (
                  <option key={m.id} value={m.id}>
                    {m.name}
                  </option>
                ))}
              </SelectField>
              <QuantityField
                label={t('plan.how-many')}
                dimension="count"
                value={count}
                onChange={setCount}
                min={1}
                max={1000}
              />
            </>
          )}
          {kind === 'evening' && (
            <SelectField
              label={t('plan.person')}
              value={personId}
              onChange={(e) => setPersonId(e.target.value)}
            >
              {room.people.map((p) => (
                <option key={p.id} value={p.id}>
                  {p.name}
                </option>
              ))}
            </SelectField>
          )}
          {kind === 'late-beans' && (
            <SelectField label={t('plan.lot')} value={lotId} onChange={(e) => setLotId(e.target.value)}>
              {room.lots.map((l) => (
                <option key={l.id} value={l.id}>
                  {l.code} · {l.name}
                </option>
              ))}
            </SelectField>
          )}
          {(kind === 'stops' || kind === 'late-beans') && (
            <QuantityField
              label={t('plan.how-long')}
              dimension="count"
              value={days}
              onChange={setDays}
              min={1}
              max={120}
            />
          )}
        </div>
        <div>
          <Button look="main" onClick={ask} disabled={!asked || isAsking}>
            {t(isAsking ? 'plan.asking' : 'plan.see')}
          </Button>
        </div>
        {here?.problem && <Impossible room={room} problem={here.problem} className="text-[13px]" />}
        {here?.found && (
          <div aria-live="polite">
            {here.found.differences.length === 0 ? (
              <p className="text-ink-2">{t('plan.what-if.none')}</p>
            ) : (
              <>
                <Differences room={room} differences={here.found.differences} caption={t('plan.what-if')} />
                <div className="mt-3">
                  <Button onClick={() => onShow(here.found!.plan)}>{t('plan.side-by-side')}</Button>
                </div>
              </>
            )}
          </div>
        )}
      </div>
    </Dialog>
  );
}
