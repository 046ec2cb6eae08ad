import { Printer, Save } from 'lucide-react';
import { useState } from 'react';
import { useParams } from 'react-router';
import type { LabelDesignRecord, LabelView } from '@wunsch/contract';
import { designFaults, type DesignFault, type LabelDesign } from '@wunsch/core/label';
import type { Market } from '@wunsch/core/recipe';
import { useDoor, useRead } from '../../shell/door.tsx';
import { newId } from '../../shell/entry.ts';
import { useMayMake, useSession } from '../../shell/session.tsx';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { useKept } from '../../shell/useKept.ts';
import { Button } from '../../ui/Button.tsx';
import { SelectField, TextField } from '../../ui/Field.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useWords, type Language, type Words } from '../../words/words.tsx';
import { usualMarket } from '../usualMarket.ts';
import { LabelChecks } from './LabelChecks.tsx';
import { LabelOptions } from './LabelOptions.tsx';

/** What was chosen last on this device: a kept design, and what has been changed of it. */
interface Chosen {
  id: string;
  changed: LabelDesign | null;
}

/** A side of the label at its true size: what is printed is what is seen. */
function Side({ svg, title, design }: { svg: string; title: string; design: LabelDesign }) {
  return (
    <figure>
      <img
        src={`data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`}
        alt={title}
        style={{ width: `${design.widthMm}mm` }}
        className="max-w-none border border-line-2 bg-white"
      />
      <figcaption className="mt-1 text-[12px] text-ink-3">{title}</figcaption>
    </figure>
  );
}

/** What is wrong with a design, in the page’s words. */
function faultText(fault: DesignFault, words: Words): string {
  const { code, ...figures } = fault;
  return words.t(
    `lab.fault.${code}`,
    Object.fromEntries(
      Object.entries(figures).map(([key, value]) => [
        key,
        Array.isArray(value)
          ? value.map((part: string) => words.word('part', part)).join(', ')
          : typeof value === 'number' && key !== 'count'
            ? words.number(value, value % 1 ? 1 : 0)
            : value,
      ]),
    ),
  );
}

/** Printing: one to try, a sheet, or all of them with their boxes' labels. */
function Printing({ view, href }: { view: LabelView; href: (more: Record<string, number>) => string }) {
  const { t, number } = useWords();
  const { workshop } = useSession();
  const [copies, setCopies] = useState<number | null>(view.bars);
  const [first, setFirst] = useState<number | null>(1);
  const [boxes, setBoxes] = useState(false);
  const link = (text: string, more: Record<string, number>, main = false) =>
    view.fits ? (
      <a
        href={href(more)}
        target="_blank"
        rel="noreferrer"
        className={`inline-flex min-h-11 items-center gap-2 rounded border px-4 text-[13.5px] font-semibold ${main ? 'border-violet bg-violet text-white hover:bg-violet-2' : 'border-edge bg-panel hover:bg-panel-2'}`}
      >
        <Printer size={17} aria-hidden="true" /> {text}
      </a>
    ) : (
      <Button disabled icon={<Printer size={17} aria-hidden="true" />}>
        {text}
      </Button>
    );
  const all = { copies: copies ?? 1, first: first ?? 1, ...(boxes && { perBox: workshop.boxBars }) };
  const labels = (copies ?? 0) + (boxes ? Math.ceil((copies ?? 0) / workshop.boxBars) : 0);
  const sheets = Math.ceil((labels + (first ?? 1) - 1) / view.places);
  return (
    <Panel title={t('lab.print')} aside={t('lab.pdf')}>
      <div className="grid grid-cols-2 items-end gap-3">
        <QuantityField
          label={t('lab.copies')}
          dimension="count"
          value={copies}
          onChange={setCopies}
          min={1}
          max={5000}
        />
        {view.places > 1 && (
          <QuantityField
            label={t('lab.first')}
            dimension="count"
            value={first}
            onChange={setFirst}
            min={1}
            max={view.places}
          />
        )}
      </div>
      <label className="mt-2 flex min-h-11 items-center gap-3">
        <input
          type="checkbox"
          checked={boxes}
          onChange={(e) => setBoxes(e.target.checked)}
          className="size-5 accent-(--violet-text)"
        />
        {t('lab.boxes', { n: workshop.boxBars })}
      </label>
      <div className="mt-2 flex flex-wrap gap-2">
        {link(t('lab.one'), { copies: 1, first: first ?? 1 })}
        {view.places > 1 &&
          link(t('lab.sheet', { n: view.places }), {
            copies: view.places - ((first ?? 1) - 1),
            first: first ?? 1,
          })}
        {link(
          view.places > 1
            ? t('lab.all-sheets', { n: number(labels), sheets: number(sheets) })
            : t('lab.all', { n: number(labels) }),
          all,
          true,
        )}
      </div>
      {!view.fits && <p className="mt-2 text-[13px] text-bad">▲ {t('lab.not-fits')}</p>}
    </Panel>
  );
}

/** A design to begin with: one of those the app brings is for the workshop’s market and in the reader’s language, until one of its own is kept. */
function begunWith({ version, design }: LabelDesignRecord, language: Language, market: Market): LabelDesign {
  if (version > 0) return design;
  const spoken = market === 'US' ? 'en' : language;
  const isSo = design.market === market && design.languages[0] === spoken;
  return isSo ? design : { ...design, market, languages: [spoken] };
}

