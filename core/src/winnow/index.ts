export * from './check.ts';
export * from './defaults.ts';
export * from './fit.ts';
export * from './options.ts';
export * from './separation.ts';
export * from './terminalVelocity.ts';
