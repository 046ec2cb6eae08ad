import type { Topic } from './topics.ts';

/** What every look at a batch is drawn from. */
const BATCH: readonly Topic[] = [
  'batches',
  'stock',
  'lots',
  'observations',
  'timers',
  'machines',
  'recipes',
  'ingredients',
  'workshop',
  'yields',
  'runs',
];

/** What tells who has done what at the stations, and how it went. */
const RUNS: readonly Topic[] = [
  'people',
  'batches',
  'lots',
  'observations',
  'readings',
  'tastings',
  'panels',
  'recipes',
  'yields',
  'runs',
  'workshop',
];

/**
 * The topics each address is drawn from, most particular first. An entry names what it touches; what is drawn from one of these is
 * read again. An address that is not here is read again after every entry.
 */
const DRAWN_FROM: readonly [prefix: string, topics: readonly Topic[] | 'all'][] = [
  ['/api/bench', [...BATCH, 'tastings', 'panels']],
  ['/api/batches/', [...BATCH, 'tastings', 'panels', 'readings', 'attachments', 'cases', 'plan']],
  ['/api/batches', ['batches', 'lots', 'recipes', 'workshop']],
  ['/api/pickings', ['harvest', 'lots']],
  ['/api/lots', ['lots', 'stock', 'batches', 'observations', 'attachments', 'yields']],
  ['/api/fillings', ['stock', 'batches', 'lots', 'ingredients']],
  ['/api/compositions', ['stock', 'batches', 'lots', 'ingredients']],
  ['/api/stock-items', ['stock', 'batches', 'lots', 'recipes', 'ingredients']],
  ['/api/stock-values', 'all'],
  ['/api/stock-paces', ['stock', 'batches', 'ingredients', 'recipes']],
  ['/api/stock-dated', ['stock', 'batches', 'recipes', 'ingredients', 'plan']],
  ['/api/stock-proof', ['stock', 'batches', 'lots']],
  ['/api/table-looks', ['looks']],
  ['/api/stock', ['stock', 'batches', 'lots']],
  ['/api/trace', ['stock', 'batches', 'lots', 'machines', 'ingredients']],
  ['/api/recalls', ['recalls']],
  ['/api/cases/', [...BATCH, 'cases', 'attachments', 'readings', 'plan']],
  ['/api/cases', ['cases', 'batches', 'recipes']],
  ['/api/classes/', ['classes', 'stock', 'recipes', 'ingredients', 'moulds', 'workshop']],
  ['/api/classes', ['classes']],
  ['/api/fault-table', ['cases']],
  ['/api/reminders', ['cases', 'recipes']],
  ['/api/pages', ['pages', 'workshop']],
  ['/api/costs', 'all'],
  ['/api/usual-work', BATCH],
  ['/api/skills/runs', RUNS],
  ['/api/skills', ['people']],
  ['/api/cautions', ['people']],
  ['/api/imports', ['imports']],
  ['/api/forecasts', ['yields', 'runs', 'batches']],
  ['/api/warnings', ['batches', 'lots', 'observations', 'readings']],
  ['/api/months', 'all'],
  ['/api/yields', ['yields', 'batches', 'lots', 'machines', 'plan']],
  ['/api/customers', ['plan', 'stock', 'recipes']],
  ['/api/deliveries', ['stock', 'plan', 'batches']],
  ['/api/supplies', ['stock', 'ingredients']],
  ['/api/ingredients', ['ingredients', 'stock']],
  ['/api/recipes', ['recipes']],
  ['/api/trials', ['trials']],
  ['/api/plan', [...BATCH, 'tastings', 'panels', 'plan', 'people', 'moulds']],
  ['/api/work-hours', ['plan']],
  ['/api/calendar-addresses', ['plan']],
  ['/api/holiday-places', []],
  ['/api/machine-before', ['machines', 'batches', 'lots', 'stock', 'ingredients']],
  ['/api/machines', ['machines', 'runs', 'batches']],
  ['/api/moulds', ['moulds']],
  ['/api/mouldings', ['batches', 'yields']],
  ['/api/room', ['observations']],
  ['/api/cabinet', ['observations', 'batches', 'moulds']],
  ['/api/label-designs', ['moulds']],
  ['/api/labels/', [...BATCH, 'moulds', 'pages']],
  ['/api/roasts', ['batches', 'yields', 'observations', 'readings', 'tastings', 'panels']],
  ['/api/steps/', ['readings']],
  ['/api/winnowings', ['batches', 'yields', 'observations']],
  ['/api/sortings', ['batches', 'yields']],
  ['/api/conches', ['batches', 'yields', 'observations', 'tastings', 'panels']],
  ['/api/retastes', ['observations']],
  ['/api/traps', ['observations']],
  ['/api/attachments', ['attachments']],
  ['/api/samples', ['samples']],
  ['/api/people/', RUNS],
  ['/api/people', ['people']],
  ['/api/tasting-sessions', ['panels', 'people']],
  ['/api/note-lists', ['tastings']],
  ['/api/tasted-batches', ['batches', 'stock', 'observations', 'readings', 'tastings', 'panels', 'recipes']],
  ['/api/session', ['workshop', 'people']],
  ['/api/set-aside', ['set-aside']],
  ['/api/find', []],
  ['/api/trail', 'all'],
];

/** What changed: the topics an entry touched, and the batch it belongs to. */
export interface Change {
  touches: readonly Topic[];
  batchId: string | null;
}

/** Topics by which an entry of one batch shows on the pages of others. */
const ACROSS: ReadonlySet<Topic> = new Set<Topic>([
  'lots',
  'machines',
  'recipes',
  'ingredients',
  'workshop',
  'yields',
  'runs',
  'cases',
]);

/** Whether what is at an address may look different after a change. */
export function isStale(path: string, { touches, batchId }: Change): boolean {
  if (!path.startsWith('/api/')) return false;
  const found = DRAWN_FROM.find(([prefix]) => path.startsWith(prefix));
  const topics = found?.[1] ?? 'all';
  if (topics === 'all') return touches.some((t) => t !== 'readings' && t !== 'sessions');
  const hit = touches.filter((t) => topics.includes(t));
  if (hit.length === 0) return false;
  // Another batch's page follows only what crosses from batch to batch.
  const other =
    path.startsWith('/api/batches/') && batchId !== null && !path.startsWith(`/api/batches/${batchId}`);
  return !other || hit.some((t) => ACROSS.has(t));
}
