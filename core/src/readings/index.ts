export * from './believable.ts';
export * from './parse.ts';
export * from './thin.ts';
export { TIME_UNITS, type TimeUnit } from './times.ts';
