import { PLAIN } from '../grind/index.ts';
import { pour } from './bowls.ts';
import { Chain, type Building, type ChainBatch } from './chain.ts';
import { recipeOf, type NewBatch } from './needs.ts';
import { PLAN_STAGES, STATION_OF_STAGE, type PlanBatch, type PlanRoom, type PlanStage } from './room.ts';
import { stageTime } from './times.ts';
import { turn, TURNING } from './turning.ts';

const DAY = 1440;

/** Longest a piece of work for hands may be before it is parted, minutes. */
const LONGEST_HANDS = 180;

/** Roasted beans are cracked within so long, minutes. */
const MOST_BEFORE_WINNOW = 3 * DAY;

/** Bars set for so long before they are wrapped, and are tasted so long after they were moulded, minutes. */
const BEFORE_WRAP = 12 * 60;
const BEFORE_TASTE = DAY;

/** What a batch is called at the first, second … machine it is in at the same time. */
const keyOf = (id: string, nth: number) => (nth === 0 ? id : `${id}:${nth + 1}`);

/** By machine, the batch whose charge lies in it: the one put in last, where somebody forgot to say that another is out. */
function chargesIn(room: PlanRoom): Map<string, string> {
  const running = room.batches.flatMap(({ id, running: main, beside = [] }) =>
    [main, ...beside].flatMap((run, i) =>
      run?.machineId && (run.kind === 'grind' || run.kind === 'conche')
        ? [{ id: keyOf(id, i), machineId: run.machineId, since: Date.parse(run.startedAt) }]
        : [],
    ),
  );
  running.sort((a, b) => a.since - b.since);
  return new Map(running.map(({ machineId, id }) => [machineId, id]));
}

/** Puts batches together as activities, waits and holds. */
export class BatchChains {
  readonly built: Building;
  /** Activities after which a batch’s bars are there. */
  readonly lastOf = new Map<string, string[]>();

  constructor(room: PlanRoom, at: (ms: number) => number, has: ReadonlySet<string>) {
    const spans = room.people.flatMap((p) => (p.week ?? room.week).flat().map(([a, b]) => b - a));
    const span = spans.length > 0 ? Math.max(...spans) : DAY;
    const longest = Math.max(30, Math.min(LONGEST_HANDS, span));
    this.built = {
      room,
      at,
      has,
      longest,
      span,
      activities: [],
      unseen: [],
      waits: [],
      holds: [],
      steps: [],
      filled: chargesIn(room),
    };
  }

  /** A batch that is on its way: from where it stands, with what runs fixed. */
  inFlight(batch: PlanBatch): void {
    const recipe = recipeOf(this.built.room, batch);
    // What is under way is on the way, whatever the route says.
    const route = new Set<string>([...batch.route, ...(batch.running ? [batch.running.kind] : [])]);
    const stages = stagesFrom(batch.stage, route);
    if (stages.length === 0) return;
    const { beside = [] } = batch;
    const besideMg = beside.reduce((sum, run) => sum + (run.massMg ?? 0), 0);
    const massAt = (stage: PlanStage) => batch.massAt?.[STATION_OF_STAGE[stage]] ?? batch.massMg;
    const chained: ChainBatch = {
      key: batch.id,
      code: batch.code,
      batchId: batch.id,
      recipeId: batch.recipeId,
      lotId: batch.lotId,
      barMg: batch.barMg,
      ran: recipe ? { allergens: recipe.allergens, strong: recipe.strong ?? [] } : PLAIN,
      massOf: (stage) =>
        stage === 'wrap' || stage === 'mould' || stage === 'knock' || stage === 'temper'
          ? Math.max(batch.bars * batch.barMg, 1)
          : besideMg > 0 && stage !== 'draw' && TURNING.includes(stage)
            ? Math.max(1, massAt(stage) - besideMg)
            : massAt(stage),
      bars: batch.bars,
    };
    const others = beside.flatMap((run, i) => {
      const key = keyOf(batch.id, i + 1);
      const own = new Chain(
        this.built,
        { ...chained, key, massOf: () => run.massMg ?? massAt(run.kind) },
        run,
      );
      const still = TURNING.slice(TURNING.indexOf(run.kind)).filter(
        (s) => WORK_OF[s] === run.kind || s === run.kind || batch.route.includes('conche'),
      );
      return turn(own, still, []);
    });
    this.chain(chained, stages, batch.running, others);
  }

