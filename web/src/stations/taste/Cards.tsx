import { Trash2 } from 'lucide-react';
import { useState } from 'react';
import type { BatchView, TastingPut } from '@wunsch/contract';
import {
  BASICS,
  FAULTS,
  STARTER_NOTES,
  STRIP_SECONDS,
  TEXTURES,
  type Basic,
  type Fault,
  type Fit,
  type Stroke,
  type Texture,
} from '@wunsch/core/taste';
import { newId } from '../../shell/entry.ts';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { Button } from '../../ui/Button.tsx';
import { Choice, TextArea } from '../../ui/Field.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { useDraft } from '../../shell/useDraft.ts';
import { useWords } from '../../words/words.tsx';
import { TastingStrip } from './TastingStrip.tsx';

/** Eleven steps from 0 to 10, each a tap. */
export function ScoreRow({
  name,
  low,
  high,
  value,
  onChange,
}: {
  name: string;
  low: string;
  high: string;
  value: number | null;
  onChange: (value: number) => void;
}) {
  return (
    <div role="radiogroup" aria-label={name} className="mb-3">
      <div className="mb-1 flex justify-between text-[12.5px]">
        <span className="font-semibold">{name}</span>
      </div>
      <div className="grid grid-cols-11 gap-1">
        {Array.from({ length: 11 }, (_, i) => (
          <button
            key={i}
            type="button"
            role="radio"
            aria-checked={value === i}
            aria-label={`${name} ${i}`}
            onClick={() => onChange(i)}
            className={`num min-h-11 rounded border text-[14px] ${value === i ? 'border-violet bg-violet text-white' : 'border-edge bg-panel hover:bg-violet-tint'}`}
          >
            {i}
          </button>
        ))}
      </div>
      <div className="flex justify-between text-[12px] text-ink-3">
        <span>{low}</span>
        <span>{high}</span>
      </div>
    </div>
  );
}

function useSave(view: BatchView) {
  const { t } = useWords();
  const send = useEntryHere();
  return (card: TastingPut['card']) =>
    send({
      path: `/api/tastings/${newId()}`,
      body: { batchId: view.batch.id, card },
      label: t('done.tasting', { code: view.batch.code }),
      batchId: view.batch.id,
      undo: true,
    });
}

interface QuickScores {
  sour: number | null;
  grit: number | null;
  liking: number | null;
  words: string;
}

/** The bench card: three taps and done. */
export function QuickCard({ view }: { view: BatchView }) {
  const { t } = useWords();
  const save = useSave(view);
  const { draft, change, keep } = useDraft<QuickScores>({ sour: null, grit: null, liking: null, words: '' });
  const { sour, grit, liking, words } = draft;
  const ready = sour !== null && grit !== null && liking !== null;
  return (
    <Panel title={t('taste.quick')} aside={t('taste.quick.hint')}>
      <ScoreRow
        name={t('basic.sour')}
        low={t('score.none')}
        high={t('score.very')}
        value={sour}
        onChange={(next) => change({ sour: next })}
      />
      <ScoreRow
        name={t('texture.grit')}
        low={t('score.none')}
        high={t('score.very')}
        value={grit}
        onChange={(next) => change({ grit: next })}
      />
      <ScoreRow
        name={t('liking')}
        low={t('score.not')}
        high={t('score.love')}
        value={liking}
        onChange={(next) => change({ liking: next })}
      />
      <TextArea
        label={t('taste.words')}
        value={words}
        onChange={(e) => change({ words: e.target.value })}
        maxLength={2000}
        rows={2}
      />
      <Button
        look="main"
        big
        className="mt-3"
        disabled={!ready}
        onClick={() =>
          void keep(() => save({ form: 'quick', sour: sour!, grit: grit!, liking: liking!, words }))
        }
      >
        {t('taste.save')}
      </Button>
    </Panel>
  );
}

