import { useEffect, useMemo, useState } from 'react';
import type { TastedBatch } from '@wunsch/contract';
import type { BatchesOfBar, BatchOfBar, PanelScore } from '@wunsch/core/taste';
import { useWidth } from '../../charts/useWidth.ts';
import { useDoor } from '../../shell/door.tsx';
import { Button } from '../../ui/Button.tsx';
import { SelectField } from '../../ui/Field.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useWords } from '../../words/words.tsx';
import { tasteWork } from '../../workers/taste.ts';
import { dayOfUtc } from './dayOfUtc.ts';

const keyOf = (b: TastedBatch) => (b.bar ? `${b.bar.recipe}\n${b.bar.lotId}` : null);

/** Bars of which more than one batch was tasted; the most tasted first, their batches by the day they were made. */
function barsOf(data: readonly TastedBatch[]): { key: string; name: string; batches: TastedBatch[] }[] {
  const bars = new Map<string, TastedBatch[]>();
  for (const b of data) {
    const key = keyOf(b);
    if (key !== null) bars.set(key, [...(bars.get(key) ?? []), b]);
  }
  return [...bars]
    .filter(([, batches]) => batches.length > 1)
    .map(([key, batches]) => ({
      key,
      name: `${batches[0]!.bar!.recipe} · ${batches[0]!.lotName}`,
      batches: [...batches].sort((a, b) => (a.madeAt ?? '').localeCompare(b.madeAt ?? '')),
    }))
    .sort((a, b) => b.batches.length - a.batches.length);
}

/** Scores of cards as the panel’s model reads them: sittings are sessions, or the day where there was none. */
const scoresOf = (batches: readonly TastedBatch[]): PanelScore[] =>
  batches.flatMap((b) =>
    b.cards.map((c) => ({
      sample: b.batchId,
      assessor: c.by,
      session: c.session === null ? c.at.slice(0, 10) : `session ${c.session}`,
      score: c.liking,
    })),
  );

/** Batches of a bar that are there at once: the latest. */
const LATEST = 16;

/** Batches of one bar held against one of them and its margin, with how long each keeps. */
export function BarBatches({
  data,
  keepsUntil,
}: {
  data: readonly TastedBatch[];
  keepsUntil: (batch: TastedBatch) => number | null;
}) {
  const { t } = useWords();
  const bars = useMemo(() => barsOf(data), [data]);
  const [chosen, setChosen] = useState('');
  const [against, setAgainst] = useState('');
  const [margin, setMargin] = useState(1);
  /** The bar all of whose batches are shown. */
  const [all, setAll] = useState('');
  const bar = bars.find((b) => b.key === chosen) ?? bars[0];
  const first = bar?.batches.find((b) => b.batchId === against) ?? bar?.batches[0];
  const found = useBar(bar?.batches, first?.batchId, margin);
  if (!bar || !first) return <p className="text-ink-2">{t('tasted.bar.none')}</p>;
  const latest = bar.batches.slice(all === bar.key ? 0 : -LATEST);
  const shown = latest.includes(first) ? latest : [first, ...latest];
  return (
    <>
      <div className="mb-3 grid gap-3 sm:grid-cols-3">
        <SelectField
          label={t('tasted.bar.which')}
          value={bar.key}
          onChange={(e) => setChosen(e.target.value)}
        >
          {bars.map((b) => (
            <option key={b.key} value={b.key}>
              {b.name}
            </option>
          ))}
        </SelectField>
        <SelectField
          label={t('tasted.bar.against')}
          value={first.batchId}
          onChange={(e) => setAgainst(e.target.value)}
        >
          {bar.batches.map((b) => (
            <option key={b.batchId} value={b.batchId}>
              {b.code}
            </option>
          ))}
        </SelectField>
        <QuantityField
          label={t('panel.margin')}
          dimension="number"
          value={margin}
          onChange={(v) => setMargin(v ?? 1)}
          min={0.1}
          max={5}
        />
      </div>
      {!found && <p className="text-ink-3">{t('loading')}</p>}
      {found?.ok && (
        <Scale batches={shown} found={found} first={first} margin={margin} keepsUntil={keepsUntil} />
      )}
      {found?.ok && shown.length < bar.batches.length && (
        <Button className="no-print mt-2" onClick={() => setAll(bar.key)}>
          {t('table.all', { n: bar.batches.length })}
        </Button>
      )}
      {found && !found.ok && (
        <p className="text-ink-2">{t(`tasted.bar.lacks.${found.reason}`, { needs: found.needs })}</p>
      )}
    </>
  );
}

/** What the station’s thread finds; null until it does. */
function useBar(
  batches: readonly TastedBatch[] | undefined,
  reference: string | undefined,
  margin: number,
): BatchesOfBar | null {
  const [found, setFound] = useState<{
    of: readonly TastedBatch[];
    answer: BatchesOfBar;
  } | null>(null);
  useEffect(() => {
    if (!batches || !reference) return;
    let current = true;
    tasteWork
      .ask<BatchesOfBar>(
        (thread) => thread.bar(scoresOf(batches), { reference, margin }) as Promise<BatchesOfBar>,
      )
      .then(
        (answer) => current && setFound({ of: batches, answer }),
        () => undefined,
      );
    return () => {
      current = false;
    };
  }, [batches, reference, margin]);
  // What was found of another bar is nothing of this one.
  return found && found.of === batches ? found.answer : null;
}

