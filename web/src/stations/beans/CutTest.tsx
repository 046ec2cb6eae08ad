import { useEffect, useState } from 'react';
import type { LotView } from '@wunsch/contract';
import {
  beansCounted,
  beanSize,
  CUT_CLASSES,
  fermentationIndex,
  gradeOf,
  GRADES,
  judgeGrade,
  MOST_BEANS,
  NO_COUNTS,
  shareOf,
  type CutClass,
  type CutCounts,
} from '@wunsch/core/sort';
import { Button } from '../../ui/Button.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { TextField } from '../../ui/Field.tsx';
import { Figure, Panel } from '../../ui/Panel.tsx';
import { Table } from '../../ui/Table.tsx';
import { useDraft } from '../../shell/useDraft.ts';
import { useKept } from '../../shell/useKept.ts';
import { useWords, type Words } from '../../words/words.tsx';
import { notesOf, useLotWork } from './useLot.ts';

/** One key a class, under the left hand. */
const KEYS: Readonly<Record<CutClass, string>> = {
  brown: 'b',
  'partly violet': 'p',
  violet: 'v',
  slaty: 's',
  mouldy: 'm',
  insect: 'i',
  germinated: 'g',
  flat: 'f',
};

const FILLS: Readonly<Record<CutClass, string>> = {
  brown: '#6b4630',
  'partly violet': '#7c5162',
  violet: '#744568',
  slaty: '#6d7478',
  mouldy: '#9aa58f',
  insect: '#c9b48f',
  germinated: '#b7925a',
  flat: '#d8cdb6',
};

/** A cut bean as it looks in its class. */
function CutBean({ of }: { of: CutClass }) {
  return (
    <svg width="34" height="24" viewBox="0 0 34 24" aria-hidden="true">
      <ellipse
        cx="17"
        cy="12"
        rx={of === 'flat' ? 15 : 14}
        ry={of === 'flat' ? 5 : 9.5}
        fill={FILLS[of]}
        stroke="var(--ink-3)"
      />
      {of === 'partly violet' && <path d="M17 2.5a14 9.5 0 0 1 0 19z" fill="#6b4630" />}
      {of !== 'slaty' && of !== 'flat' && (
        <path d="M6 12q5-4 11 0t11 0" fill="none" stroke="#fff" strokeOpacity="0.7" />
      )}
      {of === 'mouldy' &&
        [10, 16, 22].map((x) => <circle key={x} cx={x} cy={9 + (x % 4)} r="2.2" fill="#e9efe2" />)}
      {of === 'insect' && <circle cx="21" cy="12" r="3" fill="#1e1512" />}
      {of === 'germinated' && <path d="M31 12h-6" stroke="#1e1512" strokeWidth="2" />}
    </svg>
  );
}

