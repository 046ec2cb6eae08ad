export * from './dry.ts';
export * from './ferment.ts';
export * from './mouldSeen.ts';