function Notes({ strokes, onStrokes }: { strokes: Stroke[]; onStrokes: (strokes: Stroke[]) => void }) {
  const words = useWords();
  const { t } = words;
  const [note, setNote] = useState<string | null>(null);
  const [own, setOwn] = useState('');
  const lay = (from: number, to: number) => note && onStrokes([...strokes, { note, from, to, strength: 3 }]);
  const pick = (n: string) => {
    setNote(n);
    const last = Math.max(0, ...strokes.map((s) => s.to));
    const from = Math.min(last, STRIP_SECONDS - 20);
    onStrokes([...strokes, { note: n, from, to: from + 20, strength: 3 }]);
  };
  const change = (i: number, part: Partial<Stroke>) =>
    onStrokes(
      strokes.map((s, k) => {
        if (k !== i) return s;
        const next = { ...s, ...part };
        if (next.to <= next.from)
          return part.from !== undefined
            ? {
                ...next,
                to: Math.min(STRIP_SECONDS, next.from + 2),
                from: Math.min(next.from, STRIP_SECONDS - 2),
              }
            : { ...next, from: Math.max(0, next.to - 2), to: Math.max(2, next.to) };
        return next;
      }),
    );
  return (
    <Panel title={t('strip')} aside={t('strip.hint')}>
      <TastingStrip strokes={strokes} note={note} onDraw={lay} />
      <div className="mt-3 grid gap-2">
        {Object.entries(STARTER_NOTES).map(([family, notes]) => (
          <div key={family} className="flex flex-wrap items-center gap-1.5">
            <span className="w-32 text-[12.5px] text-ink-3">{words.word('family', family)}</span>
            {notes.map((n) => (
              <button
                key={n}
                type="button"
                onClick={() => pick(n)}
                className={`min-h-11 rounded border px-3 text-[13px] ${note === n ? 'border-violet-text font-semibold' : 'border-edge'} bg-panel hover:bg-violet-tint`}
              >
                {words.word('note', n)}
              </button>
            ))}
          </div>
        ))}
        <form
          className="flex gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            if (own.trim()) pick(own.trim());
            setOwn('');
          }}
        >
          <input
            value={own}
            onChange={(e) => setOwn(e.target.value)}
            aria-label={t('strip.own')}
            placeholder={t('strip.own')}
            maxLength={60}
            className="min-h-11 w-56 rounded border border-edge bg-panel px-3"
          />
          <Button type="submit">{t('strip.lay')}</Button>
        </form>
      </div>
      <ul className="mt-3 grid gap-2">
        {strokes.map((s, i) => {
          const name = words.word('note', s.note);
          const slider = (
            label: string,
            value: number,
            min: number,
            max: number,
            set: (v: number) => void,
            unit: string,
          ) => (
            <label className="grid grid-cols-[58px_1fr_44px] items-center gap-2 text-[12.5px]">
              {label}
              <input
                type="range"
                min={min}
                max={max}
                value={value}
                aria-label={`${name}: ${label}`}
                onChange={(e) => set(Number(e.target.value))}
                className="min-h-11 accent-(--violet-text)"
              />
              <span className="tabular-nums">
                {value} {unit}
              </span>
            </label>
          );
          return (
            <li
              key={i}
              className="grid items-center gap-x-4 border-b border-line sm:grid-cols-[110px_1fr_1fr_1fr_44px]"
            >
              <span className="font-semibold">{name}</span>
              {slider(t('strip.from'), s.from, 0, STRIP_SECONDS - 2, (v) => change(i, { from: v }), 's')}
              {slider(t('strip.to'), s.to, 2, STRIP_SECONDS, (v) => change(i, { to: v }), 's')}
              {slider(t('strip.strength'), s.strength, 1, 5, (v) => change(i, { strength: v }), '')}
              <button
                type="button"
                aria-label={t('strip.remove', { note: name })}
                onClick={() => onStrokes(strokes.filter((_, k) => k !== i))}
                className="grid size-11 place-items-center rounded hover:bg-violet-tint"
              >
                <Trash2 size={16} aria-hidden="true" />
              </button>
            </li>
          );
        })}
      </ul>
    </Panel>
  );
}