const ROW = 46;

function Scale({
  batches,
  found,
  first,
  margin,
  keepsUntil,
}: {
  batches: readonly TastedBatch[];
  found: Extract<BatchesOfBar, { ok: true }>;
  first: TastedBatch;
  margin: number;
  keepsUntil: (batch: TastedBatch) => number | null;
}) {
  const words = useWords();
  const { t } = words;
  const { ref, width } = useWidth<HTMLDivElement>(680);
  const { now: clock } = useDoor();
  const [now] = useState(clock);
  const isNarrow = width < 520;
  const [left, right] = isNarrow ? [6, 10] : [118, 190];
  const told = found.batches.filter((b) => batches.some((x) => x.batchId === b.sample));
  const of = new Map(told.map((b) => [b.sample, b]));
  const edges = told.flatMap((b) => [found.reference + b.low, found.reference + b.high]);
  const low = Math.max(0, Math.floor(Math.min(found.reference - margin, ...edges)));
  const high = Math.min(10, Math.ceil(Math.max(found.reference + margin, ...edges)));
  const x = (v: number) =>
    left + ((Math.min(high, Math.max(low, v)) - low) / (high - low)) * (width - left - right);
  const row = isNarrow ? ROW + 20 : ROW;
  const bottom = 12 + batches.length * row;
  const n = (v: number) => words.number(v, 1);
  const verdictOf = (b: BatchOfBar | undefined) => t(b ? `tasted.bar.${b.verdict}` : 'tasted.bar.first');
  const keeps = (b: TastedBatch) => {
    const until = keepsUntil(b);
    if (until === null) return '';
    return t(until < now ? 'tasted.bar.kept' : 'tasted.bar.keeps', {
      day: words.day(dayOfUtc(until)),
    });
  };
  return (
    <div ref={ref} className="min-w-0 overflow-hidden">
      <svg
        width={width}
        height={bottom + 22}
        role="img"
        aria-label={told
          .map((b) =>
            t('tasted.bar.text', {
              code: batches.find((x) => x.batchId === b.sample)!.code,
              level: n(b.level),
              low: n(found.reference + b.low),
              high: n(found.reference + b.high),
              verdict: verdictOf(b),
            }),
          )
          .join('; ')}
      >
        <rect
          x={x(found.reference - margin)}
          y={8}
          width={x(found.reference + margin) - x(found.reference - margin)}
          height={bottom - 8}
          fill="var(--panel-2)"
          stroke="var(--line-2)"
        />
        {Array.from({ length: high - low + 1 }, (_, i) => low + i).map((tick) => (
          <g key={tick}>
            <path d={`M${x(tick)} 8V${bottom}`} stroke="var(--line)" strokeDasharray="1 3" />
            <text x={x(tick)} y={bottom + 16} fontSize="12" fill="var(--ink-3)" textAnchor="middle">
              {words.number(tick)}
            </text>
          </g>
        ))}
        <path
          d={`M${x(found.reference)} 8V${bottom}`}
          stroke="var(--ink-3)"
          strokeWidth={1.4}
          strokeDasharray="5 4"
        />
        {batches.map((b, i) => {
          const y = 12 + i * row + (isNarrow ? 44 : 22);
          const own = of.get(b.batchId);
          const at = found.reference + (own?.difference ?? 0);
          return (
            <g key={b.batchId}>
              <text x={4} y={isNarrow ? y - 22 : y + 5} fontSize="14" fontWeight={600} fill="var(--ink)">
                {b.code}
              </text>
              {own && (
                <rect
                  x={x(at + own.low - own.difference)}
                  y={y - 6}
                  width={Math.max(2, x(at + own.high - own.difference) - x(at + own.low - own.difference))}
                  height={12}
                  fill="var(--violet-tint)"
                  stroke="var(--violet-text)"
                />
              )}
              <rect
                x={x(at) - 2.5}
                y={y - 10}
                width={5}
                height={20}
                fill={own ? 'var(--violet-text)' : 'var(--ink)'}
              />
              <text
                x={isNarrow ? width - 6 : width - right + 16}
                y={isNarrow ? y - 22 : y - 1}
                fontSize="13"
                fontWeight={600}
                fill="var(--ink)"
                textAnchor={isNarrow ? 'end' : 'start'}
              >
                {`${n(at)} · ${b === first ? t('tasted.bar.first') : verdictOf(own)}`}
              </text>
              {!isNarrow && (
                <text x={width - right + 16} y={y + 15} fontSize="12" fill="var(--ink-3)">
                  {keeps(b)}
                </text>
              )}
            </g>
          );
        })}
      </svg>
      <p className="mt-1 text-[12.5px] text-ink-3">{t('tasted.bar.note')}</p>
    </div>
  );
}
