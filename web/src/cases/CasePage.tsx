import { useEffect, useState } from 'react';
import { Link, useParams } from 'react-router';
import type { CaseView } from '@wunsch/contract';
import type { Clue } from '@wunsch/core/faults';
import { isMissing } from '../shell/api.ts';
import { useDoor, useRead } from '../shell/door.tsx';
import { newId } from '../shell/entry.ts';
import { NotFound } from '../shell/NotFound.tsx';
import { useMayMake, useSession } from '../shell/session.tsx';
import { useEntryHere } from '../shell/useEntryHere.ts';
import { useKept } from '../shell/useKept.ts';
import { Button } from '../ui/Button.tsx';
import { copyText } from '../ui/copyText.ts';
import { TextArea } from '../ui/Field.tsx';
import { Chip, Panel } from '../ui/Panel.tsx';
import { useWords } from '../words/words.tsx';
import { causeName, Causes, Findings } from './Causes.tsx';
import { CloseDialog } from './CloseDialog.tsx';
import { draftReply } from './reply.ts';
import { SignChoice } from './SignChoice.tsx';
import { SignPicture } from './SignPicture.tsx';
import { useCaseFacts } from './useCaseFacts.ts';

/** The other bars of a case's batch: how many are here and with whom, and setting aside what is here. */
function Sisters({ view }: { view: CaseView }) {
  const words = useWords();
  const { t } = words;
  const send = useEntryHere();
  const mayMake = useMayMake();
  const { sisters, batchId } = view;
  if (!sisters || !batchId)
    return (
      <Panel title={t('case.sisters')}>
        <p className="text-[13.5px] text-ink-3">{t('case.sisters.none')}</p>
      </Panel>
    );
  const free = sisters.here.filter((h) => h.material === 'bars' && !h.onHold);
  const hold = () =>
    void send({
      path: `/api/parcel-holds/${newId()}`,
      body: {
        parcelIds: free.map((h) => h.parcelId),
        onHold: true,
        reason: t('case.title', { n: view.number }),
      },
      label: t('case.set-aside'),
      batchId,
      undo: true,
    }).catch(() => undefined);
  return (
    <Panel title={t('case.sisters')}>
      <p className="text-[14px]">
        {t('case.sisters.sum', {
          made: sisters.bars.made,
          here: words.number(sisters.bars.here),
          delivered: words.number(sisters.bars.delivered + sisters.bars.sold),
        })}
      </p>
      <ul className="mt-1 text-[13.5px]">
        {byPlace(sisters.here).map((h) => (
          <li
            key={`${h.place} ${h.onHold}`}
            className="flex flex-wrap items-center gap-2 border-b border-line py-1"
          >
            {t('case.sisters.here', { n: words.number(h.count), place: h.place })}
            {h.onHold && <Chip tone="bad">{t('on-hold')}</Chip>}
          </li>
        ))}
        {sisters.customers.map((c) => (
          <li key={c.customerId} className="border-b border-line py-1">
            {words.number(c.count)} {c.name}
          </li>
        ))}
        {sisters.nameless.map((n) => (
          <li key={n.destination} className="border-b border-line py-1">
            {words.number(n.count)} {t('recall.nameless', { to: words.word('to', n.destination) })}
          </li>
        ))}
      </ul>
      <div className="mt-3 flex flex-wrap gap-2">
        {mayMake && free.length > 0 && <Button onClick={hold}>{t('case.set-aside')}</Button>}
        <Link
          to={`/ledger?sheet=trace&of=batch&id=${batchId}`}
          className="inline-flex min-h-11 items-center rounded border border-edge bg-panel px-4 text-[13.5px] font-semibold hover:bg-panel-2"
        >
          {t('case.sisters.trace')}
        </Link>
      </div>
    </Panel>
  );
}

/** Bars that are here, of all pourings together: by place, and whether they are set aside. */
function byPlace(here: NonNullable<CaseView['sisters']>['here']) {
  const at = new Map<string, { place: string; onHold: boolean; count: number }>();
  for (const h of here.filter((of) => of.material === 'bars')) {
    const place = h.place || h.label;
    const key = `${place} ${h.onHold}`;
    at.set(key, { place, onHold: h.onHold, count: (at.get(key)?.count ?? 0) + (h.count ?? 0) });
  }
  return [...at.values()];
}

/** A reply that can be changed, kept, copied and printed. */
function Reply({ view, onSave }: { view: CaseView; onSave: (reply: string) => void }) {
  const words = useWords();
  const { t } = words;
  const { workshop } = useSession();
  const mayMake = useMayMake();
  const [typed, setTyped, forget] = useKept<string>(`reply ${view.id}`);
  const [copied, setCopied] = useState(false);
  const [isAnew, setAnew] = useState(false);
  // What was typed is kept until it stands in the case.
  const isSaved = view.reply !== '' && typed === view.reply;
  useEffect(() => {
    if (isSaved) forget();
  });
  const text = typed ?? ((!isAnew && view.reply) || draftReply(view, workshop.name, words));
  const copy = () => void copyText(text).then(setCopied);
  return (
    <Panel title={t('case.reply')} className="print-alone">
      <TextArea
        label={t('case.reply')}
        rows={11}
        value={text}
        onChange={(e) => {
          setTyped(e.target.value);
          setCopied(false);
        }}
        maxLength={6000}
      />
      <div className="mt-2 flex flex-wrap gap-2 print:hidden">
        <Button onClick={copy}>{t(copied ? 'case.reply.copied' : 'case.reply.copy')}</Button>
        <Button onClick={() => window.print()}>{t('case.reply.print')}</Button>
        {mayMake && (
          <>
            <Button onClick={() => onSave(text)}>{t('case.save')}</Button>
            <Button
              look="quiet"
              onClick={() => {
                setAnew(true);
                forget();
              }}
            >
              {t('case.reply.draft')}
            </Button>
          </>
        )}
      </div>
    </Panel>
  );
}

