export * from './defaults.ts';
export * from './heat.ts';
export * from './window.ts';