/** Counting a cut test: one key or one tap a bean, with undo, running shares and exact intervals. */
function Counting({ view, onClose }: { view: LotView; onClose: () => void }) {
  const words = useWords();
  const { t } = words;
  const work = useLotWork(view.lot);
  const [kept, setTaps, forget] = useKept<CutClass[]>(`cut.${view.lot.id}`);
  const taps = kept ?? [];
  const counts: CutCounts = taps.reduce((c, tap) => ({ ...c, [tap]: c[tap] + 1 }), NO_COUNTS);
  const full = taps.length >= MOST_BEANS;
  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      if (e.ctrlKey || e.metaKey || e.altKey || (e.target as HTMLElement).tagName === 'INPUT') return;
      const key = e.key.toLowerCase();
      const hit = CUT_CLASSES.find((c) => KEYS[c] === key);
      if (hit) setTaps((all) => ((all?.length ?? 0) < MOST_BEANS ? [...(all ?? []), hit] : all));
      else if (key === 'z' || key === 'backspace') setTaps((all) => all?.slice(0, -1) ?? null);
      else return;
      e.preventDefault();
      e.stopPropagation();
    };
    window.addEventListener('keydown', press, true);
    return () => window.removeEventListener('keydown', press, true);
  }, [setTaps]);
  const keep = () =>
    work
      .note({ kind: 'cutTest', counts, note: '' }, t('cut.kept', { n: taps.length }))
      .then(() => {
        forget();
        onClose();
      })
      .catch(() => undefined);
  return (
    <Dialog open onClose={onClose} title={t('cut.title')} description={t('cut.hint')} wide>
      <div className="mb-2 flex flex-wrap items-baseline justify-between gap-2">
        <span className="num text-[28px]" role="status">
          {t('cut.count', { n: taps.length })}
        </span>
        {full && <span className="font-semibold text-ok">{t('cut.full')}</span>}
      </div>
      <div className="grid grid-cols-2 gap-2 sm:grid-cols-4">
        {CUT_CLASSES.map((c) => {
          const s = shareOf(counts, [c]);
          return (
            <button
              key={c}
              type="button"
              disabled={full}
              onClick={() => setTaps((all) => [...(all ?? []), c])}
              className="grid min-h-24 justify-items-center gap-0.5 rounded border border-edge bg-panel p-2 hover:bg-panel-2 active:bg-violet-tint"
            >
              <span className="flex items-center gap-2 text-[14px] font-semibold">
                <CutBean of={c} />
                {t(`cut.class.${c}`)}
                <kbd className="rounded border border-line-2 px-1.5 text-[12px] font-normal text-ink-3">
                  {KEYS[c].toUpperCase()}
                </kbd>
              </span>
              <span className="num text-[22px]">{s.count}</span>
              <span className="text-[12px] text-ink-3">{taps.length > 0 ? interval(s, words) : ''}</span>
            </button>
          );
        })}
      </div>
      <div className="mt-3 flex flex-wrap gap-2">
        <Button onClick={() => setTaps((all) => all?.slice(0, -1) ?? null)} disabled={taps.length === 0}>
          {t('cut.undo')} <kbd className="text-ink-3">Z</kbd>
        </Button>
        <Button look="quiet" onClick={forget} disabled={taps.length === 0}>
          {t('kept.discard')}
        </Button>
        <Button look="main" big className="grow" disabled={taps.length === 0} onClick={() => void keep()}>
          {t('cut.keep')}
        </Button>
      </div>
      {taps.length > 0 && <Verdicts counts={counts} />}
    </Dialog>
  );
}

const interval = (s: { share: number; low: number; high: number }, words: Words) =>
  `${words.percent(s.share)} [${words.number(s.low * 100, 2)}–${words.number(s.high * 100, 2)}]`;

/** How the counts stand against the best grade's limits. */
function Verdicts({ counts }: { counts: CutCounts }) {
  const words = useWords();
  const { t } = words;
  const rows = GRADES.flatMap((g) => judgeGrade(counts, g).map((v) => ({ ...v, grade: g.name })));
  const grade = gradeOf(counts);
  const index = fermentationIndex(counts);
  return (
    <div className="mt-3">
      <p className="mb-2 font-semibold">
        {grade ? t('cut.grade', { grade: grade.name }) : t('cut.grade.none')}
        {Number.isFinite(index) && (
          <span className="ml-4 font-normal text-ink-2">
            {t('cut.index')} {words.number(index)} %
          </span>
        )}
      </p>
      <Table
        caption={t('cut.title')}
        rows={rows}
        keyOf={(r) => `${r.grade} ${r.limit.name}`}
        columns={[
          {
            id: 'limit',
            title: t('cut.limit'),
            cell: (r) => `${r.grade}: ${t(`cut.limit.${r.limit.name}`)} ≤ ${words.number(r.limit.percent)} %`,
          },
          { id: 'share', title: t('cut.share'), numeric: true, cell: (r) => interval(r, words) },
          {
            id: 'chance',
            title: t('cut.chance'),
            numeric: true,
            cell: (r) => words.chance(r.chanceWithin, 1),
          },
          {
            id: 'verdict',
            title: t('cut.verdict'),
            cell: (r) =>
              r.verdict === 'within' ? (
                <span className="text-ok">✓ {t('cut.within')}</span>
              ) : r.verdict === 'over' ? (
                <span className="text-bad">▲ {t('cut.over')}</span>
              ) : r.beansToSettle === null ? (
                t('cut.open.many')
              ) : (
                t('cut.open', { n: r.beansToSettle })
              ),
          },
        ]}
      />
      <p className="mt-1 text-[12px] text-ink-3">{t('cut.local')}</p>
    </div>
  );
}

