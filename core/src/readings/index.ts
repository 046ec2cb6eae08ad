export * from './parse.ts';
export * from './thin.ts';
