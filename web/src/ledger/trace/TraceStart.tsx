import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { IngredientRecord, Lot, Machine } from '@wunsch/contract';
import { useRead } from '../../shell/door.tsx';
import { Button } from '../../ui/Button.tsx';
import { SelectField, TextField } from '../../ui/Field.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { inOrder } from '../../words/inOrder.ts';
import { useWords } from '../../words/words.tsx';

/** Where a trace is. */
export const tracePath = (of: string, id: string, way: 'forward' | 'back' = 'forward', more = ''): string =>
  `/ledger?sheet=trace&of=${of}&id=${encodeURIComponent(id)}&way=${way}${more}`;

/** Where a trace begins: a code off a label, or something chosen. */
export function TraceStart({ missing }: { missing: string | null }) {
  const words = useWords();
  const { t } = words;
  const navigate = useNavigate();
  const { data: lots } = useRead<Lot[]>('/api/lots');
  const { data: ingredients } = useRead<IngredientRecord[]>('/api/ingredients');
  const { data: machines } = useRead<Machine[]>('/api/machines');
  const [code, setCode] = useState('');
  const [from, setFrom] = useState('');
  const [to, setTo] = useState('');
  // Days of the place where one looks.
  const instant = (day: string, time: string) => new Date(`${day}T${time}`).toISOString();
  const days =
    (from ? `&from=${instant(from, '00:00:00')}` : '') + (to ? `&to=${instant(to, '23:59:59')}` : '');
  const go = (of: string, id: string, more = '') => id && void navigate(tracePath(of, id, 'forward', more));
  return (
    <Panel title={t('trace.start')}>
      <p className="mb-3 text-[13.5px] text-ink-2">{t('trace.start.text')}</p>
      <form
        className="mb-4 flex max-w-xl flex-wrap items-end gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          go('code', code.trim());
        }}
      >
        <TextField
          className="min-w-0 flex-1"
          label={t('trace.code')}
          value={code}
          onChange={(e) => setCode(e.target.value)}
          maxLength={80}
          hint={t('trace.code.hint')}
          error={missing}
        />
        <Button type="submit" look="main" className="mb-6" disabled={code.trim() === ''}>
          {t('trace.follow')}
        </Button>
      </form>
      <div className="grid max-w-3xl gap-3 sm:grid-cols-3">
        <SelectField label={t('lot')} value="" onChange={(e) => go('lot', e.target.value)}>
          <option value="">{t('trace.choose')}</option>
          {(lots ?? []).map((l) => (
            <option key={l.id} value={l.id}>
              {l.code} · {l.name}
            </option>
          ))}
        </SelectField>
        <SelectField
          label={t('trace.ingredient')}
          value=""
          onChange={(e) => go('ingredient', e.target.value)}
        >
          <option value="">{t('trace.choose')}</option>
          {inOrder(words, 'ingredient', ingredients ?? []).map((i) => (
            <option key={i.id} value={i.id}>
              {words.word('ingredient', i.name)}
            </option>
          ))}
        </SelectField>
        <SelectField
          label={t('trace.machine')}
          value=""
          onChange={(e) => go('machine', e.target.value, days)}
        >
          <option value="">{t('trace.choose')}</option>
          {(machines ?? []).map((m) => (
            <option key={m.id} value={m.id}>
              {m.name}
            </option>
          ))}
        </SelectField>
        <TextField
          label={t('trace.from')}
          type="date"
          value={from}
          onChange={(e) => setFrom(e.target.value)}
          hint={t('trace.days.hint')}
        />
        <TextField label={t('trace.to')} type="date" value={to} onChange={(e) => setTo(e.target.value)} />
      </div>
    </Panel>
  );
}
