import { Pencil } from 'lucide-react';
import { useState } from 'react';
import type { BatchView, MovementRecord, StepRecord } from '@wunsch/contract';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { Doubt } from '../ui/Doubt.tsx';
import { TextField } from '../ui/Field.tsx';
import { HandsField } from '../ui/HandsField.tsx';
import { QuantityField } from '../ui/QuantityField.tsx';
import { STAGE } from '../shell/glyphs.tsx';
import { useDoor } from '../shell/door.tsx';
import { handsThroughout } from './handsOn.ts';
import { useMayMake } from '../shell/session.tsx';
import { useWords, type Words } from '../words/words.tsx';
import { useDoubt } from './useDoubt.ts';
import { StepHands } from './StepHands.tsx';
import { StepTimes } from './StepTimes.tsx';
import { VoidStep } from './VoidStep.tsx';
import { balanceOf, linesOf, usualRemainder, useWork, type Lined } from './work.ts';

/** What a line of the ledger is called on screen. */
export function lineName(m: MovementRecord, words: Words): string {
  if (m.direction === 'loss') return words.word('loss', m.reason ?? '');
  if (m.ingredientId) return words.word('ingredient', m.label ?? '');
  const material = words.word('material', m.material ?? '');
  return m.count ? `${material}, ${words.number(m.count)}` : material;
}

/** What went in against what came out, to scale; the part that is open is hatched. */
export function BalanceBar({ view, step }: { view: BatchView; step: StepRecord }) {
  const words = useWords();
  const { t, mass } = words;
  const lines = linesOf(view, step.id);
  const { inMg, outMg, lossMg, differenceMg } = balanceOf(view, step.id);
  const whole = Math.max(inMg, outMg + lossMg, 1);
  const stage = STAGE[step.station];
  const bar = (parts: readonly { key: string; massMg: number; look: 'full' | 'half' | 'open' | 'bad' }[]) => (
    <div className="flex h-7 w-full gap-px">
      {parts
        .filter((p) => p.massMg > 0)
        .map((p) => (
          <div
            key={p.key}
            style={{
              width: `${(100 * p.massMg) / whole}%`,
              minWidth: 2,
              background:
                p.look === 'full'
                  ? stage.fill
                  : p.look === 'half'
                    ? `color-mix(in srgb, ${stage.fill} 45%, var(--panel))`
                    : p.look === 'bad'
                      ? 'repeating-linear-gradient(45deg,var(--bad) 0 3px,transparent 3px 7px)'
                      : 'repeating-linear-gradient(45deg,var(--line-2) 0 2px,transparent 2px 7px)',
              border: `1px solid ${p.look === 'bad' ? 'var(--bad)' : p.look === 'open' ? 'var(--line-2)' : stage.edge}`,
            }}
          />
        ))}
    </div>
  );
  return (
    <div
      role="img"
      aria-label={t('balance.text', {
        in: mass(inMg),
        out: mass(outMg),
        loss: mass(lossMg),
        rest: mass(Math.abs(differenceMg)),
      })}
    >
      <div
        className="grid grid-cols-[40px_1fr] items-center gap-y-1 text-[12px] text-ink-3"
        aria-hidden="true"
      >
        <span>{t('in')}</span>
        {bar(
          lines
            .filter((m) => m.direction === 'in')
            .map((m) => ({ key: m.id, massMg: m.massMg, look: 'full' as const })),
        )}
        <span>{t('out')}</span>
        {bar([
          ...lines
            .filter((m) => m.direction === 'out')
            .map((m) => ({ key: m.id, massMg: m.massMg, look: 'full' as const })),
          ...lines
            .filter((m) => m.direction === 'loss')
            .map((m) => ({ key: m.id, massMg: m.massMg, look: 'half' as const })),
          { key: 'rest', massMg: differenceMg, look: 'open' as const },
        ])}
      </div>
      <p
        className={`mt-1 pl-10 text-[12.5px] ${differenceMg < 0 ? 'font-semibold text-bad' : 'text-ink-2'}`}
        aria-hidden="true"
      >
        {lines.length === 0
          ? null
          : differenceMg === 0
            ? t('balance.even')
            : differenceMg > 0
              ? t('balance.open', { mass: mass(differenceMg) })
              : t('balance.over', { mass: mass(-differenceMg) })}
      </p>
    </div>
  );
}

