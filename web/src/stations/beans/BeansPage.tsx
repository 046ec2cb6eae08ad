import { Plus } from 'lucide-react';
import { useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import type { Lot } from '@wunsch/contract';
import { useRead } from '../../shell/door.tsx';
import { Glyph } from '../../shell/glyphs.tsx';
import { useMayMake } from '../../shell/session.tsx';
import { useAsked } from '../../shell/useAsked.ts';
import { Button } from '../../ui/Button.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { Tabs } from '../../ui/Tabs.tsx';
import { useWords } from '../../words/words.tsx';
import { CompareLots } from './CompareLots.tsx';
import { Harvest } from './Harvest.tsx';
import { LotForm } from './LotForm.tsx';
import { LotList } from './LotList.tsx';
import { PlotsMap } from './PlotsMap.tsx';
import { Samples } from './Samples.tsx';
import { Traps } from './Traps.tsx';

/** Beans: what is in store, oldest first, and receiving more; lots side by side, samples, traps and the map. */
export default function BeansPage() {
  const words = useWords();
  const { t } = words;
  const { data: lots } = useRead<Lot[]>('/api/lots');
  const [search, setSearch] = useSearchParams();
  const [receiving, setReceiving] = useState(false);
  useAsked('receive', () => setReceiving(true));
  const navigate = useNavigate();
  const mayMake = useMayMake();
  const tab = search.get('show') ?? 'lots';
  const located = lots?.filter((l) => l.plots) ?? [];
  return (
    <div className="p-3 sm:px-4">
      <header className="mb-3 flex flex-wrap items-center gap-4">
        <h1 className="flex items-center gap-2 text-[26px]">
          <Glyph station="beans" size={26} />
          {t('station.beans')}
        </h1>
        {lots && lots.length > 0 && (
          <span className="text-ink-3">
            {t('beans.sum', {
              n: lots.filter((l) => l.remainingMg > 0).length,
              mass: words.mass(lots.reduce((s, l) => s + l.remainingMg, 0)),
            })}
          </span>
        )}
        {mayMake && (
          <Button
            look="main"
            className="ml-auto"
            icon={<Plus size={17} aria-hidden="true" />}
            onClick={() => setReceiving(true)}
            data-key="w"
          >
            {t('beans.receive')}
          </Button>
        )}
      </header>
      {!lots ? (
        <p className="text-ink-3">{t('loading')}</p>
      ) : (
        <Tabs
          label={t('station.beans')}
          value={tab}
          onChange={(show) => setSearch(show === 'lots' ? {} : { show }, { replace: true })}
          sheets={[
            { id: 'lots', title: t('beans.tab.lots'), content: <LotList lots={lots} /> },
            { id: 'compare', title: t('beans.tab.compare'), content: <CompareLots lots={lots} /> },
            { id: 'samples', title: t('beans.tab.samples'), content: <Samples mayMake={mayMake} /> },
            { id: 'harvest', title: t('beans.tab.harvest'), content: <Harvest mayMake={mayMake} /> },
            { id: 'traps', title: t('beans.tab.traps'), content: <Traps mayMake={mayMake} /> },
            {
              id: 'map',
              title: t('beans.tab.map'),
              content: (
                <Panel title={t('lot.map')}>
                  {located.length > 0 ? (
                    <PlotsMap
                      places={located.map((l) => ({ id: l.id, code: l.code, name: l.name, plots: l.plots! }))}
                    />
                  ) : (
                    <p className="text-ink-3">{t('lot.plots.none')}</p>
                  )}
                </Panel>
              ),
            },
          ]}
        />
      )}
      {receiving && (
        <LotForm
          onClose={() => setReceiving(false)}
          onReceived={(id) => {
            setReceiving(false);
            navigate(`/beans/${id}`);
          }}
        />
      )}
    </div>
  );
}
