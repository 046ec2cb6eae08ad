import type { ObservationRecord, TrailItem } from '@wunsch/contract';
import type { Words } from '../words/words.tsx';
import { observationText } from './observationText.ts';

/** What a line of the trail speaks of: code, name, material, mass, station, whatever its kind tells. */
export function trailDetail({ kind, summary: s }: TrailItem, words: Words): string {
  const data = s.data as { kind?: string } | undefined;
  // What the balance left has a line of its own; of a closing it would read as what was closed.
  const remainder = kind === 'step.close' ? undefined : s.remainder;
  const parts = [
    s.code,
    s.name,
    s.title,
    s.material && words.word('material', String(s.material)),
    s.reason && words.word('loss', String(s.reason)),
    s.label,
    remainder && words.word('loss', String(remainder)),
    s.destination,
    s.place,
    typeof s.massMg === 'number' ? words.mass(s.massMg) : null,
    typeof s.count === 'number' ? countOf(kind, s.count, words) : null,
    stateOf(kind, s.state, words),
    typeof s.station === 'string' ? words.word('station', s.station) : null,
    typeof data?.kind === 'string' ? observed({ ...data, kind: data.kind }, words) : null,
  ];
  return parts.filter((p): p is string => typeof p === 'string' && p !== '').join(', ');
}

/** So many of what the kind counts: guests of a class, pieces of anything else. */
function countOf(kind: string, n: number, words: Words): string | null {
  if (kind.startsWith('class.')) return words.t('trail.guests', { n });
  // Older releases counted what was delivered by weight as no pieces.
  return n === 0 && kind.startsWith('delivery') ? null : words.t('pieces.n', { n });
}

/** States nobody needs told of an order, a class or a guest: they are so until something else is said. */
const USUAL: readonly unknown[] = ['open', 'planned', 'coming'];

/** The state a batch is in; of anything else, the state it has come to. */
function stateOf(kind: string, state: unknown, words: Words): string | null {
  if (typeof state !== 'string' || (kind !== 'batch.state' && USUAL.includes(state))) return null;
  return words.word('state', state);
}

/** What was observed; of what an older release wrote in another shape, its kind alone. */
function observed(data: { kind: string }, words: Words): string | null {
  const name = words.word('entry', data.kind);
  const kindAlone = name.includes('{') ? null : name;
  try {
    const text = observationText(data as ObservationRecord['data'], words);
    // A figure that is not there would be told as none.
    return /NaN|undefined/.test(text) ? kindAlone : text;
  } catch {
    return kindAlone;
  }
}
