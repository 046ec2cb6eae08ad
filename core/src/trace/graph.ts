import type { Direction, Material, Station, StepKind } from '../ledger/index.ts';

/** A parcel as a trace reads it. */
export interface TraceParcel {
  id: string;
  /** The step that made it, or brought it in. */
  stepId: string;
  material: Material;
  label: string;
  /** Lot it arrived as; null for what was made here. */
  lotId: string | null;
  lotCode: string | null;
  /** Delivery of an ingredient or of packaging it arrived as, and its name. */
  supplyName: string | null;
  batchId: string | null;
  batchCode: string | null;
  /** What is left of it, whole mg, and pieces where it is counted. */
  remainingMg: number;
  count: number | null;
  place: string;
  onHold: boolean;
}

/** A step as a trace reads it. */
export interface TraceStep {
  id: string;
  kind: StepKind;
  station: Station;
  isOpen: boolean;
  batchId: string | null;
  batchCode: string | null;
  machineId: string | null;
  machine: string | null;
  startedAt: string;
  endedAt: string | null;
  by: string;
  /** Where it went, of what left: a customer’s name or a word like `sold`. */
  destination: string | null;
  /** The customer, where it was delivered. */
  customerId: string | null;
}

/** A line in force. */
export interface TraceLine {
  stepId: string;
  direction: Direction;
  parcelId: string | null;
  ingredientId: string | null;
  ingredient: string | null;
  material: Material | null;
  /** Whole mg; below zero only for what was found by counting, or a balance that gave more than went in. */
  massMg: number;
  count: number | null;
  reason: string | null;
}

/** Parcels and steps that hang together, with every line in force of each step. */
export interface TraceGraph {
  parcels: ReadonlyMap<string, TraceParcel>;
  steps: ReadonlyMap<string, TraceStep>;
  /** Lines by step. */
  lines: ReadonlyMap<string, readonly TraceLine[]>;
}

/** Where a trace begins: parcels, whole steps (a batch, a run of a machine), or ingredients weighed in without a delivery. */
export interface TraceRoots {
  parcelIds?: readonly string[];
  stepIds?: readonly string[];
  ingredientIds?: readonly string[];
}
