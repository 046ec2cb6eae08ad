export * from './bars.ts';
export * from './bestBefore.ts';
export * from './dewPoint.ts';
