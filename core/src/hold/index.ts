export * from './defaults.ts';
export * from './slab.ts';
export * from './stack.ts';
export * from './traps.ts';