/** The full card in the order of the senses. */
export function FullCard({ view, onSaved }: { view: BatchView; onSaved: () => void }) {
  const words = useWords();
  const { t } = words;
  const save = useSave(view);
  const [gloss, setGloss] = useState<number | null>(null);
  const [sound, setSound] = useState<number | null>(null);
  const [smell, setSmell] = useState('');
  const [strokes, setStrokes] = useState<Stroke[]>([]);
  const [basics, setBasics] = useState<Partial<Record<Basic, { strength: number; fit: Fit }>>>({});
  const [texture, setTexture] = useState<Partial<Record<Texture, number>>>({});
  const [faults, setFaults] = useState<Fault[]>([]);
  const [liking, setLiking] = useState<number | null>(null);
  const [sell, setSell] = useState<'yes' | 'no' | null>(null);
  const [free, setFree] = useState('');
  const fits: readonly Fit[] = ['too little', 'right', 'too much'];
  return (
    <div className="grid gap-2">
      <p className="text-[12.5px] text-ink-3">{t('taste.advice')}</p>
      <div className="grid gap-2 lg:grid-cols-2">
        <Panel title={t('taste.look')}>
          <ScoreRow
            name={t('taste.gloss')}
            low={t('gloss.dull')}
            high={t('score.mirror')}
            value={gloss}
            onChange={setGloss}
          />
          <ScoreRow
            name={t('taste.snap')}
            low={t('score.soft')}
            high={t('score.crisp')}
            value={sound}
            onChange={setSound}
          />
        </Panel>
        <Panel title={t('taste.smell')}>
          <TextArea
            label={t('taste.smell.words')}
            value={smell}
            onChange={(e) => setSmell(e.target.value)}
            maxLength={400}
            rows={5}
          />
        </Panel>
      </div>
      <Notes strokes={strokes} onStrokes={setStrokes} />
      <div className="grid gap-2 lg:grid-cols-2">
        <Panel title={t('taste.basics')}>
          {BASICS.map((b) => (
            <div key={b} className="mb-2 border-b border-line pb-2">
              <ScoreRow
                name={t(`basic.${b}`)}
                low={t('score.none')}
                high={t('score.very')}
                value={basics[b]?.strength ?? null}
                onChange={(strength) =>
                  setBasics({ ...basics, [b]: { strength, fit: basics[b]?.fit ?? 'right' } })
                }
              />
              <Choice
                label={t('taste.fit', { basic: t(`basic.${b}`) })}
                value={basics[b]?.fit ?? null}
                options={fits.map((f) => ({ value: f, label: t(`fit.${f}`) }))}
                onChange={(fit) => setBasics({ ...basics, [b]: { strength: basics[b]?.strength ?? 5, fit } })}
              />
            </div>
          ))}
        </Panel>
        <Panel title={t('taste.texture')}>
          {TEXTURES.map((x) => (
            <ScoreRow
              key={x}
              name={t(`texture.${x}`)}
              low={t('score.none')}
              high={t('score.very')}
              value={texture[x] ?? null}
              onChange={(v) => setTexture({ ...texture, [x]: v })}
            />
          ))}
          <h3 className="mb-1 mt-3 text-[14px]">{t('taste.faults')}</h3>
          <div className="flex flex-wrap gap-2">
            {FAULTS.map((f) => (
              <button
                key={f}
                type="button"
                aria-pressed={faults.includes(f)}
                onClick={() => setFaults(faults.includes(f) ? faults.filter((x) => x !== f) : [...faults, f])}
                className={`min-h-11 rounded border px-3 font-semibold ${faults.includes(f) ? 'border-bad bg-bad-tint text-bad' : 'border-edge bg-panel'}`}
              >
                {t(`fault.${f}`)}
              </button>
            ))}
          </div>
        </Panel>
      </div>
      <Panel title={t('liking')}>
        <ScoreRow
          name={t('liking')}
          low={t('score.not')}
          high={t('score.love')}
          value={liking}
          onChange={setLiking}
        />
        <div className="mb-3">
          <Choice
            label={t('taste.sell')}
            value={sell}
            options={[
              { value: 'yes', label: t('taste.sell.yes') },
              { value: 'no', label: t('taste.sell.no') },
            ]}
            onChange={setSell}
          />
        </div>
        <TextArea
          label={t('taste.words')}
          value={free}
          onChange={(e) => setFree(e.target.value)}
          maxLength={2000}
        />
        <Button
          look="main"
          big
          className="mt-3"
          disabled={liking === null}
          onClick={() =>
            void save({
              form: 'full',
              look: { swatch: null, gloss, faults: [] },
              snap: { sound, edge: null },
              smell,
              strip: strokes,
              basics,
              texture,
              faults,
              liking: liking!,
              wouldSell: sell === null ? null : sell === 'yes',
              words: free,
            }).then(onSaved, () => undefined)
          }
        >
          {t('taste.save')}
        </Button>
      </Panel>
    </div>
  );
}
