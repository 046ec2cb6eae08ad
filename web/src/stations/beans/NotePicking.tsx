import type { PickingRecord } from '@wunsch/contract';
import { newId } from '../../shell/entry.ts';
import { useDraft } from '../../shell/useDraft.ts';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { Button } from '../../ui/Button.tsx';
import { TextField } from '../../ui/Field.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { MoneyField, QuantityField } from '../../ui/QuantityField.tsx';
import { useWords } from '../../words/words.tsx';
import { today } from '../today.ts';

const EMPTY = {
  /** Today where nothing was typed: a page may stand open over midnight. */
  on: '',
  plot: '',
  trees: null as number | null,
  pods: null as number | null,
  wetMg: null as number | null,
  paid: 0,
  from: '',
};

/** Notes what was picked, one round after another. */
export function NotePicking({ pickings }: { pickings: readonly PickingRecord[] }) {
  const words = useWords();
  const { t } = words;
  const send = useEntryHere();
  const { draft, change, keep } = useDraft(EMPTY);
  const isReady = draft.plot.trim() !== '' && draft.pods !== null;
  return (
    <Panel title={t('harvest.note')}>
      <form
        className="grid grid-cols-2 items-end gap-3 sm:grid-cols-3 lg:grid-cols-4"
        onSubmit={(e) => {
          e.preventDefault();
          if (!isReady) return;
          void keep((sent) =>
            send({
              path: `/api/pickings/${newId()}`,
              body: { ...sent, on: sent.on || today(), note: '' },
              label: t('done.picking', { n: sent.pods!, plot: sent.plot }),
              undo: true,
            }),
          );
        }}
      >
        <TextField
          type="date"
          label={t('harvest.on')}
          value={draft.on || today()}
          onChange={(e) => change({ on: e.target.value })}
          required
        />
        <TextField
          label={t('harvest.plot')}
          value={draft.plot}
          onChange={(e) => change({ plot: e.target.value })}
          maxLength={80}
          list="harvest-plots"
          required
        />
        <datalist id="harvest-plots">
          {[...new Set(pickings.map((p) => p.plot))].map((plot) => (
            <option key={plot} value={plot} />
          ))}
        </datalist>
        <QuantityField
          label={t('harvest.count')}
          dimension="count"
          value={draft.pods}
          onChange={(pods) => change({ pods })}
          min={1}
          max={10_000_000}
        />
        <QuantityField
          label={t('harvest.trees')}
          dimension="count"
          value={draft.trees}
          onChange={(trees) => change({ trees })}
          min={1}
          max={1_000_000}
          optional
        />
        <QuantityField
          label={t('harvest.wet')}
          dimension="mass"
          unit={words.heavyUnit}
          value={draft.wetMg}
          onChange={(wetMg) => change({ wetMg })}
          min={1000}
          max={1e11}
          optional
        />
        <MoneyField
          label={t('harvest.cost')}
          value={draft.paid}
          onChange={(paid) => change({ paid: paid ?? 0 })}
        />
        <TextField
          label={t('harvest.from')}
          value={draft.from}
          onChange={(e) => change({ from: e.target.value })}
          maxLength={120}
        />
        <Button type="submit" look="main" disabled={!isReady}>
          {t('harvest.keep')}
        </Button>
      </form>
    </Panel>
  );
}
