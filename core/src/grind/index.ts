export * from './charge.ts';
export * from './defaults.ts';
export * from './forecast.ts';
export * from './hours.ts';
