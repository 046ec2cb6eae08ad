import { Panel } from '../../../ui/Panel.tsx';
import { QuantityField } from '../../../ui/QuantityField.tsx';
import { useWords } from '../../../words/words.tsx';
import { Reach } from './Reach.tsx';
import type { SessionPlan } from './useSessionPlan.ts';

/** Who sits at the table, how often they meet what is on it, and what that can find. */
export function SeatsOfPlan({ plan: { draft, change, people, tasters } }: { plan: SessionPlan }) {
  const { t } = useWords();
  const isChoice = draft.question === 'different';
  return (
    <Panel title={t('panel.seats')} aside={t('panel.tasters.n', { n: tasters })}>
      <div className="grid gap-3">
        <fieldset>
          <legend className="mb-1 text-[12.5px] font-medium text-ink-2">{t('panel.seats.people')}</legend>
          <div className="flex flex-wrap gap-2">
            {people.map((p) => {
              const sits = draft.people.includes(p.id);
              return (
                <button
                  key={p.id}
                  type="button"
                  aria-pressed={sits}
                  onClick={() =>
                    change({
                      people: sits ? draft.people.filter((x) => x !== p.id) : [...draft.people, p.id],
                    })
                  }
                  className={`min-h-11 rounded border px-3 font-semibold ${sits ? 'border-violet bg-violet text-white' : 'border-edge bg-panel hover:bg-panel-2'}`}
                >
                  {p.name}
                </button>
              );
            })}
          </div>
        </fieldset>
        <div className="grid gap-3 sm:grid-cols-4">
          <QuantityField
            label={t('panel.seats.guests')}
            dimension="count"
            value={draft.guests}
            onChange={(guests) => change({ guests: guests ?? 0 })}
            min={0}
            max={40}
          />
          <QuantityField
            label={t('panel.rounds')}
            dimension="count"
            value={draft.rounds}
            onChange={(rounds) => change({ rounds: rounds ?? 1 })}
            min={1}
            max={4}
          />
          {!isChoice && (
            <QuantityField
              label={t('panel.flight')}
              dimension="count"
              value={draft.flight}
              onChange={(flight) => change({ flight: flight ?? 5 })}
              min={2}
              max={8}
            />
          )}
          <QuantityField
            label={t('panel.rest')}
            dimension="count"
            value={draft.restMinutes}
            onChange={(restMinutes) => change({ restMinutes: restMinutes ?? 0 })}
            min={0}
            max={60}
          />
        </div>
        <p className="text-[12.5px] text-ink-3">{t('panel.seats.guests.hint')}</p>
        {tasters > 0 && (
          <Reach choice={isChoice ? draft.test : null} tasters={tasters} rounds={draft.rounds} />
        )}
      </div>
    </Panel>
  );
}
