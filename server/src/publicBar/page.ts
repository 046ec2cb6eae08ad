import { and, asc, desc, eq, inArray, sql } from 'drizzle-orm';
import { PagePublish, readDetails, type BatchPages, type PageState, type PublicBar } from '@wunsch/contract';
import { labelContent, STARTER_DESIGNS, type LabelLanguage, type LabelPart } from '@wunsch/core/label';
import { isWork, originsBehind, STATIONS } from '@wunsch/core/ledger';
import { dayOf } from '@wunsch/core/plan';
import type { Db } from '../db/database.ts';
import { batch, lot, movement, parcel, person, publicPage, step } from '../db/schema/index.ts';
import { Problem } from '../http/problem.ts';
import { faultRecord } from '../cases/faultRecord.ts';
import { loadHours } from '../plan/loadRoom.ts';
import { loadBars } from '../stations/mould/barFacts.ts';
import { loadMadeNow } from '../stations/recipe/index.ts';
import type { Store } from '../store/store.ts';
import { batchView } from '../views/batchView.ts';
import { loadLineage } from '../views/lineage.ts';

/** Bars of a code: their parcel, and the batch they are of. */
interface FoundBars {
  parcelId: string;
  batchId: string;
  recipeId: string | null;
  /** As it stands on the bars. */
  code: string;
}

/** The same answer for what there is not and for what nobody has published, so that nobody can learn which codes exist. */
const noPage = () =>
  new Problem({
    status: 404,
    code: 'no-page',
    detail:
      'the maker has published nothing about a bar of this code; look whether it is written as on the wrapper',
  });

/** What was switched last for any of these; null where nobody has. */
async function stateOf(db: Db, ids: string[]): Promise<PageState | null> {
  const [row] = await db
    .select()
    .from(publicPage)
    .where(inArray(publicPage.id, ids))
    .orderBy(desc(publicPage.at), desc(publicPage.id))
    .limit(1);
  const facts = PagePublish.safeParse(row?.facts);
  return row && facts.success ? { ...facts.data, id: row.id, at: row.at, by: row.by } : null;
}

/** What was switched for a batch. */
const ofBatch = (db: Db, batchId: string) => stateOf(db, [batchId]);

/** What was switched for a recipe, under whichever of its versions: it goes on when it is written anew. */
async function ofRecipe(db: Db, recipeId: string | null): Promise<PageState | null> {
  return recipeId === null ? null : stateOf(db, (await loadMadeNow(db)).versionsOf(recipeId));
}

/** The page that counts for a batch: its own choice before its recipe’s. */
async function pageOf(db: Db, of: { batchId: string; recipeId: string | null }): Promise<PageState | null> {
  return (await ofBatch(db, of.batchId)) ?? (await ofRecipe(db, of.recipeId));
}

/** Bars of a code as printed on them, the newest where several mouldings share it; a batch’s code finds its last bars. */
async function findBars(db: Db, code: string): Promise<FoundBars | null> {
  const [found] = await db
    .select({
      parcelId: parcel.id,
      batchId: batch.id,
      recipeId: batch.recipeId,
      code: sql<string>`coalesce(${step.details} ->> 'barCode', ${batch.code})`,
    })
    .from(step)
    .innerJoin(movement, and(eq(movement.stepId, step.id), eq(movement.direction, 'out')))
    .innerJoin(parcel, and(eq(parcel.id, movement.parcelId), eq(parcel.material, 'bars')))
    .innerJoin(batch, eq(batch.id, step.batchId))
    .where(
      and(
        eq(step.kind, 'mould'),
        eq(step.voided, false),
        eq(movement.voided, false),
        sql`(lower(${step.details} ->> 'barCode') = lower(${code}) or lower(${batch.code}) = lower(${code}))`,
      ),
    )
    .orderBy(desc(step.startedAt), asc(parcel.id))
    .limit(1);
  return found ?? null;
}

/** Codes on the bars of a batch. */
async function codesOf(db: Db, batchId: string): Promise<string[]> {
  const rows = await db
    .select({ details: step.details })
    .from(step)
    .where(and(eq(step.batchId, batchId), eq(step.kind, 'mould'), eq(step.voided, false)));
  return [...new Set(rows.flatMap((r) => readDetails(r.details).barCode ?? []))];
}

/** Where a bar’s page is reached from outside. */
export const barAddress = (base: string, code: string) =>
  `${base.replace(/\/+$/, '')}/bar/${encodeURIComponent(code)}`;

/** Whether the bars of a batch have a page now. */
export async function hasPage(db: Db, batchId: string): Promise<boolean> {
  const [found] = await db.select({ recipeId: batch.recipeId }).from(batch).where(eq(batch.id, batchId));
  return found ? ((await pageOf(db, { batchId, recipeId: found.recipeId }))?.isOn ?? false) : false;
}

/** What is switched for a batch and its recipe, and the addresses that open because of it. */
export async function batchPages(db: Db, batchId: string, base: string): Promise<BatchPages> {
  const [found] = await db.select({ recipeId: batch.recipeId }).from(batch).where(eq(batch.id, batchId));
  const own = await ofBatch(db, batchId);
  const recipes = await ofRecipe(db, found?.recipeId ?? null);
  const isOn = (own ?? recipes)?.isOn ?? false;
  const codes = isOn ? await codesOf(db, batchId) : [];
  return { batch: own, recipe: recipes, addresses: codes.map((code) => barAddress(base, code)) };
}

