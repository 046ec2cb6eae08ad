import type { TrailItem } from '@wunsch/contract';
import type { Words } from '../words/words.tsx';

/** What a line of the trail speaks of: code, name, material, mass, station, whatever its kind tells. */
export function trailDetail({ summary: s }: TrailItem, words: Words): string {
  const data = s.data as { kind?: string } | undefined;
  const parts = [
    s.code,
    s.name,
    s.material && words.word('material', String(s.material)),
    s.reason && words.word('loss', String(s.reason)),
    s.label,
    s.remainder && words.word('loss', String(s.remainder)),
    s.destination,
    typeof s.massMg === 'number' ? words.mass(s.massMg) : null,
    typeof s.count === 'number' ? words.t('pieces.n', { n: s.count }) : null,
    s.state && words.word('state', String(s.state)),
    typeof s.station === 'string' ? words.word('station', s.station) : null,
    typeof data?.kind === 'string' ? words.word('entry', data.kind) : null,
  ];
  return parts.filter((p): p is string => typeof p === 'string' && p !== '').join(', ');
}
