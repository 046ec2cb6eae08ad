export * from './believable.ts';
export * from './parse.ts';
export * from './thin.ts';
