export * from './bowl.ts';
export * from './roast.ts';
export * from './score.ts';
