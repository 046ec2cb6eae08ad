export * from './defaults.ts';
export * from './heat.ts';
export * from './window.ts';
export * from './crystal.ts';
export * from './ensemble.ts';
export * from './bowl.ts';
export * from './follow.ts';
export * from './coolingCurve.ts';
