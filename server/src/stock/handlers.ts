import type { Handler } from '../commands/command.ts';
import { stockCounted } from './counts.ts';
import { deliveryMake, deliveryReturn } from './deliveries.ts';
import { lookForgotten, lookKept } from './looks.ts';
import { parcelsHold, parcelsJoin, parcelsMove } from './moves.ts';
import { liquorPress } from './press.ts';
import { reorderSet } from './reorder.ts';

/** Kinds of entries about what lies where, and what goes to whom. */
export const stockHandlers: readonly Handler[] = [
  parcelsMove,
  parcelsJoin,
  parcelsHold,
  deliveryMake,
  deliveryReturn,
  stockCounted,
  liquorPress,
  reorderSet,
  lookKept,
  lookForgotten,
];
