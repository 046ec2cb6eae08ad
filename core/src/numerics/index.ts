export * from './distributions.ts';
export * from './random.ts';
export * from './summary.ts';
