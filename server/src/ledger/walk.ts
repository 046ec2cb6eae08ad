import { sql, type SQL } from 'drizzle-orm';
import type { Direction, Material } from '@wunsch/core/ledger';
import type { Db } from '../db/database.ts';
import { idsIn, rowsOf } from '../db/raw.ts';

/** A line in force as the walk reads it. */
export interface WalkedLine {
  stepId: string;
  direction: Direction;
  parcelId: string | null;
  ingredientId: string | null;
  /** What it is called, of something weighed in without a parcel. */
  ingredient: string | null;
  /** Whole mg. */
  massMg: number;
  count: number | null;
  material: Material | null;
  reason: string | null;
  /** Minor units per kg when it was weighed in. */
  pricePerKg: number | null;
}

/** Steps that hang together, with every line in force of each. */
export interface Walked {
  /** Lines by step; a step reached without any has an empty list. */
  lines: Map<string, WalkedLine[]>;
  /** Batches that were read. */
  batchIds: string[];
  /** Steps reached that belong to no batch. */
  loneStepIds: string[];
}

/** Where a walk sets out. */
export interface WalkSeeds {
  parcelIds?: readonly string[];
  stepIds?: readonly string[];
  /** Ingredients weighed in without a delivery. */
  ingredientIds?: readonly string[];
}

const DIRECTIONS: Readonly<Record<string, Direction>> = { i: 'in', o: 'out', l: 'loss' };

/**
 * Lines as columns, each one text: over ten years of rows that is many times faster to carry and to read than a row or an object a line. Numbers
 * and the words of people are JSON; nothing else can hold the comma that parts them.
 */
const COLUMNS = sql.join(
  [
    `string_agg(m.step_id::text, ',') as steps`,
    `string_agg(left(m.direction, 1), '') as directions`,
    `string_agg(coalesce(m.parcel_id::text, ''), ',') as parcels`,
    `string_agg(coalesce(m.ingredient_id::text, ''), ',') as ingredients`,
    `'[' || string_agg(m.mass_mg::text, ',') || ']' as masses`,
    `'[' || string_agg(coalesce(m.count::text, 'null'), ',') || ']' as counts`,
    `string_agg(coalesce(m.material, ''), ',') as materials`,
    `'[' || string_agg(coalesce(m.price_per_kg::text, 'null'), ',') || ']' as prices`,
    `'[' || string_agg(case when m.direction = 'loss' then to_json(m.reason)::text
      when m.parcel_id is null and m.direction = 'in' then to_json(m.label)::text else '0' end, ',') || ']' as words`,
  ].map((column) => sql.raw(column)),
  sql`, `,
);

interface Columns {
  steps: string | null;
  directions: string;
  parcels: string;
  ingredients: string;
  masses: string;
  counts: string;
  materials: string;
  prices: string;
  words: string;
}

/** What was read of a parcel. */
interface ReadParcel {
  /** The one text all its lines share, so that it is told by what it is and not letter by letter. */
  id: string;
  /** Steps it goes into, or was found at. */
  users: string[];
  /** Mass put out less mass taken and mass on hand, mg. */
  unread: number;
}

/** Some of the ledger, read so far. */
class Pages {
  readonly lines = new Map<string, WalkedLine[]>();
  readonly parcels = new Map<string, ReadParcel>();

  private parcel(id: string): ReadParcel {
    let known = this.parcels.get(id);
    if (!known) this.parcels.set(id, (known = { id, users: [], unread: 0 }));
    return known;
  }

  add(columns: Columns | null): void {
    if (!columns?.steps) return;
    const steps = columns.steps.split(',');
    const parcels = columns.parcels.split(',');
    const ingredients = columns.ingredients.split(',');
    const masses = JSON.parse(columns.masses) as number[];
    const counts = JSON.parse(columns.counts) as (number | null)[];
    const materials = columns.materials.split(',');
    const prices = JSON.parse(columns.prices) as (number | null)[];
    const words = JSON.parse(columns.words) as (string | null | 0)[];
    // Lines of a step mostly follow each other; what they share is shared.
    let stepId = '';
    let mine: WalkedLine[] = [];
    for (let i = 0; i < steps.length; i += 1) {
      if (steps[i] !== stepId) {
        stepId = steps[i]!;
        const known = this.lines.get(stepId);
        mine = known ?? [];
        if (!known) this.lines.set(stepId, mine);
      }
      const given = parcels[i];
      const parcel = given ? this.parcel(given) : null;
      const direction = DIRECTIONS[columns.directions[i]!]!;
      const massMg = masses[i]!;
      const said = words[i] || null;
      const line: WalkedLine = {
        stepId,
        direction,
        parcelId: parcel && parcel.id,
        ingredientId: ingredients[i] || null,
        ingredient: direction === 'in' ? said : null,
        massMg,
        count: counts[i]!,
        material: (materials[i] || null) as Material | null,
        reason: direction === 'loss' ? said : null,
        pricePerKg: prices[i]!,
      };
      mine.push(line);
      if (!parcel || direction === 'loss') continue;
      parcel.unread += direction === 'out' ? massMg : -massMg;
      parcel.users.push(stepId);
    }
  }

  /** Notes what is on hand of some parcels. */
  keep({ ids, masses }: { ids: string | null; masses: string | null }): void {
    if (!ids || !masses) return;
    const left = masses.split(',');
    for (const [i, id] of ids.split(',').entries()) this.parcel(id).unread -= Number(left[i]);
  }
}

/** A step and the batch it belongs to. */
type Place = [stepId: string, batchId: string | null];

