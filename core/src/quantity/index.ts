export * from './begin.ts';
export * from './day.ts';
export * from './format.ts';
export * from './money.ts';
export * from './number.ts';
export * from './parse.ts';
export * from './temperature.ts';
export * from './units.ts';
