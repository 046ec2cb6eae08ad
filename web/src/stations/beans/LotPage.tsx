import { useState } from 'react';
import { Link, useParams } from 'react-router';
import type { LotView, PickingRecord } from '@wunsch/contract';
import { arrivalFacts } from '@wunsch/core/beans';
import { sheetAllergens } from '@wunsch/core/label';
import { STATIONS, type Material } from '@wunsch/core/ledger';
import { isMissing } from '../../shell/api.ts';
import { useRead } from '../../shell/door.tsx';
import { StartBatch } from '../../batch/StartBatch.tsx';
import { NotFound } from '../../shell/NotFound.tsx';
import { useMayMake } from '../../shell/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { Chip, Figure, Panel } from '../../ui/Panel.tsx';
import { Table } from '../../ui/Table.tsx';
import { useWords } from '../../words/words.tsx';
import type { WordKey } from '../../words/en.ts';
import { meanYield } from './CompareLots.tsx';
import { CutTestPanel } from './CutTest.tsx';
import { DryingPanel } from './Drying.tsx';
import { FermentPanel } from './Ferment.tsx';
import { FilesPanel } from '../Files.tsx';
import { HoldPanel } from './Hold.tsx';
import { LotFactsForm, PlotsPanel } from './LotFacts.tsx';
import { moistureWarning } from './moistureWarning.ts';
import { Sack } from './Sack.tsx';
import { StockPanel } from './StockPanel.tsx';
import { useLotWork } from './useLot.ts';
import { lotPrice } from '../../ui/lotPrice.ts';

/** How what is no dry raw bean is kept. */
const STORE_HINTS: Partial<Record<Material, WordKey>> = {
  'wet beans': 'lot.store-hint.wet',
  pods: 'lot.store-hint.wet',
  'roasted beans': 'lot.store-hint.roasted',
  nibs: 'lot.store-hint.nibs',
  liquor: 'lot.store-hint.liquor',
};

/** One lot: its facts, how long it lasts, its quality, its hold, its files and batches; wet lots ferment and dry here. */
export default function LotPage() {
  const { t } = useWords();
  const { lotId } = useParams();
  const { data, error } = useRead<LotView>(`/api/lots/${lotId}`);
  if (isMissing(error)) return <NotFound />;
  if (!data) return <p className="p-6 text-ink-3">{t('loading')}</p>;
  return <LotRoom key={data.lot.id} view={data} />;
}

function LotRoom({ view }: { view: LotView }) {
  const words = useWords();
  const { t } = words;
  const { lot } = view;
  const work = useLotWork(lot);
  const mayMake = useMayMake();
  const [starting, setStarting] = useState(false);
  const [changing, setChanging] = useState(false);
  const has = arrivalFacts(lot.material);
  const moist = lot.remainingMg > 0 ? moistureWarning(lot) : null;
  const { wet } = has;
  const hold = (onHold: boolean) =>
    work
      .change({ onHold }, t(onHold ? 'done.held' : 'done.released', { code: lot.code }))
      .catch(() => undefined);
  const papers = (
    <>
      {has.grown && <PlotsPanel lot={lot} mayMake={mayMake} />}
      <FilesPanel of={{ lotId: lot.id }} files={view.attachments} mayMake={mayMake} />
    </>
  );
  return (
    <div className="grid gap-2 p-3 sm:px-4">
      <header className="flex flex-wrap items-center gap-4">
        <Sack lot={lot} />
        <div className="grow">
          <h1 className="text-[28px] leading-tight">
            {lot.code} <span className="text-[18px] font-semibold">{lot.name}</span>
          </h1>
          <p className="text-ink-3">
            {t('lot.left', { left: words.mass(lot.remainingMg), of: words.mass(lot.arrivedMg) })}
          </p>
          {view.family.map((kin) => (
            <p key={kin.id} className="text-[12.5px]">
              {t(`lot.family.${kin.relation}`)}{' '}
              <Link to={`/beans/${kin.id}`} className="underline underline-offset-4">
                {kin.code} {kin.name}
              </Link>
            </p>
          ))}
        </div>
        {moist && <Chip tone="bad">{t(moist)}</Chip>}
        {lot.onHold && <Chip tone="bad">{t('lot.on-hold', { why: lot.holdReason || t('on-hold') })}</Chip>}
        {mayMake && (
          <>
            <Button onClick={() => void hold(!lot.onHold)}>
              {t(lot.onHold ? 'lot.release' : 'lot.put-on-hold')}
            </Button>
            {!wet && (
              <Button
                look="main"
                onClick={() => setStarting(true)}
                disabled={lot.remainingMg === 0}
                data-key="w"
              >
                {t('batch.start')}
              </Button>
            )}
          </>
        )}
      </header>
      {wet && (
        <div className="grid items-start gap-2 lg:grid-cols-2">
          <FermentPanel view={view} mayMake={mayMake} />
          <DryingPanel view={view} mayMake={mayMake} />
        </div>
      )}
      <div className="grid items-start gap-2 lg:grid-cols-2">
        <FactsPanel view={view} onChange={mayMake ? () => setChanging(true) : null} />
        {wet ? <div className="grid gap-2">{papers}</div> : <StockPanel view={view} />}
      </div>
      {has.beans && <CutTestPanel view={view} mayMake={mayMake} />}
      {has.pests && <HoldPanel view={view} mayMake={mayMake} />}
      {!wet && <div className="grid items-start gap-2 lg:grid-cols-2">{papers}</div>}
      {!wet && <BatchesPanel view={view} />}
      {starting && <StartBatch lotId={lot.id} onClose={() => setStarting(false)} />}
      {changing && <LotFactsForm lot={lot} onClose={() => setChanging(false)} />}
    </div>
  );
}

