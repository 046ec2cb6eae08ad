export * from './calendar.ts';
export * from './hours.ts';
export * from './kept.ts';
export * from './orders.ts';
export * from './room.ts';
