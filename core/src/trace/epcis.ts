import type { StepKind } from '../ledger/index.ts';

/** Where the words of EPCIS 2.0 are defined (GS1, ISO/IEC 19987:2024). */
export const EPCIS_CONTEXT = 'https://ref.gs1.org/standards/epcis/2.0.0/epcis-context.jsonld';

/** A movement as an event needs it. */
export interface EpcisLine {
  direction: 'in' | 'out' | 'loss';
  /** Whole mg. */
  massMg: number;
  count: number | null;
  material: string | null;
  label: string | null;
  reason: string | null;
  parcelId: string | null;
  /** Ingredient off the shelf, where it came from no parcel. */
  ingredientId: string | null;
}

/** A closed step as an event needs it. */
export interface EpcisStep {
  id: string;
  kind: StepKind;
  station: string;
  /** Instant it ended. */
  at: string;
  /** Instant it was written down. */
  recordedAt: string;
  batchCode: string | null;
  by: string;
  /** Who it went to, where it left to a customer. */
  customer: string | null;
  lines: readonly EpcisLine[];
}

interface QuantityElement {
  epcClass: string;
  quantity: number;
  uom?: 'GRM';
}

/** An event of EPCIS 2.0. */
export interface EpcisEvent {
  type: 'ObjectEvent' | 'TransformationEvent';
  eventID: string;
  eventTime: string;
  recordTime: string;
  eventTimeZoneOffset: '+00:00';
  [name: string]: unknown;
}

const urn = (id: string) => `urn:uuid:${id}`;

/** What a line is of, as a class of things: a parcel, or an ingredient of the shelf. */
const classOf = (line: EpcisLine): string | null =>
  line.parcelId ? urn(line.parcelId) : line.ingredientId ? urn(line.ingredientId) : null;

/** Pieces are counted, everything else is in grams. */
function quantityOf(line: EpcisLine): QuantityElement[] {
  const epcClass = classOf(line);
  if (epcClass === null) return [];
  return line.count !== null
    ? [{ epcClass, quantity: line.count }]
    : [{ epcClass, quantity: line.massMg / 1000, uom: 'GRM' }];
}

const quantities = (lines: readonly EpcisLine[], direction: EpcisLine['direction']): QuantityElement[] =>
  lines.filter((l) => l.direction === direction && l.massMg > 0).flatMap(quantityOf);

/** What is done at each kind of work, in words of the core business vocabulary. */
const BIZ_STEPS: Partial<Record<StepKind, string>> = {
  receive: 'receiving',
  wrap: 'packing',
  leave: 'shipping',
  'write-off': 'destroying',
  count: 'cycle_counting',
  sort: 'inspecting',
};

/**
 * A closed step as an event of EPCIS 2.0: what turned into something else is a transformation, what arrived, left or was written off is
 * observed. Its time is when it ended; masses are in grams, pieces are counted.
 *
 * @returns null where nothing with an identity moved
 */
export function epcisEvent(step: EpcisStep): EpcisEvent | null {
  const ins = quantities(step.lines, 'in');
  const outs = quantities(step.lines, 'out');
  const head = {
    eventID: urn(step.id),
    eventTime: step.at,
    recordTime: step.recordedAt,
    eventTimeZoneOffset: '+00:00' as const,
  };
  const own = {
    bizStep: BIZ_STEPS[step.kind] ?? 'creating_class_instance',
    readPoint: { id: `urn:wunsch:station:${step.station}` },
    'wunsch:kind': step.kind,
    ...(step.batchCode && { 'wunsch:batch': step.batchCode }),
    ...(step.by && { 'wunsch:by': step.by }),
    ...lossesOf(step.lines),
  };
  if (ins.length > 0 && outs.length > 0)
    return { type: 'TransformationEvent', ...head, ...own, inputQuantityList: ins, outputQuantityList: outs };
  const moved = ins.length > 0 ? ins : outs;
  if (moved.length === 0) return null;
  return {
    type: 'ObjectEvent',
    ...head,
    ...own,
    action: step.kind === 'receive' ? 'ADD' : ins.length > 0 && step.kind !== 'leave' ? 'DELETE' : 'OBSERVE',
    disposition:
      step.kind === 'leave' ? 'in_transit' : step.kind === 'write-off' ? 'destroyed' : 'in_progress',
    quantityList: moved,
    ...(step.customer && {
      destinationList: [
        { type: 'possessing_party', destination: `urn:wunsch:customer:${encodeURIComponent(step.customer)}` },
      ],
    }),
  };
}

/** Losses have no identity of their own; they stand beside, by name, in grams. */
function lossesOf(lines: readonly EpcisLine[]): Record<string, unknown> {
  const losses = lines.filter((l) => l.direction === 'loss');
  if (losses.length === 0) return {};
  return {
    'wunsch:losses': losses.map((l) => ({
      'wunsch:reason': l.reason ?? 'unexplained',
      'wunsch:grams': l.massMg / 1000,
    })),
  };
}

/** The head of a document, up to its list of events, and its end; events go between them, parted by commas. */
export function epcisFrame(creationDate: string): { head: string; tail: string } {
  const document = {
    '@context': [EPCIS_CONTEXT, { wunsch: 'urn:wunsch:' }],
    type: 'EPCISDocument',
    schemaVersion: '2.0',
    creationDate,
  };
  return { head: `${JSON.stringify(document).slice(0, -1)},"epcisBody":{"eventList":[`, tail: ']}}' };
}
