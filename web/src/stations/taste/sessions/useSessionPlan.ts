import { useMemo, useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import type { BatchBrief, Person, TastingSession, TastingSessionPut } from '@wunsch/contract';
import { useRead } from '../../../shell/door.tsx';
import { newId } from '../../../shell/entry.ts';
import { useEntryHere } from '../../../shell/useEntryHere.ts';
import { useKept } from '../../../shell/useKept.ts';
import { useWords } from '../../../words/words.tsx';
import { sessionPath } from './useSessions.ts';

/** What another maker’s bar says of itself, while it is being written. */
interface OtherDraft {
  maker: string;
  words: string;
  price: number | null;
  bestBefore: string | null;
}

/** A sample while the session is planned. */
export interface SampleDraft {
  id: string;
  label: string;
  batchId: string | null;
  trial: { id: string; code: string } | null;
  other: OtherDraft | null;
}

/** A session while it is planned. */
export type SessionDraft = Required<Omit<TastingSessionPut, 'samples' | 'seats'>> & {
  samples: SampleDraft[];
  /** Ids of the workshop’s own tasters. */
  people: string[];
  guests: number;
};

/** A place on the table where nothing stands yet, or what is given. */
export const sampleOf = (what: Partial<SampleDraft> = {}): SampleDraft => ({
  id: newId(),
  label: '',
  batchId: null,
  trial: null,
  other: null,
  ...what,
});

/** Whether a place has been given nothing. */
const isEmpty = (s: SampleDraft) =>
  s.batchId === null && s.trial === null && s.other === null && s.label === '';

/** A plan as it may be changed: one that is there, or a new one that begins with the batch it was asked from. */
function draftOf(session: TastingSession | null, batchId: string | null): SessionDraft {
  if (session) {
    const { seats, samples, ...rest } = session;
    return {
      ...rest,
      samples: samples.map((s) => sampleOf(s as Partial<SampleDraft>)),
      people: seats.flatMap((s) => s.personId ?? []),
      guests: seats.filter((s) => s.personId === null).length,
    };
  }
  return {
    title: '',
    question: 'keep',
    test: 'triangle',
    margin: 1,
    referenceId: null,
    card: 'quick',
    rounds: 2,
    flight: 5,
    restMinutes: 12,
    place: '',
    plannedFor: null,
    samples: [sampleOf({ batchId }), sampleOf()],
    people: [],
    guests: 0,
  };
}

/** What a plan may still lack, in words. */
type Missing = `panel.missing.${'samples' | 'two' | 'few' | 'seats'}`;

/** The plan of a session in the making: its draft, what it still needs, and keeping it. */
export function useSessionPlan(session: TastingSession | null) {
  const { t } = useWords();
  const navigate = useNavigate();
  const send = useEntryHere();
  const [search] = useSearchParams();
  const { data: begun = [] } = useRead<BatchBrief[]>('/api/batches?limit=200');
  const batches = useMemo(() => begun.filter((b) => b.state !== 'void'), [begun]);
  const { data: everyone = [] } = useRead<Person[]>('/api/people');
  const people = everyone.filter((p) => p.active && p.role !== 'viewer');
  const [id] = useState(() => session?.id ?? newId());
  const asked = search.get('batch');
  const [first] = useState(() => draftOf(session, asked));
  // A table of six, typed with makers and prices, is still there after a dead phone.
  const [typed, setTyped, forget] = useKept<SessionDraft>(
    session ? `session ${session.id} ${session.version}` : `session ${asked ?? 'new'}`,
  );
  const draft = typed ?? first;
  const setDraft = (next: (now: SessionDraft) => SessionDraft) => setTyped((now) => next(now ?? first));
  const change = (part: Partial<SessionDraft>) => setDraft((now) => ({ ...now, ...part }));
  /** Puts samples on the table, into empty places first. */
  const serve = (more: readonly SampleDraft[]) =>
    setDraft((now) => ({ ...now, samples: [...now.samples.filter((s) => !isEmpty(s)), ...more] }));
  const codes = useMemo(() => new Map(batches.map((b) => [b.id, b.code])), [batches]);
  const nameOf = (s: SampleDraft) =>
    s.label.trim() || s.other?.maker.trim() || (s.batchId ? (codes.get(s.batchId) ?? '') : '');
  const tasters = draft.people.length + draft.guests;
  const missing: Missing | null = draft.samples.some((s) => nameOf(s) === '')
    ? 'panel.missing.samples'
    : draft.question === 'different' && draft.samples.length !== 2
      ? 'panel.missing.two'
      : draft.samples.length < 2
        ? 'panel.missing.few'
        : tasters === 0
          ? 'panel.missing.seats'
          : null;
  const save = () => {
    const { samples } = draft;
    const title = draft.title.trim() || t(`panel.question.${draft.question}`);
    void send({
      path: `/api/tasting-sessions/${id}`,
      body: {
        title,
        question: draft.question,
        test: draft.test,
        margin: draft.margin,
        referenceId: samples.some((s) => s.id === draft.referenceId) ? draft.referenceId : null,
        card: draft.card,
        rounds: draft.rounds,
        flight: draft.flight,
        restMinutes: draft.restMinutes,
        place: draft.place,
        plannedFor: draft.plannedFor,
        samples: samples.map((s) => ({ ...s, label: nameOf(s) })),
        seats: seatsOf(draft, session?.seats ?? [], people),
      } satisfies TastingSessionPut,
      ...(session && { ifMatch: session.version }),
      label: t('done.panel.plan', { title }),
    }).then(
      () => {
        forget();
        return navigate(sessionPath(id));
      },
      () => undefined,
    );
  };
  return { draft, change, serve, nameOf, batches, people, tasters, missing, save, forget };
}

/** See {@link useSessionPlan}. */
export type SessionPlan = ReturnType<typeof useSessionPlan>;

/** Everyone expected; whoever had a seat keeps it. */
function seatsOf(
  { people: sitting, guests }: SessionDraft,
  old: TastingSession['seats'],
  people: readonly Person[],
): TastingSessionPut['seats'] {
  const guestIds = old.filter((s) => s.personId === null).map((s) => s.id);
  return [
    ...sitting.map((personId) => ({
      id: old.find((s) => s.personId === personId)?.id ?? newId(),
      personId,
      name: people.find((p) => p.id === personId)?.name ?? '',
    })),
    ...Array.from({ length: guests }, (_, i) => ({ id: guestIds[i] ?? newId() })),
  ];
}
