export * from './advise.ts';
export * from './factors.ts';
export * from './model.ts';