/** A lot's cut tests, with the way to a new one, and its bean counts. */
export function CutTestPanel({ view, mayMake }: { view: LotView; mayMake: boolean }) {
  const words = useWords();
  const { t } = words;
  const work = useLotWork(view.lot);
  const [open, setOpen] = useState(false);
  const { draft, change, keep } = useDraft({ text: '' });
  const tests = notesOf(view, 'cutTest');
  const last = tests.at(-1);
  const sizes = notesOf(view, 'beanCount').at(-1);
  const size = sizes ? beanSize(sizes.data.grams) : null;
  const grams = draft.text
    .trim()
    .split(/[\s;]+/)
    .filter(Boolean)
    .map((g) => Number(g.replace(',', '.')));
  const understood = grams.length > 0 && grams.every((g) => g > 0 && g < 20);
  const keepCount = async () => {
    if (await keep(() => work.note({ kind: 'beanCount', grams }, t('count.kept'))))
      await work
        .change({ beansPer100g: Math.round(beanSize(grams).per100g * 10) / 10 })
        .catch(() => undefined);
  };
  return (
    <Panel
      title={t('cut.title')}
      aside={
        mayMake && (
          <Button onClick={() => setOpen(true)} data-key="r">
            {t('cut.start')}
          </Button>
        )
      }
    >
      {last ? (
        <>
          <p className="text-ink-3">
            {t('cut.of', { n: beansCounted(last.data.counts as CutCounts), day: words.day(last.at) })}
          </p>
          <ShareBar counts={last.data.counts as CutCounts} />
          <Verdicts counts={last.data.counts as CutCounts} />
        </>
      ) : (
        <p className="text-ink-3">{t('cut.none')}</p>
      )}
      <h3 className="mb-1 mt-4 text-[15px]">{t('count.title')}</h3>
      {size && sizes && (
        <Figure name={words.day(sizes.at)}>
          <span className="text-[15px]">
            {t('count.result', {
              n: sizes.data.grams.length,
              per: words.number(size.per100g),
              mean: words.number(size.meanG, 2),
              spread: Number.isFinite(size.spreadPercent) ? words.number(size.spreadPercent) : '—',
            })}
          </span>
        </Figure>
      )}
      {mayMake && (
        <form
          className="mt-2 flex flex-wrap items-end gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            if (understood) void keepCount();
          }}
        >
          <TextField
            label={t('count.grams')}
            value={draft.text}
            onChange={(e) => change({ text: e.target.value })}
            hint={
              understood
                ? t('count.result', {
                    n: grams.length,
                    per: words.number(beanSize(grams).per100g),
                    mean: words.number(beanSize(grams).meanG, 2),
                    spread: grams.length > 1 ? words.number(beanSize(grams).spreadPercent) : '—',
                  })
                : t('count.hint')
            }
            className="min-w-56 grow"
          />
          <Button type="submit" disabled={!understood} className="mb-6">
            {t('count.keep')}
          </Button>
        </form>
      )}
      {open && <Counting view={view} onClose={() => setOpen(false)} />}
    </Panel>
  );
}

/** The classes of a test as shares of one bar. */
export function ShareBar({ counts }: { counts: CutCounts }) {
  const { t, percent } = useWords();
  const total = beansCounted(counts);
  if (total === 0) return null;
  const text = CUT_CLASSES.filter((c) => counts[c] > 0)
    .map((c) => `${t(`cut.class.${c}`)} ${percent(counts[c] / total)}`)
    .join(', ');
  return (
    <div className="my-2">
      <div className="flex h-6 overflow-hidden rounded border border-line-2" role="img" aria-label={text}>
        {CUT_CLASSES.map((c) => (
          <span key={c} style={{ width: `${(counts[c] / total) * 100}%`, background: FILLS[c] }} />
        ))}
      </div>
      <p className="mt-1 text-[12.5px] text-ink-2">{text}</p>
    </div>
  );
}
