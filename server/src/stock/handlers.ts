import type { Handler } from '../commands/command.ts';
import { stockCounted } from './counts.ts';
import { deliveryMake, deliveryReturn } from './deliveries.ts';
import { parcelsHold, parcelsJoin, parcelsMove } from './moves.ts';

/** Kinds of entries about what lies where, and what goes to whom. */
export const stockHandlers: readonly Handler[] = [
  parcelsMove,
  parcelsJoin,
  parcelsHold,
  deliveryMake,
  deliveryReturn,
  stockCounted,
];
