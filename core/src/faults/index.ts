export * from './learn.ts';
export * from './odds.ts';
export * from './own.ts';
export * from './record.ts';
export * from './signs.ts';
export * from './table.ts';
export * from './tasted.ts';
