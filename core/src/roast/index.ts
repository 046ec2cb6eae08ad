export * from './dose.ts';
export * from './plan.ts';