function FactsPanel({ view, onChange }: { view: LotView; onChange: (() => void) | null }) {
  const words = useWords();
  const { t } = words;
  const { lot } = view;
  // A dried lot was picked as the one it was dried from.
  const { data: pickings } = useRead<PickingRecord[]>(
    arrivalFacts(lot.material).grown ? '/api/pickings' : null,
  );
  const picked = (pickings ?? [])
    .filter((p) => p.lotId === lot.id || (p.lotId !== null && p.lotId === lot.fromLotId))
    .map((p) => t('harvest.of-lot', { plot: p.plot, pods: words.number(p.pods), day: words.day(p.on) }))
    .join('; ');
  const percent = (value: number | null) => (value === null ? '' : `${words.number(value, 1)} %`);
  const windowOf = ({ workLowC, workHighC }: NonNullable<typeof lot.sheet>) =>
    [workLowC, workHighC]
      .filter((c) => c !== null)
      .map((c) => words.temperature(c))
      .join(' – ');
  const facts: [string, string][] = [
    [t('lot.country'), [lot.region, lot.country].filter(Boolean).join(', ')],
    [t('lot.grower'), lot.grower],
    [t('lot.variety'), lot.variety],
    [t('lot.harvest'), lot.harvest],
    [t('harvest.pickings'), picked],
    [t('lot.grower-notes'), lot.growerNotes],
    [t('lot.certificates'), lot.certificates],
    [t('lot.received'), words.day(lot.receivedOn)],
    [t('lot.price', { unit: words.heavyUnit }), lotPrice(lot, words)],
    [t('lot.freight'), words.money(lot.freight)],
    [t('lot.moisture'), lot.moisture === null ? '' : `${words.number(lot.moisture, 1)} %`],
    [t('lot.beans-count'), lot.beansPer100g === null ? '' : words.number(lot.beansPer100g)],
    [t('lot.nib-fat'), lot.nibFat === null ? '' : `${words.number(lot.nibFat, 1)} %`],
    [t('lot.ceiling'), lot.ceilingC === null ? '' : words.temperature(lot.ceilingC, 0)],
    [t('lot.lead'), lot.leadWeeks === null ? '' : words.number(lot.leadWeeks)],
    [t('lot.place'), lot.place],
    ...(lot.sheet
      ? ([
          [t('sheet.maker'), lot.sheet.maker],
          [t('sheet.makerLot'), lot.sheet.makerLot],
          [t('sheet.bestBefore'), lot.sheet.bestBefore ? words.day(lot.sheet.bestBefore) : ''],
          [t('sheet.kind'), lot.sheet.kind ? t(`kind.${lot.sheet.kind}`) : ''],
          [t('sheet.cacao'), percent(lot.sheet.cacao)],
          [t('sheet.fat'), percent(lot.sheet.fat)],
          [t('sheet.ingredients'), lot.sheet.ingredients],
          [
            t('sheet.allergens'),
            sheetAllergens(lot.sheet)
              .map((a) => words.word('allergen', a))
              .join(', '),
          ],
          [t('window'), windowOf(lot.sheet)],
        ] as [string, string][])
      : []),
  ];
  return (
    <Panel
      title={t('lot.facts')}
      aside={
        onChange && (
          <Button look="quiet" onClick={onChange}>
            {t('lot.change')}
          </Button>
        )
      }
    >
      <dl className="grid grid-cols-[130px_1fr] gap-x-3 gap-y-1.5">
        {facts
          .filter(([, value]) => value !== '')
          .map(([name, value]) => (
            <div key={name} className="contents">
              <dt className="text-ink-3">{name}</dt>
              <dd className="min-w-0 break-words">{value}</dd>
            </div>
          ))}
      </dl>
      {lot.notes && <p className="mt-3 whitespace-pre-wrap">{lot.notes}</p>}
      {arrivalFacts(lot.material).grown && (
        <p className="mt-3 text-[12.5px] text-ink-3">{t(STORE_HINTS[lot.material] ?? 'lot.store-hint')}</p>
      )}
    </Panel>
  );
}

function BatchesPanel({ view }: { view: LotView }) {
  const words = useWords();
  const { t } = words;
  return (
    <Panel title={t('lot.batches')}>
      <div className="mb-3 flex flex-wrap gap-6">
        {STATIONS.map((s) => {
          const y = s === 'recipe' ? null : meanYield(view, s);
          return y ? (
            <Figure key={s} name={t(`station.${s}`)} note={t('lot.yields.n', { n: y.n })}>
              {words.percent(y.mean)}
            </Figure>
          ) : null;
        })}
        {view.yields.length === 0 && <p className="text-ink-3">{t('lot.yields.none')}</p>}
      </div>
      <Table
        caption={t('lot.batches')}
        rows={view.batches}
        keyOf={(b) => b.id}
        empty={t('lot.batches.none')}
        columns={[
          {
            id: 'code',
            title: t('batch'),
            cell: (b) => (
              <Link to={`/batch/${b.id}`} className="num text-[15px] underline underline-offset-4">
                {b.code}
              </Link>
            ),
          },
          { id: 'begun', title: t('begun'), cell: (b) => words.day(b.startedAt) },
          { id: 'recipe', title: t('recipe'), cell: (b) => b.recipeName ?? '' },
          { id: 'state', title: t('state'), cell: (b) => t(`state.${b.state}`) },
        ]}
      />
    </Panel>
  );
}