/** A case: what was told, what it comes from, its sister bars, a reply, and its closing. */
export default function CasePage() {
  const { t } = useWords();
  const { caseId } = useParams();
  const { data: view, error } = useRead<CaseView>(caseId ? `/api/cases/${caseId}` : null);
  if (isMissing(error)) return <NotFound />;
  if (!view) return <p className="p-6 text-ink-3">{t('loading')}</p>;
  return <CaseOf key={view.id} view={view} />;
}

function CaseOf({ view }: { view: CaseView }) {
  const words = useWords();
  const { t } = words;
  const { address } = useDoor();
  const mayMake = useMayMake();
  const [closing, setClosing] = useState(false);
  const { facts, change } = useCaseFacts(view);
  const { signs, clues, batchId } = facts;
  const isOpen = view.closing === null;
  const mayChange = mayMake && isOpen;
  return (
    <div className="p-3 sm:px-4">
      <header className="mb-3 flex flex-wrap items-center gap-x-4 gap-y-2">
        <h1 className="text-[26px]">{t('case.title', { n: view.number })}</h1>
        <p className="grow text-[13px] text-ink-3">
          {[
            view.batchId ? undefined : view.code,
            view.recipeName,
            t(`cases.from.${view.from}`),
            words.when(view.at),
            view.name,
            view.contact,
          ]
            .filter(Boolean)
            .join(', ')}
          {view.batchId && (
            <>
              {' · '}
              <Link to={`/batch/${view.batchId}`} className="underline underline-offset-4">
                {view.code || view.batchCode}
              </Link>
            </>
          )}
        </p>
        {view.closing ? (
          <Chip tone="ok">
            {t('case.closed.by', { when: words.when(view.closing.at), by: view.closing.by })}
          </Chip>
        ) : (
          mayMake && (
            <Button look="main" onClick={() => setClosing(true)}>
              {t('case.close')}
            </Button>
          )
        )}
      </header>
      {view.closing && (
        <Panel className="mb-2">
          <h2 className="text-[17px]">{causeName(view.closing.cause, t)}</h2>
          {view.closing.action && <p className="text-[14px]">{view.closing.action}</p>}
        </Panel>
      )}
      <div className="grid grid-cols-1 items-start gap-2 lg:grid-cols-[1fr_1.1fr]">
        <div className="contents lg:grid lg:gap-2">
          {(view.text || view.kept || view.photographs.length > 0) && (
            <Panel title={t('case.text')}>
              {view.text && <p className="whitespace-pre-line text-[15px]">{view.text}</p>}
              {view.kept && (
                <p className="mt-1 text-[13.5px] text-ink-2">
                  {t('case.kept')}: {view.kept}
                </p>
              )}
              {view.photographs.length > 0 && (
                <ul className="mt-2 flex flex-wrap gap-2" aria-label={t('case.photos')}>
                  {view.photographs.map((p) => (
                    <li key={p.id}>
                      <a href={address(`/api/attachments/${p.id}/file`)} target="_blank" rel="noreferrer">
                        <img
                          src={address(`/api/attachments/${p.id}/file`)}
                          alt={p.name}
                          loading="lazy"
                          className="h-32 rounded border border-line object-cover"
                        />
                      </a>
                    </li>
                  ))}
                </ul>
              )}
            </Panel>
          )}
          <Panel title={t('fault.signs')} aside={mayChange ? t('fault.signs.pick') : undefined}>
            {mayChange ? (
              <SignChoice
                label={t('fault.signs')}
                chosen={signs}
                onChoose={(next) => change({ signs: next })}
              />
            ) : (
              <ul className="flex flex-wrap gap-3">
                {signs.map((s) => (
                  <li key={s} className="grid justify-items-center text-[13px]">
                    <SignPicture sign={s} />
                    {t(`sign.${s}`)}
                  </li>
                ))}
              </ul>
            )}
          </Panel>
          <div className="order-1 lg:order-none">
            <Findings
              view={view.faults}
              answers={clues}
              hasBatch={batchId !== null}
              onForget={
                mayChange
                  ? (clue) => {
                      const { [clue]: _, ...rest } = clues;
                      change({ clues: rest });
                    }
                  : undefined
              }
            />
          </div>
          <div className="order-3 lg:order-none">
            <Sisters view={view} />
          </div>
        </div>
        <div className="contents lg:grid lg:gap-2">
          <Causes
            view={view.faults}
            answers={clues}
            onAnswer={
              mayChange
                ? (clue: Clue, isThere) => change({ clues: { ...clues, [clue]: isThere } })
                : undefined
            }
          />
          <div className="order-2 lg:order-none">
            <Reply key={`${view.id} ${view.reply}`} view={view} onSave={(next) => change({ reply: next })} />
          </div>
        </div>
      </div>
      {closing && <CloseDialog view={view} clues={clues} onClose={() => setClosing(false)} />}
    </div>
  );
}
