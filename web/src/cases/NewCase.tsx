import { useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import type { BatchView, FaultView, FindHit } from '@wunsch/contract';
import { SIGNS, type Clue, type Sign } from '@wunsch/core/faults';
import { useRead } from '../shell/door.tsx';
import { newId } from '../shell/entry.ts';
import { useMayTaste } from '../shell/session.tsx';
import { useEntryHere } from '../shell/useEntryHere.ts';
import { useKept } from '../shell/useKept.ts';
import { Button } from '../ui/Button.tsx';
import { Choice, TextArea, TextField } from '../ui/Field.tsx';
import { Panel } from '../ui/Panel.tsx';
import { useWords } from '../words/words.tsx';
import { Causes, Findings } from './Causes.tsx';
import { SignChoice } from './SignChoice.tsx';

/** What is asked for of causes: signs and answers, in an address. */
export function faultPath(
  batchId: string | null,
  signs: readonly Sign[],
  clues: Readonly<Partial<Record<Clue, boolean>>>,
  code = '',
): string {
  const said = (isThere: boolean) =>
    Object.entries(clues)
      .filter(([, v]) => v === isThere)
      .map(([k]) => k)
      .join(',');
  const query = new URLSearchParams({ signs: signs.join(','), yes: said(true), no: said(false), code });
  return `/api/${batchId ? `batches/${batchId}/` : ''}faults?${query}`;
}

interface Draft {
  signs: Sign[];
  clues: Partial<Record<Clue, boolean>>;
  code: string;
  from: 'maker' | 'customer';
  text: string;
  kept: string;
  name: string;
  contact: string;
}

const EMPTY: Draft = {
  signs: [],
  clues: {},
  code: '',
  from: 'maker',
  text: '',
  kept: '',
  name: '',
  contact: '',
};

/** A bar that is not as it should be: what is seen, what the record knows, what it may come from; and keeping it as a case. */
export default function NewCase() {
  const words = useWords();
  const { t } = words;
  const [search] = useSearchParams();
  const navigate = useNavigate();
  const send = useEntryHere();
  const mayTaste = useMayTaste();
  const givenId = search.get('batch');
  const [kept, setKept, forget] = useKept<Draft>(`case ${givenId ?? ''}`);
  // What a tasting card found is said already.
  const given = (search.get('signs') ?? '').split(',').filter((s): s is Sign => SIGNS.includes(s as Sign));
  const draft = kept ?? { ...EMPTY, signs: given };
  const change = (more: Partial<Draft>) => setKept({ ...draft, ...more });
  const sought = draft.code.trim();
  const { data: finds } = useRead<FindHit[]>(
    !givenId && sought.length > 1 ? `/api/find?q=${encodeURIComponent(sought)}` : null,
    { keepPreviousData: true },
  );
  const hit = finds?.find(
    (f) => ['bars', 'batch'].includes(f.kind) && f.title.toLowerCase() === sought.toLowerCase(),
  );
  const foundId = hit ? hit.path.slice('/batch/'.length) : null;
  const batchId = givenId ?? (sought.length > 1 ? foundId : null);
  const { data: batch } = useRead<BatchView>(batchId ? `/api/batches/${batchId}` : null);
  const { data: view } = useRead<FaultView>(faultPath(batchId, draft.signs, draft.clues, sought), {
    keepPreviousData: true,
  });
  const [id] = useState(newId);
  const keep = () =>
    send({
      path: `/api/cases/${id}`,
      body: { ...draft, batchId, code: sought || (batch?.batch.code ?? '') },
      label: t('done.case'),
      batchId,
      undo: true,
    }).then(
      () => {
        forget();
        void navigate(`/case/${id}`);
      },
      () => undefined,
    );
  return (
    <div className="p-3 sm:px-4">
      <h1 className="mb-3 text-[26px]">
        {batch ? t('fault.of', { code: batch.batch.code }) : t('fault.title')}
      </h1>
      <div className="grid grid-cols-1 items-start gap-2 lg:grid-cols-[1fr_1.1fr]">
        <div className="contents lg:grid lg:gap-2">
          {!givenId && (
            <Panel>
              <TextField
                label={t('case.code')}
                value={draft.code}
                onChange={(e) => change({ code: e.target.value })}
                maxLength={60}
                hint={
                  sought.length < 2
                    ? t('case.code.hint')
                    : batch
                      ? t('case.code.found', { code: batch.batch.code })
                      : finds && !foundId
                        ? t('case.code.unknown')
                        : ''
                }
              />
            </Panel>
          )}
          <Panel title={t('fault.signs')} aside={t('fault.signs.pick')}>
            <SignChoice
              label={t('fault.signs')}
              chosen={draft.signs}
              onChoose={(signs) => change({ signs })}
            />
          </Panel>
          {view && (
            <div className="order-1 lg:order-none">
              <Findings
                view={view}
                answers={draft.clues}
                hasBatch={batchId !== null}
                onForget={(clue) => {
                  const { [clue]: _, ...clues } = draft.clues;
                  change({ clues });
                }}
              />
            </div>
          )}
        </div>
        <div className="contents lg:grid lg:gap-2">
          {view && (
            <Causes
              view={view}
              answers={draft.clues}
              onAnswer={(clue, isThere) => change({ clues: { ...draft.clues, [clue]: isThere } })}
            />
          )}
          {mayTaste && (
            <Panel title={t('case.keep')} className="order-2 lg:order-none">
              <form
                className="grid gap-3"
                onSubmit={(e) => {
                  e.preventDefault();
                  void keep();
                }}
              >
                <Choice
                  label={t('case.who')}
                  value={draft.from}
                  onChange={(from) => change({ from })}
                  options={[
                    { value: 'maker', label: t('cases.from.maker') },
                    { value: 'customer', label: t('cases.from.customer') },
                  ]}
                />
                <TextArea
                  label={t('case.text')}
                  value={draft.text}
                  onChange={(e) => change({ text: e.target.value })}
                  maxLength={4000}
                />
                {draft.from === 'customer' && (
                  <div className="grid gap-3 sm:grid-cols-2">
                    <TextField
                      label={t('case.name')}
                      value={draft.name}
                      onChange={(e) => change({ name: e.target.value })}
                      maxLength={120}
                    />
                    <TextField
                      label={t('case.contact')}
                      value={draft.contact}
                      onChange={(e) => change({ contact: e.target.value })}
                      maxLength={200}
                    />
                    <TextField
                      className="sm:col-span-2"
                      label={t('case.kept')}
                      value={draft.kept}
                      onChange={(e) => change({ kept: e.target.value })}
                      maxLength={600}
                    />
                  </div>
                )}
                <Button
                  type="submit"
                  look="main"
                  big
                  disabled={draft.signs.length === 0 && draft.text.trim() === ''}
                >
                  {t('case.keep')}
                </Button>
              </form>
            </Panel>
          )}
        </div>
      </div>
    </div>
  );
}
