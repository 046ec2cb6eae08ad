import { useState } from 'react';
import { STRIP_SECONDS, type Stroke } from '@wunsch/core/taste';
import { Button } from '../../ui/Button.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { RemoveButton } from '../../ui/RemoveButton.tsx';
import { useWords } from '../../words/words.tsx';
import { TastingStrip } from './TastingStrip.tsx';
import { useNoteFamilies } from './useNoteList.ts';

/** Notes laid as strokes on the tasting strip, from the workshop’s words or one’s own. */
export function Notes({ strokes, onStrokes }: { strokes: Stroke[]; onStrokes: (strokes: Stroke[]) => void }) {
  const words = useWords();
  const { t } = words;
  const families = useNoteFamilies();
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
      <TastingStrip
        strokes={strokes}
        note={note}
        onDraw={lay}
        onMove={(i, from, to) => change(i, { from, to })}
      />
      <div className="mt-3 grid gap-2">
        {families.map(({ name: family, notes }) => (
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
              <RemoveButton
                label={t('strip.remove', { note: name })}
                onRemove={() => onStrokes(strokes.filter((_, k) => k !== i))}
              />
            </li>
          );
        })}
      </ul>
    </Panel>
  );
}
