import type { CaseView } from '@wunsch/contract';
import type { CauseId } from '@wunsch/core/faults';
import type { Words } from '../words/words.tsx';
import { causeName } from './Causes.tsx';

/** Causes after which nobody should eat on. */
const UNSAFE: ReadonlySet<CauseId> = new Set<CauseId>(['spoiledBeans', 'moth']);

/** Causes that are tasted, not seen. */
const TASTED: ReadonlySet<CauseId> = new Set<CauseId>([
  'shortRoast',
  'shortConche',
  'sourFerment',
  'longConche',
  'hotRoast',
  'slatyBeans',
  'huskLeft',
  'highShare',
  'smokeDried',
]);

/** Causes that lie in how a bar was kept. */
const KEPT: ReadonlySet<CauseId> = new Set<CauseId>(['storeWarm', 'condensation', 'softFat']);

/** Odds above which a cause is spoken of to a customer. */
const SPOKEN_OF = 0.5;

/** A reply in plain words to whoever told of a bar: what it most likely is, whether it can be eaten, how to keep it. */
export function draftReply(view: CaseView, shop: string, words: Words): string {
  const { t } = words;
  const closed = view.closing?.cause ?? null;
  const first = view.faults.ranked[0];
  const cause = closed ?? (first && first.odds >= SPOKEN_OF ? first.cause : null);
  // Whatever it comes from: what smells of must or has webs in it is not eaten on.
  const isUnsafe =
    (cause !== null && UNSAFE.has(cause)) || view.signs.some((s) => s === 'webbing' || s === 'smoky');
  const said = isUnsafe
    ? t('case.reply.unsafe')
    : cause === null
      ? t('case.reply.unknown')
      : t(TASTED.has(cause) ? 'case.reply.taste' : 'case.reply.harmless', { cause: causeName(cause, t) });
  return t('case.reply.text', {
    name: view.name || t('case.reply.nobody'),
    code: view.code || (view.batchCode ?? ''),
    cause: said,
    keeping: cause !== null && KEPT.has(cause) && !isUnsafe ? t('case.reply.keeping') : '',
    shop,
  });
}