/** The label of some bars, made from what they were made of: seen at true size, held against its market, printed. */
export default function LabelPage() {
  const words = useWords();
  const { t } = words;
  const { batchId, parcelId } = useParams();
  const { address } = useDoor();
  const send = useEntryHere();
  const { data: designs } = useRead<LabelDesignRecord[]>('/api/label-designs');
  const [kept, setKept] = useKept<Chosen>('label');
  const [name, setName] = useState('');
  const mayMake = useMayMake();
  const known = (designs ?? []).filter((d) => d.active);
  const chosen = known.find((d) => d.id === kept?.id) ?? known.find((d) => d.version > 0) ?? known[0];
  const design =
    (kept && chosen?.id === kept.id ? kept.changed : null) ??
    (chosen && begunWith(chosen, words.language, usualMarket(words.currency)));
  const faults = design ? designFaults(design) : [];
  const query =
    chosen && design && faults.length === 0
      ? design === chosen.design
        ? `design=${encodeURIComponent(chosen.id)}`
        : `as=${encodeURIComponent(JSON.stringify(design))}`
      : null;
  const { data: view, error } = useRead<LabelView>(query ? `/api/labels/${parcelId}?${query}` : null, {
    keepPreviousData: true,
  });
  if (!designs || (!view && !error)) return <p className="p-6 text-ink-3">{t('loading')}</p>;
  if (!view || !design || !chosen)
    return (
      <div className="p-4">
        <h1 className="text-[26px]">{t('lab.none')}</h1>
        <p className="mt-2 max-w-prose text-ink-2">{words.explain(error)}</p>
      </div>
    );
  const change = (part: Partial<LabelDesign>) => setKept({ id: chosen.id, changed: { ...design, ...part } });
  const nameOf = (d: LabelDesignRecord) => (d.version > 0 ? d.name : words.word('design', d.name));
  const save = (id: string, version: number, as: string) =>
    void send({
      path: `/api/label-designs/${id}`,
      body: { name: as, design, active: true },
      label: t('lab.saved', { name: as }),
      ...(version > 0 && { ifMatch: version }),
    }).then(
      () => {
        setKept({ id, changed: null });
        setName('');
      },
      () => undefined,
    );
  return (
    <div className="p-3 sm:px-4">
      <header className="mb-3 flex flex-wrap items-baseline gap-x-4">
        <h1 className="text-[26px]">{t('label.title', { code: view.code })}</h1>
        <span className="text-[13.5px] text-ink-2">
          {t('bars.n', { n: view.bars })} ·{' '}
          {view.netMg % 1000 ? words.fineMass(view.netMg) : words.mass(view.netMg)}
        </span>
      </header>
      <div className="grid gap-2 lg:grid-cols-[1.75fr_1fr]">
        <div className="grid min-w-0 content-start gap-2 self-start lg:sticky lg:top-32">
          <Panel
            title={view.soldAs ?? t('lab.no-name')}
            aside={t('lab.size', {
              width: words.number(design.widthMm, design.widthMm % 1 ? 1 : 0),
              height: words.number(design.heightMm, design.heightMm % 1 ? 1 : 0),
            })}
          >
            <div
              className="flex flex-wrap gap-4 overflow-x-auto"
              tabIndex={0}
              role="region"
              aria-label={t('lab.preview')}
            >
              <Side svg={view.front} title={t('lab.front')} design={design} />
              {view.back && <Side svg={view.back} title={t('lab.back')} design={design} />}
            </div>
          </Panel>
          <LabelChecks view={view} market={design.market} batchId={batchId} />
        </div>
        <div className="grid min-w-0 content-start gap-2">
          <Printing
            key={view.code}
            view={view}
            href={(more) =>
              address(
                `/api/labels/${parcelId}/label.pdf?${query}&${new URLSearchParams(
                  Object.entries(more).map(([k, v]) => [k, String(v)]),
                ).toString()}`,
              )
            }
          />
          <Panel title={t('lab.design')}>
            <SelectField
              label={t('lab.which')}
              value={chosen.id}
              onChange={(e) => setKept({ id: e.target.value, changed: null })}
            >
              {known.map((d) => (
                <option key={d.id} value={d.id}>
                  {nameOf(d)}
                </option>
              ))}
            </SelectField>
            <LabelOptions design={design} onChange={change} />
            {faults.map((f) => (
              <p key={f.code} role="alert" className="mt-2 text-[13px] text-bad">
                ▲ {faultText(f, words)}
              </p>
            ))}
            {mayMake && design !== chosen.design && faults.length === 0 && (
              <div className="mt-3 flex flex-wrap items-end gap-2 border-t border-line pt-3">
                {chosen.version > 0 && (
                  <Button
                    icon={<Save size={16} aria-hidden="true" />}
                    onClick={() => save(chosen.id, chosen.version, chosen.name)}
                  >
                    {t('lab.keep', { name: chosen.name })}
                  </Button>
                )}
                <TextField
                  label={t('lab.name')}
                  value={name}
                  onChange={(e) => setName(e.target.value)}
                  maxLength={120}
                  className="min-w-40 grow"
                />
                <Button
                  icon={<Save size={16} aria-hidden="true" />}
                  disabled={name.trim() === ''}
                  onClick={() => save(newId(), 0, name.trim())}
                >
                  {t('lab.keep-new')}
                </Button>
              </div>
            )}
          </Panel>
        </div>
      </div>
    </div>
  );
}