/**
 * Everything that hangs together with some seeds, one way and to any depth, along the ledger’s lines in force. Nearly all that one step makes
 * is used by another of the same batch or still on hand, so batches are read whole, by their index, and the way is walked here; the database
 * is asked again only for what went out of its batch. A mixed ledger of ten years takes a handful of questions.
 */
export async function walk(db: Db, seeds: WalkSeeds, way: 'forward' | 'back'): Promise<Walked> {
  const pages = new Pages();
  const reached = new Set<string>();
  const batches = new Set<string>();
  const lone = new Set<string>();
  const asked = new Set<string>();
  let places = await placesOf(db, seeds);
  while (places.length > 0) {
    const [newBatches, newLone] = [new Set<string>(), new Set<string>()];
    for (const [stepId, batchId] of places)
      if (batchId === null) {
        if (!lone.has(stepId)) newLone.add(stepId);
      } else if (!batches.has(batchId)) newBatches.add(batchId);
    pages.add(await linesIn(db, sql.raw('m.batch_id'), newBatches));
    pages.add(await linesIn(db, sql.raw('m.step_id'), newLone));
    if (way === 'forward' && newBatches.size > 0) pages.keep(await onHand(db, newBatches));
    for (const id of newBatches) batches.add(id);
    for (const id of newLone) lone.add(id);
    const outside = new Set<string>();
    const open = places.map(([id]) => id);
    const reach = (id: string) => {
      if (!reached.has(id)) open.push(id);
    };
    for (let id = open.pop(); id !== undefined; id = open.pop()) {
      if (reached.has(id)) continue;
      reached.add(id);
      for (const { parcelId, direction } of pages.lines.get(id) ?? []) {
        if (!parcelId) continue;
        if (way === 'forward') {
          if (direction !== 'out') continue;
          const { users, unread } = pages.parcels.get(parcelId)!;
          users.forEach(reach);
          if (unread !== 0 && !asked.has(parcelId)) outside.add(parcelId);
        } else if (direction === 'in' && !asked.has(parcelId)) outside.add(parcelId);
      }
    }
    for (const id of outside) asked.add(id);
    places = (await (way === 'forward' ? usersOf(db, outside) : makersOf(db, outside))).filter(
      ([id]) => !reached.has(id),
    );
  }
  const lines = new Map([...reached].map((id) => [id, pages.lines.get(id) ?? []]));
  return { lines, batchIds: [...batches], loneStepIds: [...lone] };
}

async function linesIn(db: Db, column: SQL, ids: ReadonlySet<string>): Promise<Columns | null> {
  if (ids.size === 0) return null;
  // Held to the index: the planner cannot know how far a walk will go, and would rather read all of the ledger each time.
  const [found] = rowsOf<Columns>(
    await db.execute(sql`
      select ${COLUMNS} from ${idsIn(ids)} as u(id) cross join lateral (
        select * from movement m where ${column} = u.id and m.replaced_by is null and not m.voided offset 0) m`),
  );
  return found ?? null;
}

/** What is left of everything some batches made. */
async function onHand(
  db: Db,
  batchIds: ReadonlySet<string>,
): Promise<{ ids: string | null; masses: string | null }> {
  const [found] = rowsOf<{ ids: string | null; masses: string | null }>(
    await db.execute(sql`
      select string_agg(p.id::text, ',') as ids, string_agg(p.remaining_mg::text, ',') as masses
      from ${idsIn(batchIds)} as u(id) cross join lateral (
        select p.id, p.remaining_mg from parcel p where p.batch_id = u.id and p.remaining_mg > 0 offset 0) p`),
  );
  return found!;
}

const placesIn = async (db: Db, query: SQL): Promise<Place[]> =>
  rowsOf<{ id: string; batch: string | null }>(await db.execute(query)).map(({ id, batch }) => [id, batch]);

/** Steps a walk sets out from: those named, those that made the parcels, and those that took the ingredients off the shelf. */
async function placesOf(
  db: Db,
  { parcelIds = [], stepIds = [], ingredientIds = [] }: WalkSeeds,
): Promise<Place[]> {
  const places: Place[] = [];
  if (parcelIds.length > 0) places.push(...(await makersOf(db, new Set(parcelIds))));
  if (stepIds.length > 0)
    places.push(
      ...(await placesIn(
        db,
        sql`select s.id, s.batch_id as batch from step s where s.id in ${idsIn(stepIds)} and not s.voided`,
      )),
    );
  if (ingredientIds.length > 0)
    places.push(
      ...(await placesIn(
        db,
        sql`select distinct m.step_id as id, m.batch_id as batch from movement m where m.ingredient_id in ${idsIn(ingredientIds)}
          and m.parcel_id is null and m.direction = 'in' and m.replaced_by is null and not m.voided`,
      )),
    );
  return places;
}

const makersOf = async (db: Db, parcelIds: ReadonlySet<string>): Promise<Place[]> =>
  parcelIds.size === 0
    ? []
    : placesIn(
        db,
        sql`select distinct s.id, s.batch_id as batch from ${idsIn(parcelIds)} as u(id) cross join lateral (
          select s.id, s.batch_id from parcel p join step s on s.id = p.step_id where p.id = u.id offset 0) s`,
      );

const usersOf = async (db: Db, parcelIds: ReadonlySet<string>): Promise<Place[]> =>
  parcelIds.size === 0
    ? []
    : placesIn(
        db,
        sql`select distinct m.step_id as id, m.batch_id as batch from ${idsIn(parcelIds)} as u(id) cross join lateral (
          select m.step_id, m.batch_id from movement m where m.parcel_id = u.id and m.direction <> 'loss'
            and m.replaced_by is null and not m.voided offset 0) m`,
      );
