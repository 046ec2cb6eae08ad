export * from './coverage.ts';
export * from './warned.ts';
