export * from './drag.ts';
export * from './follow.ts';
export * from './hours.ts';
export * from './jobShop.ts';
export * from './needs.ts';
export * from './nextAction.ts';
export * from './planWorkshop.ts';
export * from './project.ts';
export * from './promise.ts';
/** A step that lies elsewhere than in the plan before. */
export type { Move } from './moves.ts';
export * from './repair.ts';
export * from './room.ts';
export * from './solve.ts';
export * from './times.ts';
export * from './verify.ts';
export * from './whatIf.ts';
export * from './workshop.ts';
export * from './skills.ts';
