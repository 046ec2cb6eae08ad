import type { BatchBrief, BenchBatch, Lot, Shape } from '@wunsch/contract';
import { routeOf, type Station } from '@wunsch/core/ledger';

/** One of the first steps: what it is, whether it is done, and where it is done. */
export interface FirstStep {
  id: FirstStepId;
  state: 'done' | 'now' | 'ahead';
  to: string;
}

/** Names of the first steps: something before the line, or a station of it. */
export type FirstStepId =
  | 'practise'
  | 'class'
  | 'harvest'
  | 'crop'
  | 'receive'
  | 'ferment'
  | 'start'
  | Exclude<Station, 'beans'>;

/** What arrives wet and must be fermented and dried before a batch can begin. */
const WET = new Set(['pods', 'wet beans']);

/**
 * The way from an empty workshop to its first tasted bar, as far as it has gone: what the shape of the workshop begins with, then the stations the
 * first batch passes through. Nothing once a batch has been finished, or where more than two have been begun.
 *
 * @param bench batches in flight, of which the first to have begun is followed
 * @param picked whether anything that was picked has been noted
 * @param planned whether a class has been planned
 */
export function firstSteps({
  shape,
  lots,
  batches,
  bench,
  picked,
  planned,
}: {
  shape: Shape;
  picked: boolean;
  planned: boolean;
  lots: readonly Pick<Lot, 'id' | 'material'>[];
  batches: readonly Pick<BatchBrief, 'id' | 'state' | 'startedAt'>[];
  bench: readonly Pick<BenchBatch, 'id' | 'flow'>[];
}): FirstStep[] | null {
  const real = batches.filter((b) => b.state !== 'void');
  if (real.some((b) => b.state === 'finished') || real.length > 2) return null;
  const first = [...real].sort((a, b) => a.startedAt.localeCompare(b.startedAt))[0];
  const flow = bench.find((b) => b.id === first?.id)?.flow;
  const wet = lots.find((l) => WET.has(l.material));
  const hasDry = lots.some((l) => !WET.has(l.material));
  const received = lots.length > 0;
  const before: { id: FirstStepId; done: boolean; to: string }[] = [
    ...(shape === 'school' ? [{ id: 'practise' as const, done: received, to: '/practice' }] : []),
    ...(shape === 'estate'
      ? [
          { id: 'harvest' as const, done: picked || received, to: HARVEST },
          { id: 'crop' as const, done: received, to: HARVEST },
        ]
      : [{ id: 'receive' as const, done: received, to: '/beans?do=receive' }]),
    ...(wet || shape === 'estate'
      ? [
          {
            id: 'ferment' as const,
            done: hasDry || real.length > 0,
            to: wet ? `/beans/${wet.id}` : '/beans',
          },
        ]
      : []),
    { id: 'start', done: real.length > 0, to: '/beans' },
  ];
  const line = (
    flow?.stations ??
    usualOf(lots).map((station) => ({ station, state: 'ahead' as const, inMg: 0, outMg: 0 }))
  )
    .filter((s) => s.station !== 'beans' && s.state !== 'skipped' && s.state !== 'not needed')
    .map((s, i, all) => ({
      id: s.station as Exclude<Station, 'beans'>,
      // A second bowl may wait while the first one's bars are out: what has been gone past has been learnt.
      // So has a recipe whose bowl was closed, though nibs are left over.
      done:
        s.state === 'done' ||
        (s.station === 'recipe' && s.outMg > 0) ||
        all.slice(i + 1).some((later) => later.outMg > 0),
      to: first ? `/${s.station}/${first.id}` : `/${s.station}`,
    }));
  // A class begins from a chocolate of one's own.
  const after: typeof before =
    shape === 'school' ? [{ id: 'class', done: planned, to: '/plan/classes' }] : [];
  const steps = [...before, ...line, ...after];
  const now = steps.findIndex((s) => !s.done);
  return steps.map(({ id, done, to }, i) => ({ id, to, state: done ? 'done' : i === now ? 'now' : 'ahead' }));
}

/** Where pickings are noted, and become lots. */
const HARVEST = '/beans?show=harvest';

/** The line before there is a batch that would have its own: of bought nibs or chocolate what they still have before them. */
function usualOf(lots: readonly Pick<Lot, 'material'>[]): Exclude<Station, 'beans'>[] {
  const material = lots.some((l) => isBeans(l.material)) ? 'dry beans' : (lots[0]?.material ?? 'dry beans');
  const route: readonly string[] = [...routeOf({ material }), 'taste'];
  return LINE.filter((station) => route.includes(station));
}

const isBeans = (material: Lot['material']) => WET.has(material) || material === 'dry beans';

const LINE: readonly Exclude<Station, 'beans'>[] = [
  'sort',
  'roast',
  'winnow',
  'recipe',
  'grind',
  'temper',
  'mould',
  'taste',
];
