import { sql, type SQL } from 'drizzle-orm';
import { instantOf } from '../db/raw.ts';
import { shelfLeft } from '../stations/recipe/index.ts';

/** A table as it goes out: one row one thing, units in the heading. */
export interface Table {
  /** What is selected from, with `t` as the table its `key` is of. */
  from: SQL;
  /** Column rows are told apart and put in order by. */
  key: 'id' | 'step_id' | 'seq' | 'part';
  /** Heading and expression of each column; `¤` stands for the workshop’s currency, and what is under it is in minor units. */
  columns: readonly (readonly [heading: string, value: SQL])[];
}

const of = (text: string) => sql.raw(text);
const grams = (column: string) => of(`${column}::float8 / 1000`);

/** Every table that can be taken away, by name. What is still blind (sessions and trials before their opening) is not among them. */
export const TABLES = {
  lots: {
    from: of('lot t left join parcel p on p.id = t.parcel_id'),
    key: 'id',
    columns: [
      ['id', of('t.id')],
      ['code', of('t.code')],
      ['name', of('t.name')],
      ['material', of('t.material')],
      ['country', of('t.country')],
      ['region', of('t.region')],
      ['grower', of('t.grower')],
      ['variety', of('t.variety')],
      ['harvest', of('t.harvest')],
      ['received', of('t.received_on::text')],
      ['arrived (g)', grams('t.arrived_mg')],
      ['left (g)', grams('p.remaining_mg')],
      ['price a kg (¤)', of('t.price_per_kg')],
      ['freight (¤)', of('t.freight')],
      ['moisture (%)', of('t.moisture')],
      ['place', of('p.place')],
      ['on hold', of('t.on_hold')],
      ['hold reason', of('t.hold_reason')],
      ['voided', of('t.voided')],
    ],
  },
  cases: {
    from: of('fault_case t left join batch b on b.id = t.batch_id'),
    key: 'id',
    columns: [
      ['id', of('t.id')],
      ['number', of('t.number')],
      ['opened', instantOf('t.at')],
      ['from', of('t.origin')],
      ['code', of("t.facts ->> 'code'")],
      ['batch', of('b.code')],
      ['signs', of("(t.facts -> 'signs')::text")],
      ['text', of("t.facts ->> 'text'")],
      ['kept', of("t.facts ->> 'kept'")],
      ['closed', instantOf('t.closed_at')],
      ['cause', of("t.closing ->> 'cause'")],
      ['action', of("t.closing ->> 'action'")],
      ['by', of('t.by')],
      ['voided', of('t.voided')],
    ],
  },
  batches: {
    from: of('batch t join lot l on l.id = t.lot_id left join recipe r on r.id = t.recipe_id'),
    key: 'id',
    columns: [
      ['id', of('t.id')],
      ['code', of('t.code')],
      ['lot', of('l.code')],
      ['recipe', of('r.name')],
      ['state', of('t.state')],
      ['state reason', of('t.state_reason')],
      ['started', instantOf('t.started_at')],
      ['bar (g)', grams('t.bar_mg')],
      ['by', of('t.by')],
    ],
  },
  steps: {
    from: of('step t left join batch b on b.id = t.batch_id left join machine a on a.id = t.machine_id'),
    key: 'id',
    columns: [
      ['id', of('t.id')],
      ['batch', of('b.code')],
      ['kind', of('t.kind')],
      ['station', of('t.station')],
      ['machine', of('a.name')],
      ['started', instantOf('t.started_at')],
      ['ended', instantOf('t.ended_at')],
      ['hands on (min)', of('t.hands_on_minutes')],
      ['details', of('t.details::text')],
      ['by', of('t.by')],
      ['voided', of('t.voided')],
    ],
  },
  movements: {
    from: of('movement t join step s on s.id = t.step_id left join batch b on b.id = t.batch_id'),
    key: 'id',
    columns: [
      ['id', of('t.id')],
      ['at', instantOf('t.at')],
      ['batch', of('b.code')],
      ['step', of('t.step_id')],
      ['kind of step', of('s.kind')],
      ['direction', of('t.direction')],
      ['material', of('t.material')],
      ['label', of('t.label')],
      ['mass (g)', grams('t.mass_mg')],
      ['pieces', of('t.count')],
      ['came about', of('t.source')],
      ['standard uncertainty (g)', grams('t.u_mg')],
      ['reason', of('t.reason')],
      ['parcel', of('t.parcel_id')],
      ['price a kg (¤)', of('t.price_per_kg')],
      ['note', of('t.note')],
      ['by', of('t.by')],
      ['in force', of('t.replaced_by is null and not t.voided')],
      ['corrects', of('t.replaces')],
      ['correction reason', of('t.correction_reason')],
    ],
  },
  stock: {
    from: of(
      'parcel t left join batch b on b.id = t.batch_id left join lot l on l.id = t.lot_id left join recipe r on r.id = b.recipe_id',
    ),
    key: 'id',
    columns: [
      ['id', of('t.id')],
      ['material', of('t.material')],
      ['label', of('t.label')],
      ['batch', of('b.code')],
      ['lot', of('l.code')],
      ['recipe', of('r.name')],
      ['made', instantOf('t.made_at')],
      ['left (g)', grams('t.remaining_mg')],
      ['pieces', of('t.count')],
      ['place', of('t.place')],
      ['on hold', of('t.on_hold')],
      ['hold reason', of('t.hold_reason')],
    ],
  },
  deliveries: {
    from: of(
      `delivery_line t join delivery d on d.id = t.delivery_id join customer c on c.id = d.customer_id
       join parcel p on p.id = t.parcel_id left join batch b on b.id = p.batch_id left join recipe r on r.id = b.recipe_id
       left join lateral (select sum(m.mass_mg) as mg, sum(m.count) as n from movement m where m.step_id = t.step_id
         and m.direction = 'loss' and m.replaced_by is null and not m.voided) x on true`,
    ),
    key: 'step_id',
    columns: [
      ['line', of('t.step_id')],
      ['delivery', of('d.number')],
      ['at', instantOf('d.at')],
      ['customer', of('c.name')],
      ['channel', of('c.channel')],
      ['batch', of('b.code')],
      ['recipe', of('r.name')],
      ['material', of('p.material')],
      ['mass (g)', grams('x.mg')],
      ['pieces', of('x.n')],
      ['price each or a kg (¤)', of('t.price')],
      ['note', of('d.note')],
      ['by', of('d.by')],
      ['taken back', of('d.voided')],
    ],
  },
  supplies: {
    from: of('supply t left join parcel p on p.id = t.parcel_id'),
    key: 'id',
    columns: [
      ['id', of('t.id')],
      ['name', of('t.name')],
      ['supplier', of('t.supplier')],
      ['supplier lot', of('t.supplier_lot')],
      ['received', of('t.received_on::text')],
      ['best before', of('t.best_before::text')],
      ['arrived (g)', grams('t.arrived_mg')],
      ['left (g)', grams('p.remaining_mg')],
      ['arrived pieces', of('t.arrived_count')],
      ['left pieces', of('p.count')],
      ['price a kg (¤)', of('t.price_per_kg')],
      ['place', of('p.place')],
    ],
  },
  ingredients: {
    from: of('ingredient t'),
    key: 'id',
    columns: [
      ['id', of('t.id')],
      ['name', of('t.name')],
      ['counts as cacao', of('t.cacao')],
      ['price a kg (¤)', of('t.price_per_kg')],
      ['allergens', of('t.allergens::text')],
      ['flavour clings', of('t.strong')],
      ['in 100 g (g)', of('t.composition::text')],
      ['per 100 g (g)', of('t.nutrition::text')],
      ['scooped (g/mL)', of('t.density_g_per_ml')],
      ['crystals (µm)', of('t.crystal_um')],
      ['on the shelf (g)', sql`${shelfLeft('t')}::float8 / 1000`],
      ['on labels', of('t.label_names::text')],
    ],
  },
  recipes: {
    from: of(
      `(select (r.id::text || '-' || l.n) as part, r.id, r.name, r.number, r.kind, r.beans_share, r.aim_um, r.tempered, r.conched,
          r.follows, l.line from recipe r cross join lateral jsonb_array_elements(r.lines) with ordinality l(line, n)) t
       left join ingredient i on i.id = (t.line ->> 'ingredientId')::uuid`,
    ),
    key: 'part',
    columns: [
      ['line', of('t.part')],
      ['recipe', of('t.id')],
      ['name', of('t.name')],
      ['version', of('t.number')],
      ['kind', of('t.kind')],
      ['ingredient', of('i.name')],
      ['mass (g)', of("(t.line ->> 'massMg')::float8 / 1000")],
      ['nibs and liquor in all (%)', of('t.beans_share')],
      ['grit aim (µm)', of('t.aim_um')],
      ['tempered', of('t.tempered')],
      ['conched', of('t.conched')],
      ['follows recipe', of('t.follows')],
    ],
  },
  pickings: {
    from: of('picking t left join lot l on l.id = t.lot_id'),
    key: 'id',
    columns: [
      ['id', of('t.id')],
      ['picked', of('t.picked_on::text')],
      ['plot', of('t.plot')],
      ['trees', of('t.trees')],
      ['pods', of('t.pods')],
      ['wet beans (g)', grams('t.wet_mg')],
      ['paid (¤)', of('t.paid')],
      ['bought from', of('t.bought_from')],
      ['taken in as', of('l.code')],
      ['note', of('t.note')],
      ['by', of('t.by')],
      ['voided', of('t.voided')],
    ],
  },
  customers: {
    from: of('customer t'),
    key: 'id',
    columns: [
      ['id', of('t.id')],
      ['name', of('t.name')],
      ['channel', of('t.channel')],
      ['note', of('t.note')],
      ['voided', of('t.voided')],
    ],
  },
  orders: {
    from: of(
      `(select l ->> 'id' as part, o.facts, o.state, o.created_at, l as line from customer_order o
          cross join lateral jsonb_array_elements(o.facts -> 'lines') l) t
       left join customer c on c.id = (t.facts ->> 'customerId')::uuid
       left join recipe r on r.id = (t.line ->> 'recipeId')::uuid
       left join lot l on l.id = (t.line ->> 'lotId')::uuid`,
    ),
    key: 'part',
    columns: [
      ['line', of('t.part')],
      ['order', of("(t.facts ->> 'number')::int")],
      ['kind', of("t.facts ->> 'kind'")],
      ['customer', of('c.name')],
      ['title', of("t.facts ->> 'title'")],
      ['due', of("t.facts ->> 'due'")],
      ['recipe', of('r.name')],
      ['lot', of('l.code')],
      ['bars', of("(t.line ->> 'bars')::float8")],
      ['price each (¤)', of("(t.line ->> 'price')::float8")],
      ['state', of('t.state')],
      ['made', instantOf('t.created_at')],
    ],
  },
  machines: {
    from: of('machine t'),
    key: 'id',
    columns: [
      ['id', of('t.id')],
      ['name', of('t.name')],
      ['station', of('t.station')],
      ['kind', of('t.kind')],
      ['least charge (g)', grams('t.min_mg')],
      ['greatest charge (g)', grams('t.max_mg')],
      ['price (¤)', of('t.price')],
      ['resale (¤)', of('t.resale')],
      ['life (kg)', of('t.life_kg')],
      ['power (W)', of('t.watts')],
      ['loud', of('t.loud')],
      ['service every (h)', of('t.service_hours')],
      ['places', of('t.places')],
      ['in use', of('t.active')],
    ],
  },
  'machine-log': {
    from: of('machine_event t join machine a on a.id = t.machine_id'),
    key: 'id',
    columns: [
      ['id', of('t.id')],
      ['at', instantOf('t.at')],
      ['machine', of('a.name')],
      ['what', of('t.kind')],
      ['note', of('t.note')],
      ['by', of('t.by')],
      ['voided', of('t.voided')],
    ],
  },
  observations: {
    from: of('observation t left join batch b on b.id = t.batch_id left join lot l on l.id = t.lot_id'),
    key: 'id',
    columns: [
      ['id', of('t.id')],
      ['at', instantOf('t.at')],
      ['batch', of('b.code')],
      ['lot', of('l.code')],
      ['step', of('t.step_id')],
      ['kind', of('t.kind')],
      ['data', of('t.data::text')],
      ['by', of('t.by')],
      ['in force', of('t.replaced_by is null and not t.voided')],
    ],
  },
  tastings: {
    from: of('tasting t join batch b on b.id = t.batch_id'),
    key: 'id',
    columns: [
      ['id', of('t.id')],
      ['at', instantOf('t.at')],
      ['batch', of('b.code')],
      ['by', of('t.by')],
      ['card', of('t.card::text')],
      ['voided', of('t.voided')],
    ],
  },
  trail: {
    from: of('trail t left join batch b on b.id = t.batch_id'),
    key: 'seq',
    columns: [
      ['entry', of('t.seq')],
      ['at', instantOf('t.at')],
      ['by', of('t.by')],
      ['kind', of('t.kind')],
      ['batch', of('b.code')],
      ['taken back by entry', of('t.undone_by')],
    ],
  },
} as const satisfies Record<string, Table>;

/** A table that can be taken away. */
export type TableName = keyof typeof TABLES;
