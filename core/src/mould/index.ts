export * from './bars.ts';
export * from './bestBefore.ts';
export * from './dewPoint.ts';
export * from './fill.ts';