/** The lines of a step: each can be corrected, and what it was before can be read. */
export function StepLines({ view, step }: { view: Lined; step: StepRecord }) {
  const words = useWords();
  const { t } = words;
  const mayMake = useMayMake();
  const [correcting, setCorrecting] = useState<MovementRecord | null>(null);
  const lines = linesOf(view, step.id);
  if (lines.length === 0)
    return (
      <>
        <p className="text-[13px] text-ink-3">{t('lines.none')}</p>
        <StepHands step={step} />
        <StepTimes step={step} view={view} />
        <VoidStep step={step} />
      </>
    );
  return (
    <>
      <ul>
        {lines.map((m) => {
          const before = earlier(view, m);
          return (
            <li
              key={m.id}
              className="grid grid-cols-[44px_1fr_auto_44px] items-center gap-x-3 border-b border-line text-[13.5px]"
            >
              <span className="text-[12px] text-ink-3">
                {t(m.direction === 'loss' ? 'lost' : m.direction)}
              </span>
              <span className="min-w-0 py-2">
                {lineName(m, words)}
                <span className="block text-[12px] text-ink-3">
                  {words.when(m.at)} {m.by}
                  {m.source === 'derived' &&
                    ` · ${t(m.direction === 'loss' ? 'source.remainder' : 'source.derived')}`}
                  {m.source === 'estimated' && ` · ${t('source.estimated')}`}
                  {before && ` · ${t('was', { mass: words.mass(before.massMg), by: before.by })}`}
                  {m.note && ` · ${m.note}`}
                  {m.holdOverride &&
                    ` · ${t('hold.overridden', { why: words.word('override', m.holdOverride) })}`}
                </span>
              </span>
              <span className="num text-right text-[15px]">{words.mass(m.massMg)}</span>
              {mayMake && (
                <button
                  type="button"
                  className="grid size-11 place-items-center rounded text-ink-3 hover:bg-violet-tint"
                  aria-label={t('correct.this', { what: lineName(m, words) })}
                  onClick={() => setCorrecting(m)}
                >
                  <Pencil size={15} aria-hidden="true" />
                </button>
              )}
            </li>
          );
        })}
      </ul>
      <StepHands step={step} />
      <StepTimes step={step} view={view} />
      <VoidStep step={step} />
      {correcting && <CorrectDialog view={view} movement={correcting} onClose={() => setCorrecting(null)} />}
    </>
  );
}

/** The weighing a person's correction replaced, past the server's own follow-ups. */
function earlier(view: Lined, m: MovementRecord): MovementRecord | null {
  const old = m.replaces ? view.movements.find((o) => o.id === m.replaces) : undefined;
  return old && old.massMg !== m.massMg ? old : null;
}