  /** A batch that is to be made. */
  toMake(batch: NewBatch): void {
    const { recipe, lot } = batch;
    const route = new Set<string>(['sort', 'roast', 'winnow', 'recipe', 'grind', 'mould', 'wrap', 'taste']);
    if (recipe.conched) route.add('conche');
    if (recipe.tempered) route.add('temper');
    const first: PlanStage =
      recipe.material === 'couverture' || recipe.material === 'chocolate'
        ? 'temper'
        : recipe.material === 'nibs'
          ? 'recipe'
          : 'sort';
    this.chain(
      {
        key: batch.key,
        code: batch.code,
        batchId: null,
        recipeId: recipe.id,
        lotId: lot?.id ?? null,
        barMg: recipe.barMg,
        ran: { allergens: recipe.allergens, strong: recipe.strong ?? [] },
        massOf: (stage) =>
          stage === 'sort' || stage === 'roast'
            ? batch.startMg
            : stage === 'winnow'
              ? batch.startMg * 0.92
              : batch.chargeMg,
        bars: batch.bars,
        ...(lot?.from !== undefined && {
          notBefore: Math.max(0, this.built.at(Date.parse(lot.from))),
        }),
      },
      stagesFrom(first, route),
      null,
    );
  }

  /** @param others what else has to be over before it is tempered, or moulded */
  private chain(
    batch: ChainBatch,
    stages: readonly PlanStage[],
    running: PlanBatch['running'],
    others: readonly string[] = [],
  ): void {
    const chain = new Chain(this.built, batch, running);
    // What is past the grinders waits for what is still in others of them.
    let before: string[] = stages.some((s) => TURNING.includes(s)) ? [] : [...others];
    const isOver = new Set<PlanStage>();
    for (const stage of stages) {
      if (isOver.has(stage)) continue;
      if (stage === 'sort' || stage === 'roast' || stage === 'winnow') before = dry(chain, stage, before);
      else if (stage === 'recipe') before = chain.parted(stage, before);
      else if (TURNING.includes(stage)) {
        const turned = turn(
          chain,
          stages.filter((s) => TURNING.includes(s)),
          before,
        );
        before = [...turned, ...others];
        for (const s of TURNING) isOver.add(s);
      } else if (stage === 'temper' || stage === 'mould') {
        before = pour(chain, stages, before);
        for (const s of ['temper', 'mould', 'set', 'knock'] as const) isOver.add(s);
      } else if (stage === 'wrap') {
        before = chain.parted(stage, before, { least: stages.includes('knock') ? BEFORE_WRAP : 0 });
        this.lastOf.set(batch.key, before);
      } else {
        const key = chain.add(stage, 1, 1);
        chain.after(
          before,
          key,
          stage === 'taste' && stages.includes('wrap') ? BEFORE_TASTE - BEFORE_WRAP : 0,
        );
        before = [key];
      }
    }
    // Bars that are already there are there now.
    if (!this.lastOf.has(batch.key)) this.lastOf.set(batch.key, []);
  }
}

/** Beans before they are ground: by hand, in the oven load after load, through the winnower. */
function dry(chain: Chain, stage: 'sort' | 'roast' | 'winnow', before: readonly string[]): string[] {
  const { room, batch } = chain;
  const kg = batch.massOf(stage) / 1e6;
  const able = chain.machines(STATION_OF_STAGE[stage], (m) => stage !== 'roast' || m.maxMg !== null);
  const most = Math.max(0, ...room.machines.filter((m) => able.includes(m.id)).map((m) => m.maxMg ?? 0));
  const loads = stage === 'roast' ? Math.max(1, Math.ceil((kg * 1e6) / (most || kg * 1e6))) : 1;
  const time = stageTime(stage, kg / loads, room, able.length === 1 ? able[0]! : null);
  return chain.parted(stage, before, {
    time: { ...time, minutes: time.minutes * loads, minutes80: time.minutes80 * loads },
    ...(stage !== 'sort' && { machine: able }),
    ...(stage === 'winnow' && { least: Math.round(room.restHours * 60), most: MOST_BEFORE_WINNOW }),
  });
}

/** Work of the line each stage belongs to; the work itself where left out. */
const WORK_OF: Readonly<Partial<Record<PlanStage, string>>> = {
  load: 'grind',
  draw: 'grind',
  fill: 'conche',
  empty: 'conche',
  set: 'mould',
  knock: 'mould',
  wrap: 'mould',
};

/** Stages from one on that are on a route of work. */
function stagesFrom(first: PlanStage, route: ReadonlySet<string>): PlanStage[] {
  return PLAN_STAGES.slice(PLAN_STAGES.indexOf(first)).filter(
    (s) => s === 'taste' || route.has(WORK_OF[s] ?? s),
  );
}
