export * from './nextAction.ts';