/** Middle of each origin’s plots, longitude and latitude to a tenth of a degree: where about, not which gate. */
function middleOf(plots: unknown): [number, number][] {
  const points: number[][] = [];
  const walk = (g: unknown): void => {
    if (!Array.isArray(g)) return;
    if (typeof g[0] === 'number') points.push(g as number[]);
    else g.forEach(walk);
  };
  const features =
    (plots as { features?: { geometry?: { coordinates?: unknown } }[] } | null)?.features ?? [];
  features.forEach((f) => walk(f.geometry?.coordinates));
  if (points.length === 0) return [];
  const mean = (k: 0 | 1) => Math.round((10 * points.reduce((s, p) => s + p[k]!, 0)) / points.length) / 10;
  return [[mean(0), mean(1)]];
}

/** What the bars’ beans came from. */
async function originLots(db: Db, parcelId: string): Promise<(typeof lot.$inferSelect)[]> {
  const graph = await loadLineage(db, [parcelId], 'back');
  const ids = originsBehind(graph, [parcelId]).map((o) => o.lotId);
  return ids.length > 0 ? db.select().from(lot).where(inArray(lot.id, ids)) : [];
}

/**
 * Bars whose page is on, by the code on them.
 *
 * @throws Problem 404 where there are no such bars or nobody has published them
 */
export async function publishedBars(db: Db, code: string): Promise<FoundBars & { state: PageState }> {
  const found = await findBars(db, code);
  const state = found && (await pageOf(db, found));
  if (!found || !state?.isOn) throw noPage();
  return { ...found, state };
}

/**
 * What anyone may see of a bar, by the code on it.
 *
 * @throws Problem 404 where there is no such bar or nobody has published it
 */
export async function publicBar(
  store: Pick<Store, 'db' | 'yields' | 'runs' | 'now'>,
  code: string,
  language: LabelLanguage,
): Promise<PublicBar> {
  const { db } = store;
  const { state, ...found } = await publishedBars(db, code);
  const shows = new Set(state.shows);
  const { bar, maker } = await loadBars(db, found.parcelId, () => '');
  const content = labelContent(bar, maker, { ...STARTER_DESIGNS['single']!, languages: [language] });
  const runs = (part: LabelPart) => content.parts.find((p) => p.part === part)?.paragraphs[0] ?? [];
  const text = (part: LabelPart) =>
    runs(part)
      .map((r) => r.text)
      .join('');
  const lots =
    shows.has('origin') || shows.has('growers') || shows.has('map')
      ? await originLots(db, found.parcelId)
      : [];
  const view =
    shows.has('ribbon') || shows.has('days') || shows.has('making') || shows.has('people')
      ? await batchView(store, found.batchId, store.now())
      : null;
  const record = view && shows.has('making') ? await faultRecord(db, view, bar.code) : null;
  const { timeZone } = await loadHours(db);
  const startMg = view?.flow.stations.find((s) => s.inMg > 0)?.inMg ?? 0;
  const named =
    view && shows.has('people')
      ? await db
          .select({ name: person.name, initials: person.initials })
          .from(person)
          .where(and(eq(person.isNamed, true), eq(person.active, true)))
      : [];
  const hands = new Set(view?.steps.filter((s) => isWork(s.kind)).flatMap((s) => s.hands ?? [s.by]) ?? []);
  return {
    name: bar.ownName || (content.soldAs ?? ''),
    code: bar.code,
    maker: { name: maker.name, address: maker.address },
    netMass: text('netMass'),
    label: {
      cacao: runs('cacao'),
      ingredients: runs('ingredients'),
      traces: runs('traces'),
      storage: runs('storage'),
    },
    bestBefore: bar.bestBefore,
    words: state.words,
    origin: shows.has('origin')
      ? lots.map((l) => ({ name: l.name, country: l.country, region: l.region, harvest: l.harvest }))
      : null,
    growers: shows.has('growers') ? [...new Set(lots.map((l) => l.grower).filter(Boolean))] : null,
    map: shows.has('map') ? lots.flatMap((l) => middleOf(l.plots)) : null,
    ribbon:
      view && shows.has('ribbon') && startMg > 0
        ? view.flow.stations
            .filter((s) => s.outMg > 0)
            .map((s) => ({
              station: s.station,
              grams: Math.round((1000 * s.outMg) / startMg) / 10,
              lost: Math.round((1000 * s.losses.reduce((sum, l) => sum + l.massMg, 0)) / startMg) / 10,
            }))
        : null,
    days:
      view && shows.has('days')
        ? STATIONS.flatMap((station) => {
            const first = view.steps
              .filter((s) => s.station === station && isWork(s.kind))
              .map((s) => s.startedAt)
              .sort()[0];
            return first === undefined ? [] : [{ station, day: dayOf(Date.parse(first), timeZone) }];
          })
        : null,
    making: record && { gritUm: record.gritUm, doseMinutes: record.dose },
    people: shows.has('people') ? named.filter((p) => hands.has(p.initials)).map((p) => p.name) : null,
  };
}
