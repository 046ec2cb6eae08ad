import { useMemo } from 'react';
import type { SessionResults, TastingSession } from '@wunsch/contract';
import { answerWords, openedSession, ringsOf, rowsOf, type SessionAnalysis } from '@wunsch/core/taste';
import { useDoor } from '../../../shell/door.tsx';
import { newId } from '../../../shell/entry.ts';
import { useMayMake } from '../../../shell/session.tsx';
import { useEntryHere } from '../../../shell/useEntryHere.ts';
import { Button } from '../../../ui/Button.tsx';
import { Chip, Panel } from '../../../ui/Panel.tsx';
import { Table } from '../../../ui/Table.tsx';
import { useWords } from '../../../words/words.tsx';
import { LikingScale } from './LikingScale.tsx';
import { PanelStrip } from './PanelStrip.tsx';
import { ScaleUse } from './ScaleUse.tsx';
import { TasteHead } from './TasteHead.tsx';
import { useAnalysis } from './useAnalysis.ts';
import { useSessionResults } from './useSessions.ts';

/** An opened session: first the answer with its doubt, then the picture that carries it, then everything else. */
export function Opened({ session, note }: { session: TastingSession; note: string }) {
  const { t, language } = useWords();
  const { address } = useDoor();
  const { data: results } = useSessionResults(session.id);
  const analysis = useAnalysis(results);
  const link =
    'grid min-h-11 place-items-center rounded border border-edge bg-panel px-4 text-[13.5px] font-semibold hover:bg-panel-2';
  const file = (name: string) => address(`/api/tasting-sessions/${session.id}/${name}`);
  return (
    <>
      <TasteHead title={session.title} at="session" note={note}>
        <a href={file(`report.pdf?language=${language}`)} className={link}>
          {t('panel.report')}
        </a>
        <a href={file('scores.csv')} className={link}>
          {t('panel.scores')}
        </a>
      </TasteHead>
      {results && analysis ? (
        <Results results={results} analysis={analysis} />
      ) : (
        <p role="status" className="text-ink-3">
          {t('panel.results.working')}
        </p>
      )}
    </>
  );
}

function Results({ results, analysis }: { results: SessionResults; analysis: SessionAnalysis }) {
  const words = useWords();
  const { t } = words;
  const { session, cards } = results;
  const names = useMemo(() => new Map(session.samples.map((s) => [s.id, s.label])), [session]);
  const nameOf = (id: string) => names.get(id) ?? id;
  const told = answerWords(analysis.answer, session, nameOf, words);
  const liking = analysis.attributes.find((a) => a.attribute === 'liking')?.result;
  const wentBack = cards.filter((c) => c.nth > 1).length;
  const strips = session.samples.filter((s) => (analysis.strips[s.id]?.strips ?? 0) > 0);
  return (
    <div className="grid gap-2 lg:grid-cols-6">
      <Panel className="lg:col-span-6">
        <div className="flex flex-wrap items-baseline gap-x-5 gap-y-1">
          <h2 className="text-[26px] leading-tight">{told.head}</h2>
          <p className="min-w-64 flex-1 text-[14px]">{told.lines.join(' ')}</p>
        </div>
        <Kept session={session} best={analysis.answer.kind === 'best' ? analysis.answer.best : null} />
        {wentBack > 0 && (
          <p className="mt-1 text-[12.5px] text-ink-3">{t('panel.results.back', { n: wentBack })}</p>
        )}
      </Panel>
      {liking?.ok && (
        <Panel title={t('panel.results.liking')} className="lg:col-span-4">
          <LikingScale
            samples={liking.samples.map((s) => ({
              ...s,
              name: nameOf(s.sample),
              note: session.samples.find((x) => x.id === s.sample)?.other?.maker ?? '',
            }))}
            differences={liking.differences}
            singles={ringsOf(rowsOf(openedSession(session, cards).scores, 'liking'), liking.levels)}
          />
          <p className="mt-1 text-[12.5px] text-ink-3">{t('panel.results.liking.note')}</p>
        </Panel>
      )}
      {analysis.assessors.length > 0 && (
        <Panel title={t('panel.results.scale')} className="lg:col-span-2">
          <ScaleUse of={analysis.assessors} />
        </Panel>
      )}
      {strips.length > 0 && (
        <Panel
          title={t('panel.results.strips')}
          aside={t('panel.results.strip.note', {
            n: Math.max(...strips.map((s) => analysis.strips[s.id]!.strips)),
            level: words.percent(Math.max(...strips.map((s) => analysis.strips[s.id]!.level)), 0),
          })}
          className="lg:col-span-6"
        >
          <div className="grid gap-x-6 gap-y-4 md:grid-cols-2">
            {strips.map((s) => (
              <div key={s.id} className="min-w-0">
                <h3 className="text-[14.5px]">{s.label}</h3>
                <PanelStrip of={analysis.strips[s.id]!} />
              </div>
            ))}
          </div>
        </Panel>
      )}
      {analysis.notes.length > 0 && (
        <Panel title={t('panel.results.notes')} className="lg:col-span-6">
          <Table
            caption={t('panel.results.notes')}
            rows={analysis.notes.slice(0, 10)}
            keyOf={(n) => n.note}
            columns={[
              { id: 'note', title: t('strip'), cell: (n) => words.word('note', n.note) },
              ...session.samples.map((s) => ({
                id: s.id,
                title: s.label,
                numeric: true,
                cell: (n: SessionAnalysis['notes'][number]) => words.percent(n.shares[s.id] ?? 0, 0),
              })),
              {
                id: 'p',
                title: '',
                cell: (n) =>
                  n.decided
                    ? t('panel.results.notes.differs', { p: words.number(n.adjusted, 3) })
                    : t('panel.results.notes.open'),
              },
            ]}
          />
          <p className="mt-1 text-[12.5px] text-ink-3">{t('panel.results.notes.note')}</p>
        </Panel>
      )}
      {analysis.attributes.some((a) => a.result.ok) && (
        <Marks session={session} analysis={analysis} nameOf={nameOf} />
      )}
      <Panel title={t('panel.results.key')} className="lg:col-span-6">
        <Table
          caption={t('panel.results.key')}
          rows={session.samples}
          keyOf={(s) => s.id}
          columns={[
            { id: 'label', title: t('panel.key.sample'), cell: (s) => s.label },
            ...(session.samples.some((s) => noteOf(session, s.id, words))
              ? [
                  {
                    id: 'other',
                    title: t('panel.sample.words'),
                    cell: (s: TastingSession['samples'][number]) => noteOf(session, s.id, words),
                  },
                ]
              : []),
            {
              id: 'codes',
              title: t('panel.key.code'),
              numeric: true,
              cell: (s) => results.key.codes.flatMap((c) => (c.sampleId === s.id ? [c.code] : [])).join(', '),
            },
            {
              id: 'cards',
              title: t(session.question === 'different' ? 'panel.key.chosen' : 'panel.cards.n', {
                n: cards.length,
              }),
              numeric: true,
              cell: (s) => cards.filter((c) => c.sampleId === s.id && c.nth === 1).length,
            },
          ]}
        />
      </Panel>
    </div>
  );
}

