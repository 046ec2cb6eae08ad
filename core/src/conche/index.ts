export * from './acid.ts';
export * from './defaults.ts';
export * from './liking.ts';
export * from './machine.ts';
