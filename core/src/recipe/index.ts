export * from './adjust.ts';
export * from './composition.ts';
export * from './figures.ts';
