/** Most rows of one table taken over together. */
export const MOST_ROWS = 1000;

/** What old tables can be of. */
export const TABLE_KINDS = ['lots', 'batches', 'sales', 'tastings'] as const;

/** One of {@link TABLE_KINDS}. */
export type TableKind = (typeof TABLE_KINDS)[number];

/** How a column's cells are read. Masses become whole mg, money minor units, scores 0–10, days ISO dates. */
export type FieldType = 'text' | 'mass' | 'money' | 'day' | 'count' | 'percent' | 'score';

/** One thing a row can say. */
export interface Field {
  id: string;
  type: FieldType;
  required: boolean;
  /** Headings it usually stands under, in both languages, in small letters and without units. */
  headings: readonly string[];
  /** Of a day: it may still be to come. */
  ahead?: true;
}

const field = (id: string, type: FieldType, headings: string, required = false): Field => ({
  id,
  type,
  required,
  headings: headings.split('|'),
});

/** Every field of every table, in the order a row is shown. */
export const FIELDS: Readonly<Record<TableKind, readonly Field[]>> = {
  lots: [
    field('code', 'text', 'code|lot|lot code|lot no|id|partie|partie nr|kürzel|los|charge', true),
    field('name', 'text', 'name|origin|beans|bean|bezeichnung|herkunft|sorte|bohnen|bohne', true),
    field('country', 'text', 'country|land'),
    field('region', 'text', 'region|gebiet|provinz|province'),
    field(
      'grower',
      'text',
      'grower|farm|farmer|producer|cooperative|erzeuger|bauer|farmname|produzent|kooperative',
    ),
    field('variety', 'text', 'variety|cultivar|varietät|genetik|genetics'),
    field('harvest', 'text', 'harvest|crop|crop year|ernte|erntejahr'),
    field(
      'receivedOn',
      'day',
      'received|date|arrived|arrival|received on|datum|eingang|wareneingang|erhalten|bought|gekauft',
      true,
    ),
    field('massMg', 'mass', 'weight|mass|amount|quantity|qty|arrived|gewicht|menge|masse|eingang', true),
    field(
      'pricePerKg',
      'money',
      'price|price per kg|price a kg|cost|preis|preis je kg|preis pro kg|kosten|kilopreis',
    ),
    field('moisture', 'percent', 'moisture|water|humidity|feuchte|feuchtigkeit|wasser|wassergehalt'),
    field('place', 'text', 'place|shelf|store|lager|lagerplatz|platz|regal|ort'),
    field(
      'notes',
      'text',
      'notes|note|remarks|comment|comments|notiz|notizen|bemerkung|bemerkungen|anmerkung',
    ),
  ],
  batches: [
    field(
      'code',
      'text',
      'batch|code|batch code|batch no|batch number|id|charge|charge nr|chargennummer|ansatz',
      true,
    ),
    field('lot', 'text', 'lot|lot code|beans|bean|origin|partie|bohnen|bohne|herkunft|los', true),
    field('startedOn', 'day', 'date|started|day|roasted on|datum|begonnen|tag|röstdatum|start', true),
    field(
      'beansMg',
      'mass',
      'beans in|raw beans|green weight|beans weight|raw|bean weight|rohbohnen|bohnen roh|rohgewicht|einwaage|bohnen',
      true,
    ),
    field(
      'roastedMg',
      'mass',
      'roasted|roasted beans|after roast|roasted weight|geröstet|nach dem rösten|röstgewicht|nach rösten',
    ),
    field(
      'nibsMg',
      'mass',
      'nibs|nib|nib weight|after winnowing|bruch|kakaobruch|nach dem windsichten|nibgewicht',
    ),
    field('sugarMg', 'mass', 'sugar|cane sugar|zucker|rohrzucker'),
    field('butterMg', 'mass', 'butter|cocoa butter|added butter|kakaobutter'),
    field(
      'chocolateMg',
      'mass',
      'chocolate|chocolate out|yield|total out|schokolade|masse|schokolade ab mühle|ausbeute',
    ),
    field('bars', 'count', 'bars|bar count|number of bars|pieces|pcs|tafeln|anzahl|anzahl tafeln|stück|stk'),
    field(
      'barMg',
      'mass',
      'bar weight|weight per bar|bar|bar size|tafelgewicht|gewicht je tafel|tafel|tafelgröße',
    ),
    {
      ...field(
        'bestBefore',
        'day',
        'best before|best by|keeps until|expiry|bbe|mhd|haltbar bis|mindestens haltbar bis|mindesthaltbarkeit|haltbarkeit',
      ),
      ahead: true,
    },
    field(
      'note',
      'text',
      'notes|note|remarks|comment|comments|notiz|notizen|bemerkung|bemerkungen|anmerkung',
    ),
  ],
  sales: [
    field('on', 'day', 'date|sold|day|sold on|delivered|datum|verkauft|tag|geliefert|lieferdatum', true),
    field('batch', 'text', 'batch|batch code|batch no|code|lot|charge|chargennummer|ansatz', true),
    field(
      'customer',
      'text',
      'customer|client|sold to|buyer|shop|kunde|käufer|verkauft an|laden|abnehmer',
      true,
    ),
    field('bars', 'count', 'bars|pieces|pcs|quantity|qty|sold|number|tafeln|stück|stk|anzahl|menge', true),
    field(
      'price',
      'money',
      'price|price each|unit price|price per bar|preis|einzelpreis|stückpreis|preis je tafel',
    ),
  ],
  tastings: [
    field('on', 'day', 'date|tasted|day|tasted on|datum|verkostet|tag', true),
    field('batch', 'text', 'batch|batch code|sample|code|bar|charge|probe|tafel|ansatz', true),
    field('taster', 'text', 'taster|who|name|by|person|verkoster|wer|prüfer|von'),
    field(
      'liking',
      'score',
      'liking|score|overall|rating|points|gefallen|note|punkte|gesamt|bewertung|gesamteindruck',
      true,
    ),
    field('grit', 'score', 'grit|texture|coarseness|körnung|sandig|griesig|textur'),
    field(
      'words',
      'text',
      'notes|words|comment|comments|flavour|flavor|remarks|notizen|worte|bemerkung|bemerkungen|aromen|geschmack',
    ),
  ],
};

/** A field of a table. @throws RangeError for one it does not have */
export function fieldOf(kind: TableKind, id: string): Field {
  const found = FIELDS[kind].find((f) => f.id === id);
  if (!found)
    throw new RangeError(
      `a table of ${kind} has no field ${id}; it has ${FIELDS[kind].map((f) => f.id).join(', ')}`,
    );
  return found;
}
