import { useRef, useState } from 'react';
import { Link } from 'react-router';
import type { Glass, TastingSession } from '@wunsch/contract';
import { Button } from '../../../ui/Button.tsx';
import { Panel } from '../../../ui/Panel.tsx';
import { useWords } from '../../../words/words.tsx';
import type { SaidCard } from './Glasses.tsx';
import { sessionPath } from './useSessions.ts';

const MARKS = ['sour', 'grit', 'liking'] as const;
type Row = Record<(typeof MARKS)[number], string>;

/** A mark as it was typed: 0 to 10, with a comma or a point; null for anything else. */
function markOf(text: string): number | null {
  const value = Number(text.trim().replace(',', '.'));
  return text.trim() !== '' && value >= 0 && value <= 10 ? value : null;
}

/** Quick cards typed in from paper: a line a glass, digits and Tab alone. */
export function PaperCards({
  session,
  seatId,
  glasses,
  save,
}: {
  session: TastingSession;
  seatId: string;
  glasses: readonly Glass[];
  save: (glass: Glass, card: SaidCard) => Promise<unknown>;
}) {
  const { t } = useWords();
  const [typed, setTyped] = useState<Record<string, Row>>({});
  const [busy, setBusy] = useState(false);
  const form = useRef<HTMLFormElement>(null);
  const open = glasses.filter((g) => !g.done);
  const rowOf = (g: Glass): Row => typed[g.code] ?? { sour: '', grit: '', liking: '' };
  const wrong = (g: Glass) => {
    const texts = MARKS.map((m) => rowOf(g)[m]);
    return texts.some((x) => x !== '') && texts.some((x) => markOf(x) === null);
  };
  const ready = open.filter((g) => MARKS.every((m) => markOf(rowOf(g)[m]) !== null));
  const following = session.seats
    .slice(session.seats.findIndex((s) => s.id === seatId) + 1)
    .find((s) => s.done < s.of && s.id !== session.mySeatId);
  const keep = async () => {
    setBusy(true);
    for (const g of ready) {
      const row = rowOf(g);
      const card: SaidCard = {
        form: 'quick',
        sour: markOf(row.sour)!,
        grit: markOf(row.grit)!,
        liking: markOf(row.liking)!,
        words: '',
      };
      // One refused stays on the sheet; the others go on.
      await save(g, card).then(
        () => setTyped(({ [g.code]: _, ...rest }) => rest),
        () => undefined,
      );
    }
    setBusy(false);
  };
  return (
    <Panel aside={t('panel.paper.hint')}>
      <form
        ref={form}
        onSubmit={(e) => {
          e.preventDefault();
          if (ready.length > 0 && !open.some(wrong)) void keep();
        }}
      >
        <table className="w-full max-w-xl text-left">
          <thead>
            <tr className="text-[12.5px] text-ink-3">
              <th scope="col" className="py-1 font-medium">
                {t('panel.key.round')}
              </th>
              <th scope="col" className="font-medium">
                {t('panel.key.code')}
              </th>
              {MARKS.map((m) => (
                <th key={m} scope="col" className="font-medium">
                  {t(`mark.${m}`)}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {glasses.map((g) => (
              <tr key={`${g.round}.${g.place}`} className="border-t border-line">
                <td className="num py-1">{g.round}</td>
                <th scope="row" className="num text-[17px]">
                  {g.code}
                </th>
                {g.done ? (
                  <td colSpan={3} className="text-ok">
                    ✓
                  </td>
                ) : (
                  MARKS.map((m) => {
                    const text = rowOf(g)[m];
                    const bad = text !== '' && markOf(text) === null;
                    return (
                      <td key={m} className="py-1 pr-2">
                        <input
                          aria-label={`${g.code} ${t(`mark.${m}`)}`}
                          aria-invalid={bad || undefined}
                          inputMode="decimal"
                          value={text}
                          maxLength={4}
                          onChange={(e) =>
                            setTyped({ ...typed, [g.code]: { ...rowOf(g), [m]: e.target.value } })
                          }
                          className="min-h-11 w-16 rounded border border-edge bg-panel px-2 text-[16px] aria-invalid:border-bad"
                        />
                      </td>
                    );
                  })
                )}
              </tr>
            ))}
          </tbody>
        </table>
        {open.some(wrong) && (
          <p role="alert" className="mt-2 text-[13px] text-bad">
            {t('panel.paper.wrong')}
          </p>
        )}
        <div className="mt-3 flex flex-wrap items-center gap-3">
          <Button type="submit" look="main" big disabled={busy || ready.length === 0 || open.some(wrong)}>
            {t('panel.paper.keep', { n: ready.length })}
          </Button>
          {open.length === 0 && following && (
            <Link
              to={sessionPath(session.id, `/paper/${following.id}`)}
              className="inline-flex min-h-11 items-center font-semibold underline underline-offset-4"
            >
              {t('panel.paper.next', { name: following.name || t('panel.seat.free') })}
            </Link>
          )}
        </div>
      </form>
    </Panel>
  );
}
