export * from './access.ts';
export * from './beans.ts';
export * from './ledger.ts';
export * from './recipe.ts';
export * from './roast.ts';
export * from './taste.ts';
export * from './trail.ts';
export * from './workshop.ts';
