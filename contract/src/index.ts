export * from './access.ts';
export * from './beans.ts';
export * from './common.ts';
export * from './ledger.ts';
export * from './recipe.ts';
export * from './taste.ts';
export * from './views/index.ts';
export * from './workshop.ts';
