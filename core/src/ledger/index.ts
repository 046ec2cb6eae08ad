export * from './controlChart.ts';
export * from './defaults.ts';
export * from './disagreement.ts';
export * from './flow.ts';
export * from './movement.ts';
export * from './reconcile.ts';
export * from './stations.ts';
export * from './yields.ts';
