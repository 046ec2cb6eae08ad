export * from './dry.ts';
export * from './ferment.ts';
