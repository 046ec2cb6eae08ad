export * from './bar.ts';
export * from './batch.ts';
export * from './flow.ts';
export * from './cost.ts';
export * from './unpriced.ts';
