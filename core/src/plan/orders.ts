import type { PlanOrderLine } from './room.ts';

/** What a line belongs to: its order, or itself where it is wanted for the shelf. */
export const orderOf = (line: PlanOrderLine): string => (line.kind === 'stock' ? line.id : line.orderId);

/** What an order is called together with what is made to spare for it: of the project’s orders, one of the maker’s has up to two. */
export const spareOf = (orderId: string): string => `${orderId}:spare`;

/** Whether one of the project’s orders is an order together with what is made to spare for it. */
export const isSpare = (id: string): boolean => id.endsWith(':spare');