/** What the workshop goes on with: kept with a tap, the best one offered first. */
function Kept({ session, best }: { session: TastingSession; best: string | null }) {
  const { t } = useWords();
  const send = useEntryHere();
  const mayMake = useMayMake();
  const kept = session.samples.find((s) => s.id === session.keptId);
  if (kept)
    return (
      <p className="mt-2">
        <Chip tone="ok">{t('panel.kept', { name: kept.label })}</Chip>
      </p>
    );
  if (!mayMake || session.question !== 'keep') return null;
  const order = [...session.samples].sort((a, b) => Number(b.id === best) - Number(a.id === best));
  return (
    <div className="mt-3 flex flex-wrap gap-2">
      {order.map((s) => (
        <Button
          key={s.id}
          look={s.id === best ? 'main' : 'plain'}
          onClick={() =>
            void send({
              path: `/api/tasting-session-keeps/${newId()}`,
              body: { sessionId: session.id, sampleId: s.id },
              label: t('panel.kept', { name: s.label }),
              undo: true,
            }).catch(() => undefined)
          }
        >
          {t('panel.keep', { name: s.label })}
        </Button>
      ))}
    </div>
  );
}

/** All marks of all samples, with a tick where two of them differ. */
function Marks({
  session,
  analysis,
  nameOf,
}: {
  session: TastingSession;
  analysis: SessionAnalysis;
  nameOf: (id: string) => string;
}) {
  const words = useWords();
  const { t } = words;
  return (
    <Panel title={t('panel.results.marks')} className="lg:col-span-6">
      <Table
        caption={t('panel.results.marks')}
        rows={analysis.attributes.filter((a) => a.result.ok)}
        keyOf={(a) => a.attribute}
        columns={[
          { id: 'mark', title: '', cell: (a) => words.word('mark', a.attribute) },
          ...session.samples.map((s) => ({
            id: s.id,
            title: s.label,
            numeric: true,
            cell: (a: SessionAnalysis['attributes'][number]) => {
              const level = a.result.ok ? a.result.samples.find((x) => x.sample === s.id) : null;
              return level ? words.number(level.estimate, 1) : '—';
            },
          })),
          {
            id: 'differ',
            title: '',
            cell: (a) => {
              const decided = a.result.ok ? a.result.differences.filter((d) => d.decided) : [];
              return decided.length > 0
                ? `✓ ${decided.map((d) => `${nameOf(d.a)} > ${nameOf(d.b)}`).join(', ')}`
                : t('panel.results.apart');
            },
          },
        ]}
      />
      <p className="mt-1 text-[12.5px] text-ink-3">{t('panel.results.marks.note')}</p>
    </Panel>
  );
}

/** What stands under a sample’s name: another maker’s own words, its price and date. */
function noteOf(session: TastingSession, id: string, words: ReturnType<typeof useWords>): string {
  const other = session.samples.find((s) => s.id === id)?.other;
  if (!other) return '';
  return [
    other.maker,
    other.words,
    other.price === null ? null : words.money(other.price),
    other.bestBefore ? words.day(other.bestBefore) : null,
  ]
    .filter(Boolean)
    .join(', ');
}
