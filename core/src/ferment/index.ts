export * from './charge.ts';
export * from './dry.ts';
export * from './ferment.ts';
export * from './followed.ts';
export * from './juice.ts';
export * from './mouldSeen.ts';
