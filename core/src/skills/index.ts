export * from './defaults.ts';
export * from './ready.ts';
export * from './runs.ts';
export * from './skill.ts';