/** Corrects a weight. The old value, who changed it and why stay readable. */
export function CorrectDialog({
  view,
  movement,
  suggestedMg,
  onClose,
}: {
  view: Lined;
  movement: MovementRecord;
  suggestedMg?: number;
  onClose: () => void;
}) {
  const words = useWords();
  const { t } = words;
  const work = useWork(view);
  const [massMg, setMass] = useState<number | null>(suggestedMg ?? movement.massMg);
  const [reason, setReason] = useState('');
  const [error, setError] = useState<string | null>(null);
  const history: MovementRecord[] = [];
  for (
    let m = view.movements.find((o) => o.id === movement.replaces);
    m;
    m = view.movements.find((o) => o.id === m!.replaces)
  )
    history.push(m);
  return (
    <Dialog
      open
      onClose={onClose}
      title={t('correct.title', { what: lineName(movement, words) })}
      description={t('correct.hint')}
    >
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          if (massMg === null) return;
          const count = movement.count
            ? Math.max(1, Math.round((movement.count * massMg) / movement.massMg))
            : null;
          work
            .correct(movement, massMg, reason, count)
            .then(onClose, (failure: unknown) => setError(words.explain(failure)));
        }}
      >
        <QuantityField
          label={t('correct.right')}
          dimension="mass"
          value={massMg}
          onChange={setMass}
          min={1}
          max={100_000_000_000}
          autoFocus
          error={error}
          hint={t('correct.was', { mass: words.mass(movement.massMg) })}
        />
        <TextField
          label={t('correct.why')}
          value={reason}
          onChange={(e) => setReason(e.target.value)}
          maxLength={400}
        />
        {history.length > 0 && (
          <div className="text-[12.5px] text-ink-3">
            {history.map((m) => (
              <p
                key={m.id}
              >{`${words.when(m.at)}  ${words.mass(m.massMg)}  ${m.by}  ${words.word('correction', m.correctionReason)}`}</p>
            ))}
          </div>
        )}
        <Button type="submit" look="main" big disabled={massMg === null || massMg === movement.massMg}>
          {t('correct')}
        </Button>
      </form>
    </Dialog>
  );
}

/** Closes a step: says what the remainder is called, and how long hands were on it. */
export function CloseStep({
  view,
  step,
  label,
  onClosed,
}: {
  view: BatchView;
  step: StepRecord;
  label: string;
  onClosed?: () => void;
}) {
  const { now } = useDoor();
  const words = useWords();
  const { t } = words;
  const work = useWork(view);
  const mayMake = useMayMake();
  const { differenceMg, inMg, outMg } = balanceOf(view, step.id);
  const [open, setOpen] = useState(false);
  /** Seconds hands were on it. */
  const [hands, setHands] = useState<number | null>(null);
  const [name, setName] = useState<string | null>(null);
  const [error, setError] = useState<string | null>(null);
  const usual = usualRemainder(step.station, differenceMg);
  const doubted = useDoubt(step.station)(inMg, inMg - Math.max(0, differenceMg));
  const remainder = differenceMg < 0 ? 'unexplained' : (name ?? usual);
  if (!mayMake) return null;
  return (
    <>
      <Button
        look="main"
        big
        onClick={() => {
          // As of now: the page may have been open for as long as the work went on.
          setHands(handsThroughout(step.startedAt, now()) * 60);
          setOpen(true);
        }}
        disabled={inMg === 0 && outMg === 0}
      >
        {label}
      </Button>
      {open && (
        <Dialog open onClose={() => setOpen(false)} title={label}>
          <form
            className="grid gap-3"
            onSubmit={(e) => {
              e.preventDefault();
              work.close(step, remainder, hands === null ? null : hands / 60).then(
                () => {
                  setOpen(false);
                  onClosed?.();
                },
                (failure: unknown) => setError(words.explain(failure)),
              );
            }}
          >
            <BalanceBar view={view} step={step} />
            {differenceMg > 0 && (
              <TextField
                label={t('close.name', {
                  mass: words.mass(differenceMg),
                  share: words.percent(differenceMg / inMg),
                })}
                value={name === null ? words.word('loss', usual ?? '') : name}
                onChange={(e) => setName(e.target.value)}
                maxLength={60}
                hint={t('close.name.hint')}
              />
            )}
            <Doubt>{doubted}</Doubt>
            {differenceMg < 0 && (
              <p className="rounded bg-bad-tint p-3 text-bad">
                {t('close.over', { mass: words.mass(-differenceMg) })}
              </p>
            )}
            <HandsField value={hands} onChange={setHands} />
            {error && (
              <p role="alert" className="text-bad">
                {error}
              </p>
            )}
            <Button type="submit" look="main" big>
              {label}
            </Button>
          </form>
        </Dialog>
      )}
    </>
  );
}
